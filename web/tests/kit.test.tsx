// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it } from "vitest";
import { USUAL_LIMITS } from "#contract";
import { compare } from "#core";
import { outcomeOf } from "#core/outcome/index.ts";
import { readRun } from "#core/runfile/index.ts";
import { analyse } from "#core/soak/index.ts";
import { logText, MIDSIZE, type RunSpec, simulate } from "#core/virtualcard/index.ts";
import { faultOf } from "../app/fault.ts";
import { typedFrom } from "../parts/run/conditions.tsx";
import { toRunInput } from "../parts/run/to-input.ts";
import { verdictSentence } from "../parts/run/verdict.ts";
import { numberOrNull, TextField } from "../ui/field.tsx";
import { figure, partTemperature, signed, span } from "../ui/format.ts";
import { RiseLadder } from "../ui/rise-ladder.tsx";
import { RunSession } from "../workers/run-session.ts";

afterEach(cleanup);

const log = (more: Partial<RunSpec> = {}): string =>
  logText(
    simulate({
      seed: 1,
      build: MIDSIZE,
      steps: [
        { durationS: 40, load: 0 },
        { durationS: 1000, load: 1 },
      ],
      ...more,
    }),
  );

describe("figures on screen", () => {
  it("writes a true minus, a dash for what is not known, and minutes with seconds", () => {
    expect(figure(-3.04)).toBe("−3.0");
    expect(figure(null)).toBe("–");
    expect(signed(12.06)).toBe("+12.1");
    expect(signed(-0.01)).toBe("0.0");
    expect(span(125.4)).toBe("2:05");
  });

  it("reads numbers as people type them, and keeps nonsense for the check to name", () => {
    expect(numberOrNull(" 21,5 ")).toBe(21.5);
    expect(numberOrNull("")).toBeNull();
    expect(numberOrNull("warm")).toBeNaN();
    expect(numberOrNull("1.234")).toBeNaN();
  });

  it("give no figure to a part that would burn", () => {
    expect(partTemperature(97.4)).toBe("97 °C");
    expect(partTemperature(412)).toBe("over 200 °C: do not run");
    expect(partTemperature(null)).toBe("– °C");
  });

  it("are asked about where a point may part thousands, and take the answer", () => {
    const Price = () => {
      const [text, setText] = useState("");
      return (
        <TextField label="Price" inputMode="decimal" value={text} onChange={(event) => setText(event.target.value)} />
      );
    };
    render(<Price />);
    const field = screen.getByLabelText<HTMLInputElement>("Price");
    fireEvent.input(field, { target: { value: "1.234" } });
    expect(screen.getByRole("alert").textContent).toContain("Which is meant?");
    fireEvent.click(screen.getByRole("button", { name: "1234" }));
    expect([field.value, screen.queryByRole("alert")]).toEqual(["1234", null]);
    fireEvent.input(field, { target: { value: "1,234" } });
    fireEvent.click(screen.getByRole("button", { name: "1.234" }));
    expect([numberOrNull(field.value), screen.queryByRole("alert")]).toEqual([1.234, null]);
  });
});

describe("rise ladder", () => {
  it("says in words what it shows", () => {
    render(
      <RiseLadder
        label="Rises"
        columns={[{ role: "edge", beforeK: 60.2, beforeU95K: 0.6, afterK: 48, afterU95K: 0.6, limitK: 63 }]}
      />,
    );
    expect(screen.getByRole("img").textContent).toContain("Edge: before 60.2 K, after 48.0 K");
    expect(screen.queryByText("limit")).not.toBeNull();
  });
});

describe("the verdict in words", () => {
  const judged = (more: Partial<RunSpec>) => analyse(readRun([new TextEncoder().encode(log(more))]));
  it.each([
    [
      "a gain",
      { faults: { dryPaste: 0.5 } },
      { seed: 2 },
      /^\d+\.\d ± \d\.\d K cooler at the same fan speed and power$/,
    ],
    ["none", {}, { seed: 2 }, /^No real change \(/],
    ["harm", {}, { seed: 2, faults: { heldOffMm: 0.15 } }, /^Die .* hotter at the same fan speed and power\. Hotspot /],
    [
      "missing air",
      { sensors: { room: null } },
      { seed: 2 },
      /^Can’t be compared: Room air is missing from the first run/,
    ],
  ])("%s", (_, before, after, words) => {
    const comparison = compare(judged(before), judged(after));
    const outcome = outcomeOf({ comparison, limits: USUAL_LIMITS, warmestRoomC: 30, complaint: "" });
    expect(verdictSentence({ comparison, outcome })).toMatch(words);
  });
});

describe("conditions as typed", () => {
  const rest = {
    side: "before" as const,
    mapping: [],
    intervalS: null,
    window: null,
    load: 2,
    attempt: null,
    leftOut: "",
  };
  it("become numbers, or one message per field", () => {
    expect(toRunInput({ ...typedFrom({ fanMode: "fixed" }), fanPct: "62", ambientC: "21,5" }, rest)).toMatchObject({
      input: { fanPct: 62, ambientC: 21.5, ambientU95K: null, load: 2 },
    });
    expect(toRunInput({ ...typedFrom({}), ambientC: "70" }, rest)).toMatchObject({
      errors: { ambientC: expect.stringContaining("Fahrenheit") },
    });
  });
});

describe("faults in words", () => {
  it("names a server that is gone, a problem it told, and anything else", () => {
    expect(faultOf({ status: "FETCH_ERROR" })?.what).toMatch(/does not answer/);
    expect(faultOf({ status: 422, data: { code: "x", what: "W.", remedy: "R." } })).toMatchObject({
      what: "W.",
      remedy: "R.",
    });
    expect(faultOf({ status: 500, data: "?" })?.remedy).toMatch(/Nothing typed is lost/);
    expect(faultOf(undefined)).toBeNull();
  });
});

describe("a log in the worker", () => {
  it("is read with progress, settled by a map, drawn by its extremes and judged in a window", async () => {
    const session = new RunSession();
    let share = 0;
    const opened = await session.openFile(new Blob([log({ sensors: { spikeChance: 0.01 } })]), (done) => {
      share = done;
    });
    expect(share).toBe(1);
    expect("ok" in opened && opened.ok.headers[1]).toBe("GPU temperature [°C]");
    const view = await session.settle({ map: [["probe", "VRM [°C]"]] });
    if (!("ok" in view)) throw new Error("was not read");
    expect(view.ok.columns.find((column) => column.header === "VRM [°C]")?.role).toBe("probe");
    const { points } = await session.envelope([1], 0, view.ok.durationS, 100);
    const drawn = points[0] ?? new Float64Array(0);
    expect(drawn.length / 2).toBeLessThanOrEqual(200);
    const text = log({ sensors: { spikeChance: 0.01 } });
    const highest = Math.max(
      ...text
        .trim()
        .split("\n")
        .slice(1)
        .map((line) => Number(line.split(",")[1])),
    );
    expect(Math.max(...drawn.filter((_, k) => k % 2 === 1))).toBe(highest);
    const figures = await session.figuresIn(700, 1000, { ambientC: 22 });
    expect(figures.ambient?.source).toBe("option");
    const refused = await new RunSession().openFile(new Blob([""]), () => undefined);
    expect(refused).toMatchObject({ problem: { code: "empty" } });
  });
});
