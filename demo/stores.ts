import { EMPTY_MATERIAL, type LotInput, type MaterialInput, type OfferInput } from "#contract";

interface DemoMaterial {
  material: Partial<MaterialInput> & Pick<MaterialInput, "kind" | "name">;
  lots?: Array<Partial<LotInput>>;
  offers?: Array<Partial<OfferInput>>;
}

const sheet = (
  thicknessMm: number,
  widthMm: number,
  heightMm: number,
  price: number,
  more: Partial<LotInput> = {},
) => ({
  thicknessMm,
  widthMm,
  heightMm,
  price,
  ...more,
});

/** An invented store: names and figures are made up. */
export const DEMO_STORES: readonly DemoMaterial[] = [
  {
    material: {
      kind: "pad",
      name: "Soft grey pad",
      conductivityWPerMK: 6,
      curve: [
        [0, 0],
        [0.1, 35],
        [0.2, 80],
        [0.3, 150],
        [0.4, 270],
        [0.5, 480],
      ],
      curveSource: "own press, three sheets",
      lowAt: 2,
    },
    lots: [
      sheet(1, 85, 45, 6.5, { amount: 2 }),
      sheet(1.5, 85, 45, 7.5, { amount: 1, openedOn: "2026-09-02" }),
      sheet(2, 85, 45, 8.5, { amount: 1 }),
    ],
    offers: [
      sheet(0.5, 85, 45, 5.5),
      sheet(1, 85, 45, 6.5),
      sheet(1.25, 85, 45, 7),
      sheet(1.5, 120, 85, 15),
      sheet(2, 85, 45, 8.5),
    ],
  },
  {
    material: {
      kind: "pad",
      name: "Firm blue pad",
      conductivityWPerMK: 12,
      curve: [
        [0, 0],
        [0.1, 180],
        [0.2, 420],
        [0.3, 900],
        [0.4, 1900],
      ],
      curveSource: "data sheet",
      note: "Conducts well, forgives little.",
    },
    lots: [sheet(1, 120, 20, 11, { amount: 1 })],
    offers: [sheet(1.5, 120, 20, 13)],
  },
  {
    material: { kind: "putty", name: "White putty", conductivityWPerMK: 7, mostMm: 3, densityGPerMl: 3.1, lowAt: 20 },
    lots: [{ amount: 12, price: 0.45, label: "Tub", openedOn: "2026-08-20", useBefore: "2027-08-20" }],
  },
  {
    material: { kind: "paste", name: "Grey paste, 8 W/mK", conductivityWPerMK: 8, densityGPerMl: 2.6, lowAt: 4 },
    lots: [{ amount: 21, price: 1.1, label: "Syringes" }],
  },
  {
    material: {
      kind: "liquid metal",
      name: "Liquid metal",
      conductivityWPerMK: 73,
      densityGPerMl: 6.3,
      conductsElectricity: true,
      attacksAluminium: true,
    },
    lots: [{ amount: 0.9, price: 14, label: "Syringe" }],
  },
  {
    material: { kind: "alcohol", name: "Isopropyl alcohol, 99.9 %", densityGPerMl: 0.786, lowAt: 200 },
    lots: [{ amount: 850, price: 0.012, label: "Bottle" }],
  },
  { material: { kind: "wipes", name: "Lint-free wipes", lowAt: 50 }, lots: [{ amount: 340, price: 0.03 }] },
  { material: { kind: "oil", name: "Light machine oil", densityGPerMl: 0.86 }, lots: [{ amount: 45, price: 0.2 }] },
  { material: { kind: "washer", name: "Plastic washer M3, 0.5 mm" }, lots: [{ amount: 64, price: 0.02 }] },
];

export const fullMaterial = (one: DemoMaterial): MaterialInput => ({ ...EMPTY_MATERIAL, ...one.material });
