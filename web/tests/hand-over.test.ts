// @vitest-environment happy-dom
import { expect, it } from "vitest";
import type { HandOverInput } from "#contract";
import { HAND_OVER } from "../stations/record/use-hand-over.ts";

const box = (...leaves: string[]): HandOverInput => ({
  photos: null,
  watch: "",
  leaves: leaves.map((one) => ({ what: one.replace("*", ""), packed: one.endsWith("*") })),
});

it("two windows pack one box: what either put in, took out or ticked holds", () => {
  const merged = HAND_OVER.merge?.(
    box("pads", "fan", "screws"),
    { ...box("pads*", "fan", "cable"), watch: "oil" },
    { ...box("pads", "screws*", "bracket"), photos: ["p"] },
  );
  // Mine: pads ticked, screws out, a cable in. Theirs: fan out, screws ticked, a bracket in.
  expect(merged).toEqual({ ...box("pads*", "bracket", "cable"), watch: "oil", photos: ["p"] });
});
