import { Problem } from "../problem/index.ts";
import { type Analysis, settledOf, temperatureOf } from "../soak/index.ts";

/** Where a card ran: what stands around it decides which air it draws. */
export type Case = "open-bench" | "panel-off" | "panel-on";

const CASE_OF = {
  "open bench": "open-bench",
  "panel off": "panel-off",
  "panel on": "panel-on",
  unknown: null,
} as const satisfies Record<string, Case | null>;
/** As a person says it of a run. */
export type SidePanel = keyof typeof CASE_OF;
export const SIDE_PANELS = Object.keys(CASE_OF) as SidePanel[];
export const CASES: readonly Case[] = SIDE_PANELS.flatMap((one) => CASE_OF[one] ?? []);
/** How a person says a case. */
export const caseWords = (text: string): string => SIDE_PANELS.find((one) => CASE_OF[one] === text) ?? text;
export const caseOf = (sidePanel: SidePanel): Case | null => CASE_OF[sidePanel];

/** What a run was made in and under that its log does not say; null or left out where nobody said. */
export interface Setting {
  case?: Case | null | undefined;
  /** What loaded the card, in a person’s words. */
  loadName?: string | null | undefined;
  /** Air measured at the card’s own intake under load, °C. */
  inletC?: number | null | undefined;
}

/** Names of a load that differ in letter case and blanks only are one. */
export const loadKey = (name: string | null | undefined): string =>
  (name ?? "").trim().replace(/\s+/g, " ").toLocaleLowerCase("en");

/** Whether both sides say it and differ; a side that says nothing is taken as like the other. */
export const isOtherLoad = (before: Setting, after: Setting): boolean => {
  const [was, is] = [loadKey(before.loadName), loadKey(after.loadName)];
  return was !== "" && is !== "" && was !== is;
};

export const isOtherCase = (before: Setting, after: Setting): boolean =>
  before.case != null && after.case != null && before.case !== after.case;

/** The air at the intake of both runs, °C; undefined where one of them was not measured. */
export const inletsOf = (before: Setting, after: Setting): readonly [number, number] | undefined =>
  before.inletC != null && after.inletC != null ? [before.inletC, after.inletC] : undefined;

const ANY_ROOM = { valueC: 0, u95K: 0, source: "option" } as const;

/**
 * The air that is drawn in cools the card, so no sensor of its die can settle below.
 * @returns where the coolest of them settles, °C, if the air is as warm as that; else undefined
 */
export function tooWarmFor(run: Analysis, { inletC }: Setting): number | undefined {
  const settlesC = (["edge", "hotspot"] as const).flatMap(
    (role) => settledOf(temperatureOf(run, role), ANY_ROOM)?.atC ?? [],
  );
  const leastC = Math.min(...settlesC);
  return inletC != null && inletC >= leastC ? leastC : undefined;
}

/** @throws Problem `intake-too-warm` */
export function checkIntake(run: Analysis, setting: Setting): void {
  const leastC = tooWarmFor(run, setting);
  if (leastC === undefined) return;
  throw new Problem({
    code: "intake-too-warm",
    what: `The air at the intake, ${setting.inletC} °C, is as warm as the card under load (${leastC.toFixed(1)} °C).`,
    remedy: "Measure the air that the fans draw in, beside the card and away from what it blows out, in °C.",
  });
}
