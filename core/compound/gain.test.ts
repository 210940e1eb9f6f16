import { describe, expect, it } from "vitest";
import { stepAnswer } from "../diagnose/index.ts";
import { seeded } from "../random/index.ts";
import { COMPOUND_KINDS, gainOf, layerAt, layerKPerW, oldLayerKPerW, refusedWhy, restKPerW } from "./gain.ts";

/** A usual die with its power, W. */
const DIE_MM2 = 440;
const at = (powerW: number) => ({ areaMm2: DIE_MM2, powerW, fast: null });

describe("a layer between die and plate", () => {
  it("is bond line over conductivity and joints, over its area (ASTM D5470's model, from memory)", () => {
    const layer = { ...COMPOUND_KINDS.paste.layer, conductivityWPerMK: 5, bondLineUm: 50, jointMm2KPerW: 0 };
    // 50 µm ÷ 5 W/mK = 10 mm²K/W, over 500 mm² 0.02 K/W.
    expect(layerKPerW(layer, 500).value).toBeCloseTo(0.02, 12);
  });

  it("of paste gets thinner with the pressure by Prasher's law (2001, from memory), liquid metal does not", () => {
    const at10 = layerAt("paste", 1500).bondLineUm;
    expect(at10).toBeCloseTo(28.4, 1);
    expect(layerAt("paste", 150).bondLineUm / at10).toBeCloseTo(10 ** 0.166, 6);
    expect(layerAt("liquid metal", 150)).toEqual(layerAt("liquid metal", 1500));
  });

  it("of liquid metal gains 3 to 4 K over good paste on a bare die, up to 7 overclocked (common practice, no source)", () => {
    const metal = COMPOUND_KINDS["liquid metal"].layer;
    const usual = gainOf(metal, at(210));
    expect(usual.overPasteK).toBeGreaterThan(3);
    expect(usual.overPasteK).toBeLessThan(4);
    expect(gainOf(metal, at(390)).overPasteK).toBeLessThan(7);
  });

  it("of a phase-change sheet is about as good as paste (common practice, no source)", () => {
    const { overPasteK, overPasteU95K } = gainOf(COMPOUND_KINDS["phase-change"].layer, at(200));
    expect(Math.abs(overPasteK)).toBeLessThan(overPasteU95K);
  });

  it("is refused where it destroys: liquid metal on aluminium, adhesive under a die", () => {
    expect(refusedWhy("liquid metal", "aluminium")).toMatch(/aluminium/);
    expect(refusedWhy("liquid metal", "copper")).toBe("");
    expect(refusedWhy("adhesive", "copper")).not.toBe("");
    expect(refusedWhy("paste", "aluminium")).toBe("");
  });

  it("that was seen to jump high costs more than one that was seen to jump little", () => {
    const rest = restKPerW(DIE_MM2).value;
    const of = (kPerW: number): number => oldLayerKPerW({ ...at(200), fast: { value: rest + kPerW, sd: 0.004 } }).value;
    expect(of(0.1)).toBeGreaterThan(of(0.03) + 0.03);
  });
});

/** Heat through die, layer, plate in two parts, fins and case air: five masses, stepped in time; what an edge sensor shows every second. */
function heated(
  layer: number,
  other: { die: number; spread: number; fins: number; air: number },
  watts: number,
  round: number,
) {
  const masses = [6, 60, 160, 420, 2500];
  const ways = [other.die + layer, other.spread, other.fins * 0.4, other.fins * 0.6, other.air];
  const temperatures = masses.map(() => 0);
  const [timeS, edgeC, powerW]: [number[], number[], number[]] = [[], [], []];
  const STEP_S = 0.05;
  for (let s = 0; s < 400; s += STEP_S) {
    const power = s < 60 ? 12 : watts;
    if (Math.abs(s - Math.round(s)) < STEP_S / 2) {
      timeS.push(Math.round(s));
      edgeC.push(Math.round((25 + (temperatures[0] ?? 0)) / round) * round);
      powerW.push(power);
    }
    const flows = ways.map((r, k) => ((temperatures[k] ?? 0) - (temperatures[k + 1] ?? 0)) / r);
    temperatures.forEach((_value, k) => {
      const into = k === 0 ? power : (flows[k - 1] ?? 0);
      temperatures[k] = (temperatures[k] ?? 0) + (STEP_S * (into - (flows[k] ?? 0))) / (masses[k] ?? 1);
    });
  }
  return { timeS: Float64Array.from(timeS), edgeC: Float64Array.from(edgeC), powerW: Float64Array.from(powerW) };
}

describe("what a fresh compound brings on cards of another structure", () => {
  it("lies within its interval nine times in ten", () => {
    const chance = seeded(14);
    const tries = 60;
    let held = 0;
    for (let k = 0; k < tries; k++) {
      const areaMm2 = chance.between(180, 620);
      const powerW = areaMm2 * chance.between(0.3, 0.6);
      const fresh = (chance.between(28, 60) / chance.between(5, 10) + chance.between(2, 7)) / areaMm2;
      const old = fresh * chance.between(1, 5);
      const root = Math.sqrt(areaMm2 * 1e-6);
      const other = {
        die: 0.78e-3 / (chance.between(120, 150) * areaMm2 * 1e-6),
        spread: chance.between(0.2, 0.9) * (0.479 / (401 * root)),
        fins: chance.between(0.06, 0.16),
        air: chance.between(0.05, 0.12),
      };
      const lines = heated(old, other, powerW, chance.pick([0.1, 1]));
      const answer = stepAnswer(lines, [{ fromS: 60, toS: 400 }], 1);
      const { gainK, u95K } = gainOf(COMPOUND_KINDS.paste.layer, {
        areaMm2,
        powerW,
        fast: answer ? { value: answer.kPerW, sd: answer.sd } : null,
      });
      if (Math.abs(gainK - powerW * (old - fresh)) <= u95K) held++;
    }
    expect(held).toBeGreaterThanOrEqual(0.9 * tries);
  });
});
