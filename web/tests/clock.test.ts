import { describe, expect, it } from "vitest";
import { clockLeft, clockTitle } from "../ui/clock-words.ts";

const NOON = Date.parse("2026-03-01T12:00:00");
const HOUR = 3_600_000;
const clock = { id: "rest:fins", what: "The heatsink dries", fromMs: NOON, untilMs: NOON + 5 * HOUR };

describe("a clock in words", () => {
  it("says how long still and until when, then that its time is over", () => {
    expect(clockLeft(clock, NOON + HOUR)).toEqual({
      words: expect.stringMatching(/^4 h 0 min, until 0?5:00/),
      over: false,
    });
    expect(clockLeft(clock, NOON + 6 * HOUR)).toMatchObject({ over: true });
    expect(clockLeft({ ...clock, untilMs: NOON + 30 * HOUR }, NOON).words).toMatch(/^30 h 0 min, until Mon/);
  });

  it("in air that dries nothing, and after the machine’s clock was set back, it names no time", () => {
    expect(clockLeft({ ...clock, untilMs: null }, NOON).words).toMatch(/warm air/);
    expect(clockLeft(clock, NOON - HOUR).words).toMatch(/set back/);
    // Devices may differ by minutes.
    expect(clockLeft(clock, NOON - 60_000).words).toMatch(/^5 h/);
  });

  it("in the title the one that ends first stands, and nothing where none ends", () => {
    const other = { ...clock, id: "b", what: "The backplate dries", untilMs: NOON + HOUR };
    expect(clockTitle([clock, other], NOON)).toBe("1 h 0 min: The backplate dries");
    expect(clockTitle([clock, other], NOON + 2 * HOUR)).toBe("Ready: The backplate dries");
    expect(clockTitle([{ ...clock, untilMs: null }], NOON)).toBe("");
  });
});
