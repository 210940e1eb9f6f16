import { useMemo } from "react";
import { type MaterialKind, type ServiceView, USUAL_SETTINGS } from "#contract";
import { EMPTY_MAP } from "#core/boardmap/index.ts";
import type { BowField } from "#core/contact/index.ts";
import {
  allFound,
  type CloseUpInput,
  COMPOUND,
  type CompoundOn,
  closeUpFault,
  closeUpSteps,
  cureClocks,
  dryingClocks,
  foldMarks,
  type HandStep,
  isDone,
  readCompoundPlan,
  STEP,
  type StepMark,
  stripFound,
  valueOf,
} from "#core/handwork/index.ts";
import { imprintFound, readImprint } from "#core/imprint/index.ts";
import { placesOf } from "#core/padplan/index.ts";
import { api } from "../../app/api.ts";
import { useNow } from "../../app/use-now.ts";
import { otherOf, padJobWith, useFitted } from "../../parts/cooler/fitted.ts";
import { padWorkOf } from "../../parts/pads/pad-work.ts";
import { type MadeMark, useMarks } from "../../parts/steps/use-marks.ts";
import { planMark, useTurns } from "../../parts/steps/use-turns.ts";
import { useJudgement, usePadSession } from "../../workers/use-pad-session.ts";

/** Everything of closing a card: what came out, the pads it closes over, what the contact says, the steps that follow. */
export function useCloseUp(service: ServiceView, isLooking: boolean) {
  const { data: ownJob, error } = api.usePadsQuery(service.id);
  const { ready: fitReady, fitted } = useFitted(service.id);
  const job = useMemo(() => ownJob && padJobWith(ownJob, fitted), [ownJob, fitted]);
  const { data: stores } = api.useStoresQuery();
  const { data: uses } = api.useUsesQuery(service.id);
  const attempt = service.attempts.length;
  const marks = useMarks(service.id, "closeUp", attempt, isLooking);
  const map = job?.map ?? EMPTY_MAP;
  const ownMap = ownJob?.map ?? EMPTY_MAP;
  const stripMarks = marks.of("strip", attempt);
  const stripped = useMemo(() => foldMarks(stripMarks), [stripMarks]);
  const stripBegun = stripMarks.length > 0;
  const found = useMemo(
    () => (stripBegun ? stripFound(ownMap, stripped) : allFound(ownMap)),
    [ownMap, stripped, stripBegun],
  );
  const remote = usePadSession();
  const cleaned = marks.of("clean", attempt);
  const pasted = marks.of("compound", attempt);
  const cleanFolded = foldMarks(cleaned);
  const nowMs = useNow(EVERY_MS);
  const { data: settings = USUAL_SETTINGS } = api.useSettingsQuery();
  const room = { airC: settings.roomC, humidityPct: settings.humidityPct };
  const work = useMemo(() => padWorkOf(job, stores), [job, stores]);
  const hasPads = Object.values(work?.picks ?? {}).some(Boolean);
  const judged = useJudgement(remote, work ?? null);
  const turning = useTurns(useTurnsSession(), "tighten", job?.map ?? null, hasPads ? work : work && null, marks.folded);
  const { turns } = turning;
  const cells = readImprint(valueOf(stripped, STEP.imprint));
  const bow = judged.judgement ? mostBow(judged.judgement.bow) : null;
  const picks = Object.values(work?.picks ?? {}).flatMap((pick) => pick ?? []);
  const apart =
    judged.judgement?.places.filter(({ id, contact }) => work?.picks[id] && !contact).map(({ id }) => id) ?? [];
  const input: Omit<CloseUpInput, "folded"> = {
    map,
    found,
    turns,
    pads: { places: picks.length, films: picks.reduce((sum, { layers }) => sum + FILMS_A_LAYER * layers, 0) },
    compound:
      readCompoundPlan(foldMarks(pasted)) ??
      compoundOf(
        service,
        stores?.materials ?? [],
        (uses ?? []).map(({ materialName }) => materialName),
      ),
    bow,
    apart,
    putOnMin: minutesSince(pasted, nowMs),
    imprint: cells ? imprintFound(cells, null).words : "",
    other: otherOf(fitted),
  };
  return {
    ready: marks.ready && fitReady && job !== undefined && stores !== undefined,
    error: error ?? marks.error,
    map,
    hasMap: job?.map !== null && placesOf(map).length + map.screws.length > 0,
    boardModelId: job?.boardModelId ?? null,
    marks,
    turning,
    found,
    stripBegun,
    judgement: judged.judgement,
    work,
    bow,
    drying: [
      ...cureClocks({ marks: pasted, folded: foldMarks(pasted), msOf: Date.parse }),
      ...dryingClocks({ marks: cleaned, folded: cleanFolded, room, msOf: Date.parse }).filter(
        ({ id }) => !isDone(cleanFolded, id),
      ),
    ].filter(({ untilMs }) => untilMs === null || untilMs > nowMs),
    input,
    steps: closeUpSteps({ ...input, folded: marks.folded }),
    faultAt: (stepId: string, folded: typeof marks.folded): string => closeUpFault(stepId, { ...input, folded }),
    onDone: (step: HandStep): MadeMark[] => {
      if (step.kind !== "turn" || turning.kept) return [];
      return [planMark(step.turn ? turns : null)];
    },
  };
}

export type CloseUp = ReturnType<typeof useCloseUp>;

/** Since the compound was ticked as put on. */
function minutesSince(marks: readonly StepMark[], nowMs: number): number | undefined {
  const put = marks.findLast(({ stepId, what }) => stepId === COMPOUND.put && what === "done");
  return put && Math.max(0, Math.round((nowMs - Date.parse(put.at)) / 60_000));
}

const FILMS_A_LAYER = 2;
const EVERY_MS = 15_000;

/** Turns take seconds: asked of a worker of their own, the contact does not wait for them. */
const useTurnsSession = usePadSession;

/** Where the board stands furthest off the plane of the die. */
function mostBow({ xsMm, ysMm, offMm }: BowField): { mm: number; xMm: number; yMm: number } | null {
  let most = 0;
  offMm.forEach((off, index) => {
    if (Math.abs(off) > Math.abs(offMm[most] ?? 0)) most = index;
  });
  const mm = offMm[most];
  if (mm === undefined) return null;
  return { mm: Math.abs(mm), xMm: xsMm[Math.floor(most / ysMm.length)] ?? 0, yMm: ysMm[most % ysMm.length] ?? 0 };
}

const KINDS: Readonly<Partial<Record<MaterialKind, CompoundOn["kind"]>>> = {
  paste: "paste",
  "phase-change": "phase-change",
  "liquid metal": "liquid metal",
  adhesive: "adhesive",
};

/** What went on the die: by the last note that names one, else by what was taken from the stock. */
function compoundOf(
  { notes }: ServiceView,
  materials: ReadonlyArray<{ name: string; kind: MaterialKind }>,
  taken: readonly string[],
): CompoundOn | null {
  const named = notes.findLast(({ compound }) => compound !== "")?.compound;
  const known = materials.findLast(
    ({ name, kind }) => KINDS[kind] && (named ? name.toLowerCase() === named.toLowerCase() : taken.includes(name)),
  );
  const name = named ?? known?.name;
  return name === undefined ? null : { name, kind: (known && KINDS[known.kind]) ?? "paste" };
}
