import type { PadPlanInput, Stores } from "#contract";
import type { PadPiece } from "#core/padplan/index.ts";
import { Button } from "../../ui/button.tsx";
import { download } from "../../ui/download.ts";
import { figure } from "../../ui/format.ts";
import { Sheet } from "../../ui/page.tsx";
import { buyList, buyListCsv } from "./cutting.ts";

/** What is short, as a list and as CSV. */
export function BuyList({
  cutting,
  pieces,
  stores,
  currency,
}: {
  cutting: NonNullable<PadPlanInput["cutting"]>;
  pieces: PadPiece[];
  stores: Stores;
  currency: string;
}) {
  const lines = buyList(cutting, pieces, stores);
  if (lines.length === 0) return null;
  return (
    <Sheet
      title="To buy"
      action={<Button onClick={() => download("buy-list.csv", buyListCsv(lines), "text/csv")}>Save as CSV</Button>}
    >
      <div className="relative overflow-x-auto">
        <table className="w-full min-w-[32rem] text-left">
          <thead className="text-sm text-soft">
            <tr>
              <th className="py-1 pr-3 font-medium">What</th>
              <th className="pr-3 font-medium">Size (mm)</th>
              <th className="pr-3 font-medium">How many</th>
              <th className="pr-3 text-right font-medium">{currency}</th>
              <th className="font-medium">Remark</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr
                key={`${line.what} ${line.thicknessMm} ${line.widthMm} ${line.note}`}
                className="border-t border-line"
              >
                <td className="py-1.5 pr-3">
                  {line.what}
                  {line.thicknessMm !== null && `, ${line.thicknessMm} mm`}
                </td>
                <td className="pr-3">{line.widthMm === null ? "–" : `${line.widthMm} × ${line.heightMm}`}</td>
                <td className="pr-3">
                  {line.quantity} {line.unit}
                </td>
                <td className="pr-3 text-right">{figure(line.priceTotal, 2)}</td>
                <td className="text-sm text-soft">{line.note}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Sheet>
  );
}
