/** Contact: time of one answer relative to a plain solution of the plate in the same run, and choosing. */
import { median } from "simple-statistics";
import { type BoardMap, EMPTY_MAP, NEW_SCREW } from "#core/boardmap/index.ts";
import { choose, readStack } from "#core/contact/index.ts";
import { asGiven, prepare, solveContact } from "#core/contact/solve.ts";
import { SOFT_CURVE } from "#core/contact/tests/curves.ts";
import { choosePads, judgeOn, type LastJudged, placesOf, USUAL_POWER_W } from "#core/padplan/index.ts";

const SOFT = {
  conductivityWPerMK: 6,
  curve: SOFT_CURVE,
};
const part = (id: string, kind: string, x: number, y: number, w: number, h: number, gapMm: number) => ({
  id,
  kind,
  xMm: x,
  yMm: y,
  widthMm: w,
  heightMm: h,
  gapMm,
  pad: { material: "soft", thicknessMm: gapMm + 0.25, layers: 1, widthMm: w, heightMm: h },
});
const memories = Array.from({ length: 12 }, (_, k) => {
  const at = Math.floor(k / 3);
  if (k % 3 === 0) return part(`m${k}`, "memory", 85, 20 + at * 18, 14, 12, 1);
  if (k % 3 === 1) return part(`m${k}`, "memory", 155, 20 + at * 18, 14, 12, 1);
  return part(`m${k}`, "memory", 99 + at * 15, 88, 14, 12, 1);
});
const regulators = Array.from({ length: 30 }, (_, k) =>
  part(`v${k}`, "mosfet", k < 15 ? 190 : 205, 8 + (k % 15) * 6, 6, 5, 1.5),
);
const stack = readStack({
  board: { widthMm: 240, heightMm: 104, thicknessMm: 1.6, youngGPa: 22, poisson: 0.15 },
  die: { xMm: 120, yMm: 52, widthMm: 24, heightMm: 22 },
  screws: [
    [95, 25],
    [145, 25],
    [95, 79],
    [145, 79],
  ].map(([xMm, yMm], index) => ({ id: `s${index}`, xMm, yMm, forceN: 40, springNPerMm: 12 })),
  components: [...memories, ...regulators],
  materials: { soft: SOFT },
});

const timed = (work: () => void): number => {
  const begun = performance.now();
  work();
  return performance.now() - begun;
};
const prepared = prepare(stack);
const plain = prepared.plate.copy();
for (let dof = 0; dof < plain.size; dof++) plain.add(dof, dof, 1);
const right = new Float64Array(plain.size).fill(1);
const one = median(Array.from({ length: 15 }, () => timed(() => void plain.copy().solve(right))));
const whole = median(Array.from({ length: 15 }, () => timed(() => void solveContact(prepared, asGiven(stack)))));
console.log(
  `contact of 12 memory and 30 VRM places: ${whole.toFixed(0)} ms (asked for: 50), ${(whole / one).toFixed(1)} times one plain solution of its plate`,
);
console.log(
  `choosing over 6 thicknesses with 60 samples: ${(timed(() => void choose(stack, [0.5, 1, 1.5, 2, 2.5, 3])) / 1000).toFixed(2)} s (asked for: 3)`,
);

const gapsOf = Object.fromEntries(stack.components.map((one) => [one.id, one.gapMm]));
const map: BoardMap = {
  ...EMPTY_MAP,
  board: stack.board,
  die: stack.die,
  screws: stack.screws.map((screw) => ({ ...NEW_SCREW, ...screw, forceN: 80 })),
  parts: stack.components.map(({ id, kind, xMm, yMm, widthMm, heightMm }) => ({
    id,
    kind: kind === "memory" ? ("memory" as const) : ("mosfet" as const),
    side: "front" as const,
    xMm,
    yMm,
    widthMm,
    heightMm,
    tallMm: 1,
    cooledBy: "pad" as const,
    group: null,
    guideMm: null,
  })),
};
const places = placesOf(map).length;
const picks = Object.fromEntries(
  placesOf(map).map((part) => [
    part.id,
    {
      materialId: "soft",
      thicknessMm: (gapsOf[part.id] ?? 1) + 0.25,
      layers: 1,
      widthMm: part.widthMm,
      heightMm: part.heightMm,
      offXMm: 0,
      offYMm: 0,
      filmLeft: false,
    },
  ]),
);
const soft = {
  id: "soft",
  name: "Soft",
  form: "pad" as const,
  conductivityWPerMK: 6,
  mostMm: null,
  curve: SOFT.curve as Array<[number, number]>,
};
const heat = { faceC: 55, powerW: USUAL_POWER_W };
let last: LastJudged | undefined;
const judged = median(
  Array.from({ length: 25 }, (_, k) =>
    timed(() => {
      // As while a part is dragged: each place a little further than the last.
      const parts = map.parts.map((part, index) => (index === 0 ? { ...part, xMm: part.xMm - 0.2 * k } : part));
      last = judgeOn({ map: { ...map, parts }, gapsMm: gapsOf, picks, materials: [soft], heat }, last);
    }),
  ),
);
console.log(
  `one answer while a part of that map is dragged, temperatures included: ${judged.toFixed(0)} ms in the median (asked for: 50), ${(judged / one).toFixed(1)} times one plain solution of its plate`,
);
const begun = performance.now();
const choice = choosePads({
  map,
  gapsMm: gapsOf,
  materials: [soft],
  offers: [0.5, 1, 1.25, 1.5, 2, 2.5].map((thicknessMm) => ({ materialId: "soft", thicknessMm, inStock: true })),
  covariance: Float64Array.from({ length: places ** 2 }, (_, k) => (k % (places + 1) === 0 ? 0.06 ** 2 : 0)),
  prefer: "fewest",
});
console.log(
  `choosing on the map, ${places} places, 6 thicknesses, measured gaps, reasons and neighbours: ${((performance.now() - begun) / 1000).toFixed(2)} s (asked for: 3), ${choice.thicknesses} sheets, seats in ${(100 * choice.seatProbability).toFixed(0)} %`,
);
