import { ChevronRight } from "lucide-react";
import { Link } from "react-router";
import type { Run } from "#contract";
import { levelOf, temperatureOf } from "#core/soak/index.ts";
import { figure } from "../../ui/format.ts";
import { LeaveOut } from "./leave-out.tsx";
import { runName } from "./run-name.ts";

/** A service's runs of one side, each with its rise and what hinders it. */
export function RunList({ runs }: { runs: Run[] }) {
  const isTriedAgain = runs.some((run) => run.attempt > 1);
  return (
    <ul className="space-y-2">
      {runs.map((run) => {
        const lead = temperatureOf(run.analysis, "edge") ?? temperatureOf(run.analysis, "hotspot");
        const fan = levelOf(run.analysis, "fanRpm")?.mean;
        const { steady, ambient, throttling } = run.analysis;
        const predicted = lead?.riseK === null && lead.finalC !== null && ambient ? lead.finalC - ambient.valueC : null;
        const warnings = [
          ambient ? "" : "room air missing",
          steady.reached ? "" : "not settled",
          throttling.detected ? "throttled" : "",
        ].filter(Boolean);
        return (
          <li key={run.id} className="rounded-xl border border-line bg-sheet">
            <Link
              to={`/runs/${run.id}`}
              className={`${run.leftOut ? "opacity-60 " : ""}grid grid-cols-[minmax(0,1fr)_auto_auto] items-center gap-4 rounded-xl px-4 py-3 hover:bg-frost`}
            >
              <span className="min-w-0">
                <span className="block truncate font-semibold">{runName(run)}</span>
                <span className="block text-sm text-soft">
                  {run.fanMode === "fixed"
                    ? `fixed fan${run.fanPct === null ? "" : ` ${run.fanPct} %`}`
                    : run.fanMode === "automatic"
                      ? "automatic fan"
                      : "fan mode unknown"}
                  {fan ? ` · ${figure(fan, 0)} rpm` : ""}
                  {run.typed ? " · typed from paper" : ""}
                  {isTriedAgain && run.side === "after" ? ` · attempt ${run.attempt}` : ""}
                </span>
                {warnings.length > 0 && (
                  <span className="block text-sm font-semibold text-amber">{warnings.join(", ")}</span>
                )}
              </span>
              <span className="text-right">
                <span className="text-2xl font-bold">{figure(lead?.riseK ?? predicted)}</span>
                <span className="text-sm"> K {predicted === null ? "over room" : "expected"}</span>
              </span>
              <ChevronRight aria-hidden className="size-5 text-soft" />
            </Link>
            <LeaveOut run={run} />
          </li>
        );
      })}
    </ul>
  );
}
