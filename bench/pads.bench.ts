/** Contact and cutting: time of one answer relative to a plain solution of the plate in the same run, choosing, and cost against the best known. */
import { choose, readStack } from "#core/contact/index.ts";
import { asGiven, prepare, solveContact } from "#core/contact/solve.ts";
import { planCuts, readCuts } from "#core/cutting/index.ts";

const SOFT = {
  conductivityWPerMK: 6,
  curve: [
    [0, 0],
    [0.1, 35],
    [0.2, 80],
    [0.3, 150],
    [0.4, 270],
    [0.5, 480],
  ],
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

const middle = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1] ?? Number.NaN;
const timed = (work: () => void): number => {
  const begun = performance.now();
  work();
  return performance.now() - begun;
};
const prepared = prepare(stack);
const plain = prepared.plate.copy();
for (let dof = 0; dof < plain.size; dof++) plain.add(dof, dof, 1);
const right = new Float64Array(plain.size).fill(1);
const one = middle(Array.from({ length: 15 }, () => timed(() => void plain.copy().solve(right))));
const whole = middle(Array.from({ length: 15 }, () => timed(() => void solveContact(prepared, asGiven(stack)))));
console.log(
  `contact of 12 memory and 30 VRM places: ${whole.toFixed(0)} ms (asked for: 50), ${(whole / one).toFixed(1)} times one plain solution of its plate`,
);
console.log(
  `choosing over 6 thicknesses with 60 samples: ${(timed(() => void choose(stack, [0.5, 1, 1.5, 2, 2.5, 3])) / 1000).toFixed(2)} s (asked for: 3)`,
);

const pads = [
  ["memory", 14, 12, 12],
  ["mosfet", 6, 5, 16],
  ["choke", 10, 10, 12],
].map(([id, widthMm, heightMm, quantity]) => ({ id, widthMm, heightMm, quantity, thicknessMm: 1, material: "soft" }));
const sheet = (id: string, widthMm: number, heightMm: number, price: number, quantity: number | null = null) => ({
  id,
  widthMm,
  heightMm,
  price,
  quantity,
  thicknessMm: 1,
  material: "soft",
});
for (const [name, stock] of [
  ["one size of sheet", [sheet("s", 85, 45, 6)]],
  ["two sizes and a left-over", [sheet("rest", 60, 20, 0, 1), sheet("small", 50, 50, 4), sheet("large", 100, 100, 12)]],
] as const) {
  const task = readCuts({ pieces: pads, stock });
  let cost = 0;
  let bound = 0;
  const ms = timed(() => {
    const plan = planCuts(task, { now: () => performance.now(), until: performance.now() + 2000 });
    cost = plan.cost;
    bound = plan.lowerBoundCost;
  });
  console.log(
    `cutting 40 pieces, ${name}: cost ${cost}, never below ${bound}, ratio ${(cost / bound).toFixed(3)} after ${(ms / 1000).toFixed(2)} s (asked for: 2)`,
  );
}
