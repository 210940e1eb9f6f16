import { useState } from "react";
import { PATTERNS, type Pattern } from "#core/compound/index.ts";
import { Button } from "../../ui/button.tsx";
import { figure } from "../../ui/format.ts";
import { Sheet } from "../../ui/page.tsx";
import type { Compound } from "./use-compound.ts";

interface Row {
  pattern: Pattern;
  coveragePct: number;
  squeezedOutUl: number;
  enclosedAirMm2: number;
  leastDoseUl: number | null;
}

const CELL_MM = 0.4;

/** What every school makes of this dose on this very die. */
export function Schools({ compound }: { compound: Compound }) {
  const { remote, die, plan, doseUl } = compound;
  const [found, setFound] = useState<{ of: string; rows: Row[] } | null>(null);
  const [isBusy, setBusy] = useState(false);
  if (!die || !plan || !remote) return null;
  const question = JSON.stringify([die, doseUl, plan.bondLineUm]);
  const ask = async (): Promise<void> => {
    setBusy(true);
    const answer = await remote.schools(die, doseUl, plan.bondLineUm, CELL_MM).catch(() => null);
    setBusy(false);
    if (answer && "ok" in answer) setFound({ of: question, rows: answer.ok });
  };
  return (
    <Sheet
      title="Schools, side by side"
      action={
        <Button disabled={isBusy} onClick={() => void ask()}>
          {isBusy ? "Pressing…" : "Compare"}
        </Button>
      }
    >
      {found ? (
        <>
          {found.of !== question && <p className="mb-1 text-sm text-amber">Of the dose before: compare again.</p>}
          <table className="w-full text-left">
            <caption className="mb-1 text-left text-sm text-soft">
              The same dose by each; and the least that would cover 99 %
            </caption>
            <thead>
              <tr className="text-sm text-soft">
                <th scope="col">How</th>
                <th scope="col" className="text-right">
                  Covered
                </th>
                <th scope="col" className="text-right">
                  Air, mm²
                </th>
                <th scope="col" className="text-right">
                  Least, µL
                </th>
              </tr>
            </thead>
            <tbody>
              {found.rows.map((row) => (
                <tr key={row.pattern} className="border-t border-line">
                  <th scope="row" className="py-1 font-normal">
                    {PATTERNS[row.pattern]}
                  </th>
                  <td className="text-right">{figure(row.coveragePct, 1)} %</td>
                  <td className="text-right">{figure(row.enclosedAirMm2, 0)}</td>
                  <td className="text-right">{row.leastDoseUl === null ? "–" : figure(row.leastDoseUl, 1)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-2 text-sm text-soft">
            All agree: too little is worse than a little too much, where it does not conduct.
          </p>
        </>
      ) : (
        <p className="text-soft">
          A dot, a line, a cross, five dots, spread: what each makes of your dose on this die.
        </p>
      )}
    </Sheet>
  );
}
