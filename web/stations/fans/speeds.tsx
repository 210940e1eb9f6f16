import type { Run } from "#contract";
import { twinWords } from "#core/fans/index.ts";
import { runName } from "../../parts/run/run-name.ts";
import { figure } from "../../ui/format.ts";
import { Sheet } from "../../ui/page.tsx";
import { fanSpeeds } from "./fan-speeds.ts";

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
