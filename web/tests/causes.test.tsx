// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { analyse, diagnose, readRun } from "#core";
import { logText, MIDSIZE, type RunSpec, simulate } from "#core/virtualcard/index.ts";
import { Causes } from "../parts/run/causes.tsx";

afterEach(cleanup);

const steps = [
  { durationS: 60, load: 0 },
  { durationS: 900, load: 1 },
];
function show(more: Partial<RunSpec>): void {
  const table = readRun([new TextEncoder().encode(logText(simulate({ seed: 2, build: MIDSIZE, steps, ...more })))]);
  const { findings, limits } = diagnose(table, analyse(table));
  render(<Causes findings={findings} limits={limits} known minutesNeeded={null} />);
}

describe("likely causes", () => {
  it("lead with the likeliest, its share, its evidence and the next check", () => {
    show({ faults: { weakFan: 0.8 } });
    const [first] = screen.getAllByRole("listitem");
    expect(first?.textContent).toMatch(/a weak or dead fan\d+ %/);
    expect(screen.queryByText(/the slowest is \d+ % behind/)).not.toBeNull();
    expect(screen.queryByText("Next check:")).not.toBeNull();
  });

  it("open up to what the log can't tell", () => {
    show({ build: { ...MIDSIZE, hasHotspot: false, hasMemorySensor: false } });
    expect(screen.queryByText(/What this log can’t tell \(\d\)/)).not.toBeNull();
    expect(screen.queryByText(/No hotspot beside the edge/)).not.toBeNull();
    expect(screen.queryByText(/Memory can't be judged/)).not.toBeNull();
  });
});
