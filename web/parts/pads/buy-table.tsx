import { Button } from "../../ui/button.tsx";
import { figure } from "../../ui/format.ts";
import type { BuyLine } from "./cutting.ts";

/** What is put into stock as it comes. */
interface Arrivals {
  has: (line: BuyLine) => boolean;
  busy: boolean;
  /** The day it was ordered, until it is here. */
  orderedOn: (line: BuyLine) => string | null;
  onOrdered: (line: BuyLine) => void;
  onArrived: (line: BuyLine) => void;
}

/** What is short, a line each; with arrivals the remark stands below the name. */
export function BuyTable({
  lines,
  currency,
  arrivals,
}: {
  lines: readonly BuyLine[];
  currency: string;
  arrivals?: Arrivals;
}) {
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full min-w-[34rem] text-left">
        <thead className="text-sm text-soft">
          <tr>
            <th className="py-1 pr-3 font-medium">What</th>
            <th className="pr-3 font-medium">Size (mm)</th>
            <th className="pr-3 font-medium">How many</th>
            <th className="pr-3 text-right font-medium">{currency}</th>
            <th className="font-medium">{arrivals ? <span className="sr-only">Arrived</span> : "Remark"}</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr
              key={`${line.what} ${line.thicknessMm} ${line.widthMm} ${line.note}`}
              className="border-t border-line align-baseline"
            >
              <td className="py-1.5 pr-3">
                {line.what}
                {line.thicknessMm !== null && `, ${line.thicknessMm} mm`}
                {arrivals && <span className="block text-sm text-soft">{line.note}</span>}
              </td>
              <td className="pr-3">{line.widthMm === null ? "–" : `${line.widthMm} × ${line.heightMm}`}</td>
              <td className="pr-3">
                {line.quantity} {line.unit}
              </td>
              <td className="pr-3 text-right">{figure(line.priceTotal, 2)}</td>
              {arrivals ? (
                <td className="text-right">
                  {line.priceEach !== null &&
                    (arrivals.has(line) ? (
                      <span className="text-soft">in stock</span>
                    ) : (
                      <span className="flex flex-wrap items-center justify-end gap-2">
                        {arrivals.orderedOn(line) ? (
                          <span className="text-sm text-soft">ordered {arrivals.orderedOn(line)}</span>
                        ) : (
                          <Button disabled={arrivals.busy} onClick={() => arrivals.onOrdered(line)}>
                            Ordered
                          </Button>
                        )}
                        <Button disabled={arrivals.busy} onClick={() => arrivals.onArrived(line)}>
                          Arrived
                        </Button>
                      </span>
                    ))}
                </td>
              ) : (
                <td className="text-sm text-soft">{line.note}</td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
