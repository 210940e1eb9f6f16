import { describe, expect, it } from "vitest";
import { cholesky, nth, solveCholesky } from "../numeric/index.ts";
import { type Random, seeded } from "../random/index.ts";
import { type Brought, bringsInAir, bringsInWater, loopDba, type Today } from "./index.ts";

describe("what it brings in air", () => {
  const today = { powerW: 200, fanRpm: 1500, dba: 38, edgeK: 50, edgeU95K: 1, memoryK: 55, vrmK: 45 };
  const points = [
    { fanRpm: 1000, kPerW: 0.2, dba: 28 },
    { fanRpm: 2000, kPerW: 0.15, dba: 43 },
  ];

  it("goes through its points, quieter and cooler where it is both", () => {
    const [slow, middle, fast] = bringsInAir(points, today, { memory: true, vrm: false });
    expect(slow?.die.riseK).toBeCloseTo(40, 9);
    expect(fast?.die.riseK).toBeCloseTo(30, 9);
    // Straight in logarithms: √(0.2 · 0.15) at √(1000 · 2000).
    expect(middle?.die.riseK).toBeCloseTo(200 * Math.sqrt(0.03), 9);
    expect(slow?.vrm).toBeNull();
    expect(slow?.memory?.riseK).toBeLessThan(55);
    // As loud as 28 dBA today's fans turn slower than at 38: by 10 dB of 50 a decade.
    expect(slow?.atEqualNoiseK?.todayRpm).toBeCloseTo(1500 * 10 ** (-10 / 50), 6);
    expect(slow?.atEqualNoiseK?.riseK).toBeLessThan(slow?.atEqualSpeedK.riseK ?? 0);
  });

  it("says nothing without points, and no noise where a level is not known", () => {
    expect(bringsInAir([], today, { memory: true, vrm: true })).toEqual([]);
    const [row] = bringsInAir(points, { ...today, dba: null }, { memory: true, vrm: true });
    expect(row?.atEqualNoiseK).toBeNull();
  });
});

describe("what it brings in water", () => {
  const today = { powerW: 200, fanRpm: 1500, dba: 38, edgeK: 50, edgeU95K: 1, memoryK: 55, vrmK: 45 };
  const point = { fanRpm: 900, dba: 28, die: { riseK: 25, u95K: 2 }, coolantOverRoomK: 10 };

  it("is held against the card as it ran, and against its fans as loud as the radiator’s", () => {
    const [row] = bringsInWater([point], today, { memory: true, vrm: true });
    expect(row?.againstTodayK.riseK).toBeCloseTo(-25, 9);
    expect(row?.againstTodayK.u95K).toBeCloseTo(Math.hypot(2, 1), 9);
    // 10 dB less by speed alone: fewer turns by 10^(1/5); there today’s cooler is warmer, so the gain is larger.
    expect(row?.atEqualNoiseK?.todayRpm).toBeCloseTo(1500 / 10 ** 0.2, 6);
    expect(row?.atEqualNoiseK?.riseK).toBeLessThan(-25);
    expect(row?.memory?.riseK).toBeLessThan(55);
    expect(row?.memory?.u95K).toBeGreaterThan(row?.die.u95K ?? 0);
  });

  it("foretells nothing of what loses its contact or was not measured, and no noise without a level", () => {
    const [row] = bringsInWater([{ ...point, dba: null }], { ...today, vrmK: null }, { memory: false, vrm: true });
    expect(row).toMatchObject({ memory: null, vrm: null, atEqualNoiseK: null });
  });

  it("adds the levels of radiators: two alike are 3 dB louder than one; one without a level leaves all unknown", () => {
    const one = [{ fanRpm: 1000, dba: 30 }];
    expect(loopDba([one, one], 1000)).toBeCloseTo(30 + 10 * Math.log10(2), 9);
    // Fan law: twice the speed is 50·log₁₀ 2 louder.
    expect(loopDba([one], 2000)).toBeCloseTo(30 + 50 * Math.log10(2), 9);
    expect(loopDba([one, [{ fanRpm: 1000, dba: null }]], 1000)).toBeNull();
    expect(loopDba([], 1000)).toBeNull();
  });
});

/** Rises of die, memory and VRM in a network that shares nothing with the estimate: a plate in two parts, and a board that cools itself. */
function network(
  heat: Heat,
  sinkKPerW: number,
  pads: { memory: number; vrm: number },
): Record<"edge" | "memory" | "vrm", number> {
  // Nodes: die, memory, VRM, plate under the die, its rim, board.
  const size = 6;
  const matrix = new Float64Array(size * size);
  const joined = (a: number, b: number, kPerW: number): void => {
    matrix[a * size + a] = nth(matrix, a * size + a) + 1 / kPerW;
    if (b < 0) return;
    matrix[b * size + b] = nth(matrix, b * size + b) + 1 / kPerW;
    for (const [row, column] of [
      [a, b],
      [b, a],
    ] as const)
      matrix[row * size + column] = nth(matrix, row * size + column) - 1 / kPerW;
  };
  joined(0, 3, heat.joint);
  joined(3, 4, heat.spread);
  joined(1, 4, pads.memory);
  joined(2, 4, pads.vrm);
  joined(0, 5, heat.dieToBoard);
  joined(1, 5, heat.partToBoard);
  joined(2, 5, heat.partToBoard);
  joined(5, AIR, heat.boardToAir);
  joined(3, AIR, sinkKPerW / 0.6);
  joined(4, AIR, sinkKPerW / 0.4);
  const factor = cholesky(matrix, size);
  if (!factor) throw new Error("This network has no way to the air.");
  const rises = solveCholesky(factor, Float64Array.from([heat.dieW, heat.memoryW, heat.vrmW, 0, 0, 0]));
  return { edge: nth(rises, 0), memory: nth(rises, 1), vrm: nth(rises, 2) };
}
const AIR = -1;

interface Heat {
  dieW: number;
  memoryW: number;
  vrmW: number;
  joint: number;
  spread: number;
  dieToBoard: number;
  partToBoard: number;
  boardToAir: number;
}
const someCard = (chance: Random): Heat => ({
  dieW: chance.between(110, 260),
  memoryW: chance.between(18, 45),
  vrmW: chance.between(12, 30),
  joint: chance.between(0.03, 0.09),
  // A thick plate under all, or a thin frame that hangs on it.
  spread: chance.between(0.02, chance.uniform() < 0.3 ? 0.35 : 0.08),
  dieToBoard: chance.between(1.5, 5),
  partToBoard: chance.between(1.2, 4),
  boardToAir: chance.between(0.8, 2.5),
});

it("holds its intervals on cards of another structure, in air and in water, for die, memory and VRM", () => {
  const chance = seeded(1515);
  const held = { die: 0, memory: 0, vrm: 0 };
  const cards = 400;
  const holds = (one: Brought | null | undefined, trueK: number): number =>
    one && Math.abs(one.riseK - trueK) <= one.u95K ? 1 : 0;
  for (let k = 0; k < cards; k++) {
    const heat = someCard(chance);
    const oldSink = chance.between(0.14, 0.3);
    const newSink = k % 2 === 0 ? oldSink * chance.between(0.45, 0.95) : chance.between(0.05, 0.1);
    const pads = { memory: chance.between(0.15, 0.6), vrm: chance.between(0.2, 0.8) };
    const newPads = { memory: pads.memory * chance.between(0.85, 1.15), vrm: pads.vrm * chance.between(0.85, 1.15) };
    const before = network(heat, oldSink, pads);
    // Beside the sink its joint, its plate and what the parts lie on are others.
    const renewed = {
      ...heat,
      joint: heat.joint * chance.between(0.55, 1.1),
      spread: heat.spread * chance.between(0.6, 1.4),
    };
    const after = network(renewed, newSink, newPads);
    const today: Today = {
      powerW: heat.dieW + heat.memoryW + heat.vrmW,
      fanRpm: 1500,
      dba: null,
      edgeK: before.edge + 0.4 * chance.normal(),
      edgeU95K: 0.8,
      memoryK: before.memory,
      vrmK: before.vrm,
    };
    const sheet = (after.edge / today.powerW) * (1 + 0.06 * chance.normal());
    const touches = { memory: true, vrm: true };
    const [row] =
      k % 2 === 0
        ? bringsInAir([{ fanRpm: 1500, kPerW: sheet, dba: null }], today, touches).slice(1)
        : bringsInWater(
            [
              {
                fanRpm: 900,
                dba: null,
                die: { riseK: today.powerW * sheet, u95K: 0.12 * today.powerW * sheet },
                coolantOverRoomK: 8,
              },
            ],
            today,
            touches,
          );
    held.die += holds(row?.die, after.edge);
    held.memory += holds(row?.memory, after.memory);
    held.vrm += holds(row?.vrm, after.vrm);
  }
  for (const count of Object.values(held)) expect(count / cards).toBeGreaterThanOrEqual(0.9);
});
