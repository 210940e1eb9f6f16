import { describe, expect, it } from "vitest";
import { jointM2KPerW, padHeat } from "./index.ts";

const PAD = {
  widthMm: 14,
  heightMm: 12,
  offXMm: 0,
  offYMm: 0,
  bondLineMm: 1,
  conductivityWPerMK: 6,
  pressureKPa: 100,
  joints: 2,
  filmLeft: false,
};
const MEMORY = { widthMm: 14, heightMm: 12, powerW: 2.5 };
const heatWith = (more: Partial<typeof PAD> = {}) => padHeat({ ...MEMORY, pad: { ...PAD, ...more } });

describe("a pad between a part and the cooler", () => {
  it("lies between heat spread over the whole pad and heat straight up from the silicon, R = t/(kA) + joints by hand", () => {
    const areaM2 = 14 * 12 * 1e-6;
    // 0.2 mm of moulding with 0.9 W/mK, 1 mm of pad with 6 W/mK, two joints; beside it 30 K/W into the board.
    const perArea = 0.2e-3 / 0.9 + 1e-3 / 6 + 2 * jointM2KPerW(100);
    const beside = (theta: number): number => 1 / (1 / theta + 1 / 30);
    const { thetaKPerW } = heatWith();
    expect(thetaKPerW).toBeGreaterThan(beside(perArea / areaM2));
    expect(thetaKPerW).toBeLessThan(beside(perArea / (0.7 * 0.7 * areaM2)) * 1.05);
  });

  it("loses no heat: what does not go through the pad goes into the board at its mean rise", () => {
    const { throughPadW, riseK } = heatWith();
    expect(throughPadW).toBeLessThan(2.5);
    // The board takes no more than the hottest rise over its 30 K/W.
    expect(2.5 - throughPadW).toBeGreaterThan(0);
    expect(2.5 - throughPadW).toBeLessThanOrEqual(riseK / 30);
    const bare = padHeat({ ...MEMORY, pad: null });
    expect(bare.throughPadW).toBe(0);
    expect(bare.thetaKPerW).toBeGreaterThan(30);
  });

  it("rises in proportion to power, and more conductivity or less bond line cools", () => {
    const twice = padHeat({ ...MEMORY, powerW: 5, pad: PAD });
    expect(twice.riseK).toBeCloseTo(2 * heatWith().riseK, 6);
    expect(heatWith({ conductivityWPerMK: 12 }).riseK).toBeLessThan(heatWith().riseK);
    expect(heatWith({ bondLineMm: 2 }).riseK).toBeGreaterThan(heatWith().riseK);
    expect(heatWith({ joints: 3 }).riseK).toBeGreaterThan(heatWith().riseK);
    expect(heatWith({ pressureKPa: 5 }).riseK).toBeGreaterThan(heatWith().riseK);
  });

  it("a pad over 40 % of a package, off its centre, costs about 15 K (common practice, no source: 10 to 25)", () => {
    const lost = heatWith({ heightMm: 4.8, offYMm: 3.6 }).riseK - heatWith().riseK;
    expect(lost).toBeGreaterThan(10);
    expect(lost).toBeLessThan(25);
    const centred = heatWith({ heightMm: 4.8 }).riseK - heatWith().riseK;
    expect(centred).toBeLessThan(0.7 * lost);
  });

  it("a forgotten film costs kelvins, and a pad that misses the part does nothing", () => {
    expect(heatWith({ filmLeft: true }).riseK - heatWith().riseK).toBeGreaterThan(2);
    expect(heatWith({ offXMm: 30 }).riseK).toBeCloseTo(padHeat({ ...MEMORY, pad: null }).riseK, 6);
  });

  it("is the same for a pad a hair off its centre as for a centred one, of which a quarter is computed", () => {
    expect(heatWith({ offXMm: 1e-6 }).thetaKPerW).toBeCloseTo(heatWith().thetaKPerW, 4);
    expect(heatWith({ offXMm: 1e-6 }).throughPadW).toBeCloseTo(heatWith().throughPadW, 4);
  });

  it("does not care which way the part lies", () => {
    const turned = padHeat({ widthMm: 12, heightMm: 14, powerW: 2.5, pad: { ...PAD, widthMm: 12, heightMm: 14 } });
    expect(turned.thetaKPerW / heatWith().thetaKPerW).toBeCloseTo(1, 2);
  });
});
