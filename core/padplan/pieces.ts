import { type BoardMap, type Layer, layerOf } from "../boardmap/index.ts";
import { type PadMaterial, type Picks, placesOf } from "./picks.ts";

/** Their screws go through no board. */
const BESIDE_BOARD: ReadonlySet<Layer> = new Set(["bracket", "fan", "shroud"]);

/** A round cut-out, from the piece's lower-left corner. */
export interface Notch {
  xMm: number;
  yMm: number;
  radiusMm: number;
}

export interface PadPiece {
  /** A, B, C… by shape. */
  id: string;
  widthMm: number;
  heightMm: number;
  thicknessMm: number;
  materialId: string;
  notches: Notch[];
  quantity: number;
  /** Of the quantity, those cut to spare. */
  spares: number;
  /** Parts it is for. */
  forParts: string[];
}

export interface PieceRules {
  /** Added on every side, mm. */
  marginMm: number;
  /** Clear of a screw hole's edge, mm. */
  clearMm: number;
  /** One spare for so many pieces of a shape, at least one; 0 for none. */
  spareEvery: number;
}

export const USUAL_PIECE_RULES: PieceRules = { marginMm: 0, clearMm: 0.5, spareEvery: 10 };

const letter = (index: number): string =>
  (index >= 26 ? letter(Math.floor(index / 26) - 1) : "") + String.fromCharCode(65 + (index % 26));

/** What has to be cut from sheets for the picks of a map: like shapes together, notched where a screw hole comes through. */
export function piecesOf(
  map: BoardMap,
  picks: Picks,
  materials: readonly Pick<PadMaterial, "id" | "form">[],
  rules: PieceRules,
): PadPiece[] {
  const shapes = new Map<string, Omit<PadPiece, "id">>();
  for (const part of placesOf(map)) {
    const pick = picks[part.id];
    if (!pick || materials.find((one) => one.id === pick.materialId)?.form !== "pad") continue;
    let widthMm = pick.widthMm + 2 * rules.marginMm;
    let heightMm = pick.heightMm + 2 * rules.marginMm;
    const left = part.xMm + pick.offXMm - widthMm / 2;
    const bottom = part.yMm + pick.offYMm - heightMm / 2;
    const notches = map.screws.flatMap((screw): Notch[] => {
      if (BESIDE_BOARD.has(layerOf(screw))) return [];
      const radiusMm = screw.holeMm / 2 + rules.clearMm;
      const x = screw.xMm - left;
      const y = screw.yMm - bottom;
      const dx = Math.max(0, -x, x - widthMm);
      const dy = Math.max(0, -y, y - heightMm);
      return Math.hypot(dx, dy) < radiusMm ? [{ xMm: round(x), yMm: round(y), radiusMm }] : [];
    });
    // Without notches a piece is the same when it is turned.
    if (notches.length === 0) [widthMm, heightMm] = [Math.max(widthMm, heightMm), Math.min(widthMm, heightMm)];
    const key = JSON.stringify([pick.materialId, pick.thicknessMm, round(widthMm), round(heightMm), notches]);
    const shape = shapes.get(key) ?? {
      widthMm: round(widthMm),
      heightMm: round(heightMm),
      thicknessMm: pick.thicknessMm,
      materialId: pick.materialId,
      notches,
      quantity: 0,
      spares: 0,
      forParts: [],
    };
    shape.quantity += pick.layers;
    shape.forParts.push(pick.layers > 1 ? `${part.id} (${pick.layers} layers)` : part.id);
    shapes.set(key, shape);
  }
  return [...shapes.values()].map((shape, index) => {
    const spares = rules.spareEvery > 0 ? Math.ceil(shape.quantity / rules.spareEvery) : 0;
    return { ...shape, id: letter(index), quantity: shape.quantity + spares, spares };
  });
}

const round = (mm: number): number => Math.round(mm * 100) / 100;

/** Pieces of one material and thickness that went in. */
interface PadsIn {
  materialId: string;
  thicknessMm: number;
  count: number;
}

interface CutPlan {
  sheets: ReadonlyArray<{ materialId: string; thicknessMm: number; pieces: ReadonlyArray<{ cut: boolean }> }>;
}

/**
 * What went in, as far as somebody said so: of what was cut here no more than the pieces that were ticked as cut, spares left out; of what
 * came cut (putty, pads without a cutting plan) what was chosen.
 * @param cutting the plan of cutting; null where there is none
 */
export function padsThatWentIn(picks: Picks, cutting: CutPlan | null): PadsIn[] {
  const chosen = new Map<string, PadsIn>();
  for (const pick of Object.values(picks)) {
    if (!pick) continue;
    const { materialId, thicknessMm, layers } = pick;
    const key = `${materialId} ${thicknessMm}`;
    const one = chosen.get(key) ?? { materialId, thicknessMm, count: 0 };
    chosen.set(key, { ...one, count: one.count + layers });
  }
  return [...chosen.values()].flatMap((one) => {
    const sheets = (cutting?.sheets ?? []).filter(
      ({ materialId, thicknessMm }) => materialId === one.materialId && thicknessMm === one.thicknessMm,
    );
    if (sheets.length === 0) return [one];
    const cut = sheets.reduce((sum, { pieces }) => sum + pieces.filter((piece) => piece.cut).length, 0);
    return cut > 0 ? [{ ...one, count: Math.min(one.count, cut) }] : [];
  });
}
