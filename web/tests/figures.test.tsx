// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { UNTOLD as RUN_AS_SET, type Run } from "#contract";
import { type Analysis, analyse, readRun } from "#core";
import { comparePairs } from "#core/service/index.ts";
import { logText, MIDSIZE, type RunSpec, simulate } from "#core/virtualcard/index.ts";
import { WindowHandles } from "../charts/window-handles.tsx";
import { Figures } from "../features/run/figures.tsx";
import { Columns } from "../parts/run/columns.tsx";
import { ComparisonSheet } from "../parts/run/comparison.tsx";
import { TextField } from "../ui/field.tsx";
import { FaultNote, Note } from "../ui/note.tsx";

afterEach(cleanup);

const judged = (more: Partial<RunSpec> = {}, options = {}): Analysis => {
  const steps = [
    { durationS: 40, load: 0 },
    { durationS: 1000, load: 1 },
  ];
  return analyse(
    readRun([new TextEncoder().encode(logText(simulate({ seed: 1, build: MIDSIZE, steps, ...more })))]),
    options,
  );
};
const STOCK_RUN = {
  ...RUN_AS_SET,
  name: "",
  attempt: 1,
  powerLimitPct: null,
  fanMode: "fixed",
  fanPct: 62,
  loadName: "loop",
  sidePanel: "open bench",
} as const;
const asRun = (name: string, analysis: Analysis): Run => ({ id: name, name, fileName: `${name}.csv`, analysis }) as Run;

describe("figures of a run", () => {
  it("lead with the rise and its interval, and open their working", () => {
    const analysis = judged();
    render(<Figures analysis={analysis} live={analysis} />);
    expect(screen.queryByText("Edge over room air")).not.toBeNull();
    const row = within(screen.getByRole("row", { name: /^Hotspot/ }));
    expect(row.getAllByRole("cell")).toHaveLength(4);
    expect(screen.getByText(/Rise = mean − room air = /).textContent).toMatch(/\d+\.\d\d − 2\d\.\d\d = \d+\.\d\d K/);
    expect(screen.queryByText("It had not settled")).toBeNull();
    expect(screen.queryByText("It throttled")).toBeNull();
  });

  it("say what can't be concluded without room air", () => {
    const analysis = judged({ sensors: { room: null } });
    render(<Figures analysis={analysis} live={analysis} />);
    expect(screen.queryByText("missing")).not.toBeNull();
    expect(within(screen.getByRole("row", { name: /^Edge/ })).getAllByRole("cell")[2]?.textContent).toMatch(/^–\s*$/);
    expect(screen.queryByText("needs the room’s air")).not.toBeNull();
  });

  it("warn of throttling and of a run that had not settled", () => {
    const hot = judged({ build: { ...MIDSIZE, edgeLimitC: 62 }, bench: { fan: 45 } });
    render(<Figures analysis={hot} live={hot} />);
    expect(screen.queryByText("It throttled")).not.toBeNull();
    cleanup();
    const steps = [
      { durationS: 20, load: 0 },
      { durationS: 200, load: 1 },
    ];
    const early = judged({ steps });
    render(<Figures analysis={early} live={early} />);
    expect(screen.queryByText(/Run about \d+ more minutes/)).not.toBeNull();
    // What is not known has no width.
    expect(screen.queryByText("not known yet")).not.toBeNull();
    expect(document.body.textContent).not.toContain("– ±");
  });
});

describe("a comparison", () => {
  const limits = { edgeC: 85, hotspotC: 105, memoryC: 95, vrmC: 110 };
  const show = (before: Analysis, after: Analysis, typed: object = {}): void => {
    const [pair] = comparePairs(
      [
        { ...STOCK_RUN, id: "before", side: "before", analysis: before },
        { ...STOCK_RUN, id: "after", side: "after", analysis: after, ...typed },
      ],
      { limits, warmestRoomC: 30, complaint: "", scatterMountK: 0.7, scatterRunK: 0.5 },
    );
    if (!pair) throw new Error("no pair");
    render(
      <ComparisonSheet pair={pair} before={asRun("before", before)} after={asRun("after", after)} limits={limits} />,
    );
  };

  it("says its verdict first, then change by sensor, what differed and what it is worth", () => {
    show(judged({ faults: { dryPaste: 0.5 } }), judged({ seed: 2, bench: { roomC: 26 } }));
    expect(screen.queryByText(/K cooler at the same fan speed and power$/)).not.toBeNull();
    expect(screen.queryByRole("row", { name: /^Edge .*cooler$/ })).not.toBeNull();
    expect(screen.queryByRole("row", { name: /^Room air .*corrected in the rise$/ })).not.toBeNull();
    expect(screen.queryByText("What it is worth:")).not.toBeNull();
    expect(screen.queryByText(/^\d+\.\d ± \d\.\d K cooler$/)).not.toBeNull();
    expect(
      screen.queryByText(/the temperature of before at .*\(95 %: \d+ to \d+ rpm, −\d+\.\d to [−+]\d+\.\d dB\)/),
    ).not.toBeNull();
    expect(screen.queryByText(/→ \d+ MHz, .* ± \d+/)).not.toBeNull();
    expect(screen.queryByText(/Mounting scatter 0\.7 K and run scatter 0\.5 K/)).not.toBeNull();
  });

  it("says how small a change it could have seen when there is none", () => {
    show(judged(), judged({ seed: 2 }));
    expect(screen.queryByText(/^No real change \(/)).not.toBeNull();
    expect(screen.queryByText(/A change of \d\.\d K or more would have been seen/)).not.toBeNull();
    expect(screen.queryByText("What it is worth:")).toBeNull();
  });

  it("warns where the card was set otherwise, says what that does, and claims no clock from it", () => {
    show(judged({ faults: { dryPaste: 0.5 } }), judged({ seed: 2 }), { undervoltMv: 75 });
    expect(screen.queryByText("Undervolt stock → 75 mV.")).not.toBeNull();
    expect(screen.queryByText(/Less voltage is less heat/)).not.toBeNull();
    expect(screen.queryByText("Sustained clock")).toBeNull();
  });

  it("does not say no change where a run was too short to tell", () => {
    const steps = [
      { durationS: 40, load: 0 },
      { durationS: 200, load: 1 },
    ];
    show(judged(), judged({ seed: 2, steps }));
    expect(
      screen.queryByText(/^The run after the work was too short to tell: run the load \d+ more minutes/),
    ).not.toBeNull();
    expect(screen.queryByRole("row", { name: /^Edge .*not known yet$/ })).not.toBeNull();
  });

  it("says what harm costs and what to look at", () => {
    show(judged(), judged({ seed: 2, faults: { heldOffMm: 0.12 } }));
    expect(screen.queryByText("What it costs:")).not.toBeNull();
    expect(screen.queryByText(/mount it again; check screws/)).not.toBeNull();
  });
});

describe("columns of a log", () => {
  it("mark unsure guesses in words and hand a change on", () => {
    const onRole = vi.fn();
    render(
      <Columns
        columns={[
          { header: "GPU", role: "edge", unit: "°C", sure: true, sample: "40 · 41" },
          { header: "T2", role: "probe", unit: null, sure: false, sample: "30 · 31" },
        ]}
        onRole={onRole}
      />,
    );
    expect(screen.queryByText(/1 column is marked/)).not.toBeNull();
    expect(screen.getAllByText("check")).toHaveLength(1);
    fireEvent.change(screen.getByLabelText("“T2” was taken for"), { target: { value: "vrm" } });
    expect(onRole).toHaveBeenCalledWith("T2", "vrm");
    fireEvent.change(screen.getByLabelText("“GPU” was taken for"), { target: { value: "" } });
    expect(onRole).toHaveBeenLastCalledWith("GPU", null);
  });
});

describe("edges of the steady window", () => {
  const area = { left: 0, right: 1000, top: 0, bottom: 100 };
  it("move by keys, ten times as far with Shift, and never past each other", () => {
    const onWindow = vi.fn();
    render(
      <WindowHandles
        window={{ fromS: 500, toS: 540 }}
        area={area}
        toX={(time) => time}
        toTime={(x) => x}
        durationS={1000}
        onWindow={onWindow}
      />,
    );
    const start = screen.getByRole("slider", { name: "Steady window starts" });
    fireEvent.keyDown(start, { key: "ArrowLeft" });
    expect(onWindow).toHaveBeenLastCalledWith({ fromS: 495, toS: 540 });
    fireEvent.keyDown(start, { key: "ArrowRight", shiftKey: true });
    expect(onWindow).toHaveBeenLastCalledWith({ fromS: 510, toS: 540 });
    fireEvent.keyDown(screen.getByRole("slider", { name: "Steady window ends" }), {
      key: "ArrowRight",
      shiftKey: true,
    });
    expect(onWindow).toHaveBeenLastCalledWith({ fromS: 500, toS: 590 });
    expect(start.getAttribute("aria-valuetext")).toBe("8:20 minutes");
  });
});

describe("fields and notes", () => {
  it("tie a field to its hint and its error", () => {
    render(<TextField label="Price" hint="In euros" error="Not below 0." defaultValue="-1" />);
    const field = screen.getByLabelText("Price");
    expect(field.getAttribute("aria-invalid")).toBe("true");
    const described = field
      .getAttribute("aria-describedby")
      ?.split(" ")
      .map((id) => document.getElementById(id)?.textContent);
    expect(described).toEqual(["In euros", "Not below 0."]);
  });
  it("say in words what kind of note it is, and stay silent without a fault", () => {
    const { container } = render(<FaultNote error={undefined} />);
    expect(container.textContent).toBe("");
    for (const [kind, word] of [
      ["caution", "Caution"],
      ["fault", "Problem"],
      ["info", "Note"],
    ] as const) {
      render(<Note kind={kind} title="Hot" />);
      expect(screen.queryByText(new RegExp(`^${word}:`))).not.toBeNull();
      cleanup();
    }
  });
});

describe("the working of a rise", () => {
  it("tells how far the card is behind a room that moves, and nothing of it where the room keeps still", () => {
    const moving = judged({ bench: { roomDriftKPerH: 9 } });
    render(<Figures analysis={moving} live={moving} />);
    expect(screen.queryByText(/The room moved, .* 0\.\d+ K below where it would stand/)).not.toBeNull();
    cleanup();
    const still = judged({ bench: { roomDriftKPerH: 0, roomSwingK: 0 } });
    render(<Figures analysis={still} live={still} />);
    expect(screen.queryByText(/The room moved/)).toBeNull();
  });
});
