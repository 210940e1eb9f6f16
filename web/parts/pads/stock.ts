import type { Stores } from "#contract";
import type { PadMaterial, PadOffer } from "#core/padplan/index.ts";

const FORMS = { pad: "pad", putty: "putty", paste: "paste" } as const;

/** Materials of the stores that can lie between a part and the cooler. */
export function padMaterials({ materials }: Pick<Stores, "materials">): PadMaterial[] {
  return materials.flatMap(({ id, name, kind, conductivityWPerMK, curve, mostMm }) =>
    (kind === "pad" || kind === "putty" || kind === "paste") && conductivityWPerMK !== null
      ? [{ id, name, form: FORMS[kind], conductivityWPerMK, curve, mostMm }]
      : [],
  );
}

/** What can be chosen from: sheets in stock and on the price list, each thickness once; putty in any. */
export function padOffers(stores: Pick<Stores, "materials" | "lots" | "offers">): PadOffer[] {
  const found = new Map<string, PadOffer>();
  const add = (materialId: string, thicknessMm: number | null, inStock: boolean): void => {
    const key = `${materialId} ${thicknessMm}`;
    const known = found.get(key);
    found.set(key, { materialId, thicknessMm, inStock: inStock || known?.inStock === true });
  };
  const kindOf = new Map(stores.materials.map((one) => [one.id, one.kind]));
  for (const lot of stores.lots) {
    if (lot.amount <= 0) continue;
    if (kindOf.get(lot.materialId) === "putty") add(lot.materialId, null, true);
    if (kindOf.get(lot.materialId) === "pad" && lot.thicknessMm !== null && lot.amount >= 1)
      add(lot.materialId, lot.thicknessMm, true);
  }
  for (const offer of stores.offers) {
    if (kindOf.get(offer.materialId) === "putty") add(offer.materialId, null, false);
    if (kindOf.get(offer.materialId) === "pad" && offer.thicknessMm !== null)
      add(offer.materialId, offer.thicknessMm, false);
  }
  return [...found.values()];
}
