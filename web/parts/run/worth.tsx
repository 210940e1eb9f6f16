import type { Comparison, TuningDifference } from "#core/compare/index.ts";
import { levelChangeDb } from "#core/fans/index.ts";
import type { Outcome } from "#core/outcome/index.ts";
import type { Change, Gains } from "#core/service/index.ts";
import { figure, signed, widthOf } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";

const SETTINGS: Record<TuningDifference["what"], { name: string; unit: string }> = {
  coreOffsetMHz: { name: "Core clock offset", unit: "MHz" },
  memoryOffsetMHz: { name: "Memory clock offset", unit: "MHz" },
  undervoltMv: { name: "Undervolt", unit: "mV" },
  powerLimitPct: { name: "Power limit", unit: "%" },
  frameCapFps: { name: "Frame cap", unit: "a second" },
};

/** Settings that were not the same in both runs, and what that does to the answer. */
export function TunedApart({ tuning }: { tuning: readonly TuningDifference[] }) {
  if (tuning.length === 0) return null;
  return (
    <div className="mb-4">
      <Note kind="caution" title="The card was not set the same in both runs">
        <ul className="space-y-1">
          {tuning.map(({ what, before, after, means }) => {
            const { name, unit } = SETTINGS[what];
            return (
              <li key={what}>
                <span className="font-semibold">
                  {name} {said(before, unit)} → {said(after, unit)}.
                </span>{" "}
                {means}
              </li>
            );
          })}
        </ul>
      </Note>
    </div>
  );
}

const said = (value: number | null, unit: string): string => (value === null ? "stock" : `${figure(value, 0)} ${unit}`);

/** What a gain is worth in what its owner feels, each with its interval. */
export function Worth({
  comparison: { worth, atEqualConditions },
  gains,
  outcome: { sensors },
}: {
  comparison: Comparison;
  gains: Gains;
  outcome: Outcome;
}) {
  const die = sensors.find((one) => one.role === "edge") ?? sensors.find((one) => one.role === "hotspot");
  const rows = [
    // The same fans at the same speed are as loud; the width is the headline's.
    atEqualConditions?.fanRpm != null && die && die.verdict !== "no-real-change"
      ? {
          what: "At the same noise",
          is: `${figure(Math.abs(die.changeK))} ± ${widthOf(die.u95K)} K ${die.verdict}`,
        }
      : null,
    gains.coreClockMHz && { what: "Sustained clock", is: changed(gains.coreClockMHz, "MHz", 0) },
    gains.frameRateFps && { what: "Frame rate", is: changed(gains.frameRateFps, "a second", 1) },
    gains.score && { what: "Score", is: changed(gains.score, "", 0) },
    gains.coreRoomMHz && { what: "Room for more, core", is: offsets(gains.coreRoomMHz) },
    gains.memoryRoomMHz && { what: "Room for more, memory", is: offsets(gains.memoryRoomMHz) },
  ].filter((row) => row !== null);
  const isQuieter = worth !== null && worth.changeRpm < 0;
  if (rows.length === 0 && !isQuieter) return null;
  return (
    <div>
      <p>
        <span className="font-semibold">What it is worth: </span>
        {isQuieter && (
          <>
            the temperature of before at {figure(worth.fanRpm, 0)} rpm, {signed(worth.changeRpm, 0)} rpm and about{" "}
            {signed(worth.soundDb)} dB by the fan laws{between(worth)}.
          </>
        )}
      </p>
      <dl className="mt-1 space-y-1">
        {rows.map(({ what, is }) => (
          <div key={what} className="flex flex-wrap gap-x-2">
            <dt className="text-soft">{what}</dt>
            <dd className="font-semibold">{is}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

/** The sound law is a straight line in the logarithm of the speed: the ends of its interval follow from those of the speed. */
function between({ fanRpm, changeRpm, lowRpm, highRpm }: NonNullable<Comparison["worth"]>): string {
  if (lowRpm === null || highRpm === null || lowRpm <= 0) return "";
  const [low = lowRpm, high = highRpm] = [lowRpm, highRpm].sort((a, b) => a - b);
  const was = fanRpm - changeRpm;
  return ` (95 %: ${figure(low, 0)} to ${figure(high, 0)} rpm, ${signed(levelChangeDb(was, low))} to ${signed(levelChangeDb(was, high))} dB)`;
}

const changed = ({ before, after, change, u95 }: Change, unit: string, digits: number): string =>
  `${figure(before, digits)} → ${figure(after, digits)} ${unit}`.trimEnd() +
  `, ${signed(change, digits)} ± ${widthOf(u95, digits)}${Math.abs(change) <= u95 ? ": no real change" : ""}`;

const offsets = ({ before, after, change }: Omit<Change, "u95">): string =>
  `offset ${signed(before, 0)} → ${signed(after, 0)} MHz held, ${signed(change, 0)} MHz`;
