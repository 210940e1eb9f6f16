import type { Run } from "#contract";
import { dutyChange, twinWords } from "#core/fans/index.ts";
import { runName } from "../../parts/run/run-name.ts";
import { figure } from "../../ui/format.ts";
import { Sheet } from "../../ui/page.tsx";
import { fanSpeeds } from "./fan-speeds.ts";

/** Speed against its duty: beside the first run that tells both. */
function dutyWords(run: Run, rows: ReadonlyArray<{ run: Run; speeds: number[] }>): string {
  const first = rows.find((row) => row.run.fanPct !== null && row.run.fanPct > 0);
  if (!first || first.run.id === run.id || !run.fanPct || !first.run.fanPct) return "";
  return `; ${dutyChange(Math.max(...first.speeds) / first.run.fanPct, Math.max(...fanSpeeds(run)) / run.fanPct)}`;
}

/** Speeds of the fans against each other and against their duty, run by run. */
export function Speeds({ runs }: { runs: readonly Run[] }) {
  const rows = runs.map((run) => ({ run, speeds: fanSpeeds(run) })).filter(({ speeds }) => speeds.length > 0);
  return (
    <Sheet title="Speeds in the runs">
      {rows.length === 0 ? (
        <p className="text-soft">
          No run shows a fan’s speed. Log rpm in the baseline: two fans at one duty should turn alike.
        </p>
      ) : (
        <ul className="space-y-2">
          {rows.map(({ run, speeds }) => (
            <li key={run.id}>
              <p className="font-semibold">
                {speeds.map((rpm) => figure(rpm, 0)).join(" · ")} rpm
                <span className="font-normal text-soft">
                  {" "}
                  {run.fanPct === null ? "" : `at ${run.fanPct} %, `}
                  {runName(run)}
                </span>
              </p>
              {run.fanPct !== null && run.fanPct > 0 && (
                <p className="text-sm text-soft">
                  {speeds.map((rpm) => figure(rpm / (run.fanPct ?? 1), 1)).join(" · ")} rpm for each per cent
                  {dutyWords(run, rows)}
                </p>
              )}
              {speeds.length > 1 ? (
                <p>{twinWords(speeds)}</p>
              ) : (
                <p className="text-soft">
                  One speed only: it has no twin here. Its coasting down tells of its bearing.
                </p>
              )}
            </li>
          ))}
        </ul>
      )}
    </Sheet>
  );
}
