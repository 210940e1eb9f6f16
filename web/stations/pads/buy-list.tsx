import type { PadPlanInput, Stores } from "#contract";
import type { PadPiece } from "#core/padplan/index.ts";
import { BuyTable } from "../../parts/pads/buy-table.tsx";
import { buyList, buyListCsv } from "../../parts/pads/cutting.ts";
import { Button } from "../../ui/button.tsx";
import { download } from "../../ui/download.ts";
import { Sheet } from "../../ui/page.tsx";

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
      <BuyTable lines={lines} currency={currency} />
    </Sheet>
  );
}
