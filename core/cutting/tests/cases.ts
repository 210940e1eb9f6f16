/** Cutting tasks of one material and thickness, as the tests and the bench of cutting make them. */
import type { Random } from "../../random/index.ts";
import type { Piece, Sheet } from "../problem.ts";

const SOFT = { thicknessMm: 1, material: "soft" };

export const piece = (id: string, widthMm: number, heightMm: number, quantity = 1): Piece => ({
  id,
  widthMm,
  heightMm,
  quantity,
  ...SOFT,
});

export const sheet = (
  id: string,
  widthMm: number,
  heightMm: number,
  price: number,
  quantity: number | null = null,
): Sheet => ({ id, widthMm, heightMm, price, quantity, ...SOFT });

/** Sizes that come out of whole sheets by straight cuts; nothing is thrown away, so as many sheets hold them all. */
export function cutUp(random: Random, sheets: number, widthMm: number, heightMm: number): Array<[number, number]> {
  const sizes: Array<[number, number]> = [];
  const cut = (w: number, h: number, depth: number): void => {
    if (depth === 0 || Math.max(w, h) < 16) {
      sizes.push([w, h]);
      return;
    }
    const at = Math.round(random.between(0.3, 0.7) * Math.max(w, h));
    if (w >= h) for (const part of [at, w - at]) cut(part, h, depth - 1);
    else for (const part of [at, h - at]) cut(w, part, depth - 1);
  };
  for (let one = 0; one < sheets; one++) cut(widthMm, heightMm, 3);
  return sizes;
}
