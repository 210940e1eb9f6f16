/** Screws: what a plan takes against one full solution of its stack, and how much gentler it is than a cross in three passes. */
import { asGiven, prepare, solveContact } from "#core/contact/index.ts";
import { SOFT_CURVE } from "#core/contact/tests/curves.ts";
import { fasten, readFasten } from "#core/fasteners/index.ts";

const pad = (k: number, xMm: number, yMm: number, widthMm: number, heightMm: number) => ({
  id: `p${k}`,
  kind: "memory",
  xMm,
  yMm,
  widthMm,
  heightMm,
  gapMm: 1.1,
  pad: { material: "soft", thicknessMm: 1.5 },
});
const memories = Array.from({ length: 12 }, (_, k) =>
  pad(k, [60, 80, 160, 180][k % 4] ?? 0, 20 + 30 * Math.floor(k / 4), 14, 12),
);
const regulators = Array.from({ length: 30 }, (_, k) => pad(20 + k, k < 15 ? 205 : 220, 8 + (k % 15) * 6, 6, 5));

const stackOf = (count: number, components: readonly object[]) =>
  readFasten({
    board: { widthMm: 240, heightMm: 104, thicknessMm: 1.6, youngGPa: 22, poisson: 0.15 },
    die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 },
    screws: Array.from({ length: count }, (_, k) => ({
      id: `s${k}`,
      xMm: 120 + 30 * Math.cos((2 * Math.PI * (k + 0.5)) / count),
      yMm: 52 + 30 * Math.sin((2 * Math.PI * (k + 0.5)) / count),
      forceN: 160 / count,
      springNPerMm: 20,
      group: "die",
    })),
    components,
    materials: { soft: { conductivityWPerMK: 6, curve: SOFT_CURVE } },
  });

for (const [count, askedS, components] of [
  [4, 2, memories],
  [4, 2, [...memories, ...regulators]],
  [8, 5, memories],
  [12, 10, memories],
] as const) {
  const input = stackOf(count, components);
  const prepared = prepare(input.stack);
  const one = performance.now();
  for (let k = 0; k < 5; k++) solveContact(prepared, asGiven(input.stack));
  const solution = (performance.now() - one) / 5;
  const from = performance.now();
  const { peakRatio, schools, tighten } = fasten(input);
  const took = performance.now() - from;
  const thrice = schools.find(({ name }) => name === "cross-3")?.peakRatio ?? Number.NaN;
  console.log(
    `${count} screws, ${components.length} pads: ${tighten.length} moves in ${(took / 1000).toFixed(1)} s (asked for: ${askedS}), ${(took / solution).toFixed(0)} full solutions; peak ${peakRatio?.toFixed(2)} of the end's, a cross in three passes ${thrice.toFixed(2)}`,
  );
}
