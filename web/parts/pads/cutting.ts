import Papa from "papaparse";
import type { CutSheetInput, OpenPads, PadPlanInput, Stores } from "#contract";
import { type CutPlan, type CuttingTask, cutLines } from "#core/cutting/index.ts";
import type { SheetDrawing } from "#core/drawing/index.ts";
import { type Notch, type PadPiece, piecesOf } from "#core/padplan/index.ts";
import { padMaterials } from "./stock.ts";

/** Left-overs cost nothing, whole sheets in stock next to nothing: bought ones are what a plan saves. */
const OWN_SHEET_PRICE = 0.001;

/** What is cut from what: pieces of the pads, sheets of the stock, sheets that can be bought. */
export function cuttingTask(pieces: readonly PadPiece[], stores: Pick<Stores, "lots" | "offers">): CuttingTask {
  const sheets = stores.lots.flatMap(({ id, materialId, thicknessMm, widthMm, heightMm, amount, leftOverOf }) =>
    thicknessMm !== null && widthMm !== null && heightMm !== null && amount >= 1
      ? [
          {
            id,
            material: materialId,
            thicknessMm,
            widthMm,
            heightMm,
            quantity: Math.floor(amount),
            price: leftOverOf ? 0 : OWN_SHEET_PRICE,
          },
        ]
      : [],
  );
  const bought = stores.offers.flatMap(({ id, materialId, thicknessMm, widthMm, heightMm, price }) =>
    thicknessMm !== null && widthMm !== null && heightMm !== null
      ? [{ id, material: materialId, thicknessMm, widthMm, heightMm, quantity: null, price }]
      : [],
  );
  return {
    pieces: pieces.map(({ id, widthMm, heightMm, quantity, thicknessMm, materialId }) => ({
      id,
      widthMm,
      heightMm,
      quantity,
      thicknessMm,
      material: materialId,
    })),
    stock: [...sheets, ...bought],
    cutGapMm: 0,
    rotate: true,
    straightCuts: true,
  };
}

/** A turned piece's notches turn with it: a quarter against the clock. */
function turned(notches: readonly Notch[], rotated: boolean, heightMm: number): Notch[] {
  return notches.map((one) => (rotated ? { ...one, xMm: heightMm - one.yMm, yMm: one.xMm } : one));
}

/** The computed plan as it is kept and carried out. */
export function keptPlan(
  plan: CutPlan,
  pieces: readonly PadPiece[],
  stores: Pick<Stores, "lots" | "offers">,
): NonNullable<PadPlanInput["cutting"]> {
  const sheets = plan.sheets.flatMap(({ stockId, placements, leftOvers }): CutSheetInput[] => {
    const lot = stores.lots.find((one) => one.id === stockId);
    const source = lot ?? stores.offers.find((one) => one.id === stockId);
    if (!source) return [];
    return [
      {
        from: lot ? "lot" : "offer",
        sourceId: stockId,
        materialId: source.materialId,
        thicknessMm: source.thicknessMm ?? 0,
        widthMm: source.widthMm ?? 0,
        heightMm: source.heightMm ?? 0,
        price: lot ? 0 : source.price,
        pieces: placements.map(({ pieceId, xMm, yMm, widthMm, heightMm, rotated }) => {
          const piece = pieces.find((one) => one.id === pieceId);
          return {
            pieceId,
            xMm,
            yMm,
            widthMm,
            heightMm,
            rotated,
            notches: turned(piece?.notches ?? [], rotated, piece?.heightMm ?? 0),
            cut: false,
          };
        }),
        leftOvers,
        booked: false,
      },
    ];
  });
  const cost = sheets.reduce((sum, sheet) => sum + sheet.price, 0);
  return {
    sheets,
    unplaced: plan.unplaced,
    cost,
    // Sheets of the stock count for next to nothing in the plan and for nothing here.
    lowerBoundCost: Math.min(cost, Math.max(0, plan.lowerBoundCost - (plan.cost - cost))),
  };
}

const key = (id: string, a: number, b: number, thicknessMm: number): string =>
  [id, Math.min(a, b), Math.max(a, b), thicknessMm].join(" ");

/** Whether the pads were changed after the plan was made. */
export function isStale(cutting: NonNullable<PadPlanInput["cutting"]>, pieces: readonly PadPiece[]): boolean {
  const planned = new Map<string, number>();
  for (const sheet of cutting.sheets)
    for (const { pieceId, widthMm, heightMm } of sheet.pieces) {
      const one = key(pieceId, widthMm, heightMm, sheet.thicknessMm);
      planned.set(one, (planned.get(one) ?? 0) + 1);
    }
  const wanted = pieces.map((piece) => {
    const missing = cutting.unplaced.find((one) => one.pieceId === piece.id)?.quantity ?? 0;
    return [key(piece.id, piece.widthMm, piece.heightMm, piece.thicknessMm), piece.quantity - missing] as const;
  });
  return (
    wanted.some(([one, count]) => (planned.get(one) ?? 0) !== count) ||
    [...planned.keys()].some((one) => !wanted.some(([known]) => known === one))
  );
}

export function drawingOf(sheet: CutSheetInput): SheetDrawing {
  return {
    widthMm: sheet.widthMm,
    heightMm: sheet.heightMm,
    pieces: sheet.pieces.map((piece) => ({ ...piece, label: piece.pieceId })),
    cuts: cutLines(sheet, sheet.pieces).cuts,
  };
}

export interface BuyLine {
  what: string;
  thicknessMm: number | null;
  widthMm: number | null;
  heightMm: number | null;
  quantity: number;
  unit: string;
  priceEach: number | null;
  priceTotal: number | null;
  note: string;
  /** The line of the price list it is bought by. */
  offerId: string | null;
}

/** What is short: sheets the plan buys, pieces no sheet is listed for, and stock at its limit. */
export function buyList(
  cutting: NonNullable<PadPlanInput["cutting"]>,
  pieces: readonly PadPiece[],
  stores: Pick<Stores, "materials" | "offers" | "low">,
): BuyLine[] {
  const nameOf = (id: string): string => stores.materials.find((one) => one.id === id)?.name ?? "";
  const bought = new Map<string, BuyLine>();
  for (const sheet of cutting.sheets.filter((one) => one.from === "offer" && !one.booked)) {
    const line = bought.get(sheet.sourceId) ?? {
      what: nameOf(sheet.materialId),
      thicknessMm: sheet.thicknessMm,
      widthMm: sheet.widthMm,
      heightMm: sheet.heightMm,
      quantity: 0,
      unit: "sheet",
      priceEach: sheet.price,
      priceTotal: 0,
      note: stores.offers.find((one) => one.id === sheet.sourceId)?.label ?? "",
      offerId: sheet.sourceId,
    };
    line.quantity++;
    line.priceTotal = Math.round(100 * line.quantity * sheet.price) / 100;
    bought.set(sheet.sourceId, line);
  }
  const missing = cutting.unplaced.map(({ pieceId, quantity }): BuyLine => {
    const piece = pieces.find((one) => one.id === pieceId);
    return {
      what: piece ? nameOf(piece.materialId) : pieceId,
      thicknessMm: piece?.thicknessMm ?? null,
      widthMm: piece?.widthMm ?? null,
      heightMm: piece?.heightMm ?? null,
      quantity,
      unit: "piece",
      priceEach: null,
      priceTotal: null,
      note: `no sheet in stock or on the price list holds piece ${pieceId}`,
      offerId: null,
    };
  });
  const low = stores.low.map(
    ({ name, left, unit, lowAt }): BuyLine => ({
      what: name,
      thicknessMm: null,
      widthMm: null,
      heightMm: null,
      quantity: Math.max(1, Math.ceil(lowAt - left + 1)),
      unit,
      priceEach: null,
      priceTotal: null,
      note: `${left} left, wanted more than ${lowAt}`,
      offerId: null,
    }),
  );
  return [...bought.values(), ...missing, ...low];
}

/** A cell that starts like a formula is written so that a spreadsheet shows it instead of running it. */
export const buyListCsv = (lines: readonly BuyLine[]): string =>
  `\ufeff${Papa.unparse(
    lines.map(({ offerId: _own, ...line }) => line),
    { escapeFormulae: true, newline: "\r\n" },
  )}`;

/** Pads of several cards at once: ids of pieces tell the cards apart. */
export const piecesOfAll = (open: readonly OpenPads[], stores: Pick<Stores, "materials">): PadPiece[] =>
  open.flatMap(({ serviceId, map, picks, rules }) =>
    piecesOf(map, picks, padMaterials(stores), rules).map((piece) => ({ ...piece, id: `${serviceId} ${piece.id}` })),
  );

/** The stores after a cutting was carried out: what it took is gone, what it left over is there. */
export function afterCutting(plan: CutPlan, stores: Pick<Stores, "lots" | "offers">): Pick<Stores, "lots" | "offers"> {
  let lots = [...stores.lots];
  for (const [index, { stockId, leftOvers }] of plan.sheets.entries()) {
    const source = lots.find(({ id }) => id === stockId) ?? stores.offers.find(({ id }) => id === stockId);
    if (!source) continue;
    lots = lots.map((lot) => (lot.id === stockId ? { ...lot, amount: lot.amount - 1 } : lot));
    lots.push(
      ...leftOvers.map(({ widthMm, heightMm }, at) => ({
        id: `left ${index} ${at} ${stockId}`,
        materialId: source.materialId,
        thicknessMm: source.thicknessMm,
        widthMm,
        heightMm,
        price: 0,
        label: "",
        amount: 1,
        openedOn: null,
        useBefore: null,
        leftOverOf: "plan",
        version: 0,
      })),
    );
  }
  return { lots: lots.filter(({ amount }) => amount >= 1), offers: stores.offers };
}
