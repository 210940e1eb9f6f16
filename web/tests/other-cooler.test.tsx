// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { useState } from "react";
import { Provider } from "react-redux";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it } from "vitest";
import { type CoolerJob, type CoolerPlan, EMPTY_COOLER_PLAN } from "#contract";
import { type BoardMap, PACKAGES, stampPart } from "#core/boardmap/index.ts";
import type { Cooler } from "#core/coolers/index.ts";
import { BLOCK, memory, ON_MAP } from "#core/coolers/tests/made.ts";
import type { Kept } from "../app/document.ts";
import { makeStore } from "../app/store.ts";
import { BringsPart } from "../features/other-cooler/brings.tsx";
import { FitPart } from "../features/other-cooler/fit.tsx";
import { HeatsinksPart } from "../features/other-cooler/heatsinks.tsx";
import { LeakPart } from "../features/other-cooler/leak.tsx";
import { LoopPart } from "../features/other-cooler/loop.tsx";
import { fittedOf, otherOf, padJobWith } from "../parts/cooler/fitted.ts";
import { fitHeadline, lostContacts } from "../parts/cooler/words.ts";

afterEach(cleanup);

const mosfet = PACKAGES.find(({ kind }) => kind === "mosfet");
if (!mosfet) throw new Error("The usual packages are gone.");
const MAP: BoardMap = stampPart(ON_MAP, mosfet, { xMm: 160, yMm: 50 }, "front").map;
const AIR: Cooler = {
  ...BLOCK,
  name: "Broad",
  kind: "air",
  plate: BLOCK.plate && { ...BLOCK.plate, metal: "aluminium" },
  heightMm: 60,
  weightG: 1400,
  air: [
    { fanRpm: 1000, kPerW: 0.2, dba: 28 },
    { fanRpm: 2000, kPerW: 0.15, dba: 43 },
  ],
};
const WET: Cooler = {
  ...AIR,
  name: "Block",
  kind: "waterblock",
  air: [],
  water: {
    insideMl: 50,
    losses: [{ lPerMin: 3, kPa: 8 }],
    block: [{ lPerMin: 3, kPerW: 0.08 }],
  },
};
const NOW = { runName: "Fixed fan", powerW: 200, fanRpm: 1500, dba: 38, edgeK: 50, edgeU95K: 1, memoryK: 55, vrmK: 45 };
const jobWith = (cooler: Cooler | null, more: Partial<CoolerJob> = {}): CoolerJob => ({
  serviceId: "s1",
  plan: { ...EMPTY_COOLER_PLAN, coolerId: cooler && "c1" },
  version: 1,
  cooler,
  boardModelId: "b1",
  boardName: "OC-7",
  map: MAP,
  now: NOW,
  ...more,
});

/** The plan as the page keeps it, without a server behind it. */
function Held({ start, children }: { start: CoolerPlan; children: (plan: Kept<CoolerPlan>) => React.ReactNode }) {
  const [value, setValue] = useState(start);
  const [store] = useState(makeStore);
  return (
    <Provider store={store}>
      <MemoryRouter>
        {children({
          value,
          change: (more: Partial<CoolerPlan>) => setValue((was) => ({ ...was, ...more })),
        } as Kept<CoolerPlan>)}
      </MemoryRouter>
    </Provider>
  );
}

describe("what another cooler brings", () => {
  const brings = (cooler: Cooler, more: Partial<CoolerJob> = {}, loop: CoolerPlan["loop"] = null) => {
    const job = jobWith(cooler, more);
    render(
      <Held start={job.plan}>{() => <BringsPart job={job} cooler={cooler} loop={loop} answer={fittedOf(job)} />}</Held>,
    );
  };

  it("has a lost contact as its headline, and foretells nothing of what lost it", () => {
    brings(AIR);
    expect(screen.queryByText("VRM (Q1) lose their contact")).not.toBeNull();
    expect(screen.getAllByText(/Die temperature\s+alone is no proof/)).toHaveLength(1);
    const rows = screen.getAllByRole("row").slice(1);
    expect(rows).toHaveLength(3);
    for (const row of rows) expect(within(row).getAllByText("loses its contact")).toHaveLength(1);
    // 200 W × 0.2 K/W at the slowest speed.
    expect(rows[0]?.textContent).toMatch(/1000 rpm.*40\.0 ± /);
  });

  it("asks for a baseline, for figures, or for a loop where one of them is missing", () => {
    brings(AIR, { now: null });
    expect(screen.queryByText("Nothing to compare with yet")).not.toBeNull();
    cleanup();
    brings({ ...AIR, air: [] });
    expect(screen.queryByText("Nothing is known of what Broad does in air")).not.toBeNull();
    cleanup();
    brings(WET);
    expect(screen.queryByText("What it brings depends on its loop")).not.toBeNull();
  });

  const LOOP: NonNullable<CoolerPlan["loop"]> = {
    pump: [
      { lPerMin: 0, kPa: 30 },
      { lPerMin: 8, kPa: 0 },
    ],
    radiators: [{ name: "Front", insideMl: 100, losses: [], cooling: [{ fanRpm: 900, wPerK: 20, dba: 30 }] }],
    tubeMm: 1500,
    boreMm: 10,
    bends: 4,
    reservoirMl: 150,
    fanRpm: 1800,
  };

  it("in water: die, coolant, memory and VRM at three speeds of the radiators’ fans, equally loud where all have a level", () => {
    brings({ ...WET, faces: [...WET.faces, { ...WET.faces[0]!, id: "f2", xMm: 60 }] }, {}, LOOP);
    const rows = screen.getAllByRole("row").slice(1);
    expect(rows.map((row) => row.textContent?.match(/^\d+ rpm/)?.[0])).toEqual(["900 rpm", "1273 rpm", "1800 rpm"]);
    for (const row of rows) expect(row.textContent).toMatch(/today’s at \d+ rpm/);
    expect(screen.queryByText("not known")).toBeNull();
  });

  it("in water: says that equally loud is not known, and what a radiator lacks", () => {
    const silent = LOOP.radiators.map((one) => ({
      ...one,
      cooling: one.cooling.map((point) => ({ ...point, dba: null })),
    }));
    brings(WET, {}, { ...LOOP, radiators: silent });
    expect(screen.queryByText(/a radiator has no sound level under “Water”/)).not.toBeNull();
    cleanup();
    brings(WET, {}, { ...LOOP, radiators: [{ name: "", insideMl: 0, losses: [], cooling: [] }] });
    expect(screen.queryByText("A radiator has no data.")).not.toBeNull();
  });

  it("a loop says where it comes to rest and how much water fills it; a pump that does not fall is refused", () => {
    const job = jobWith(WET, { plan: { ...EMPTY_COOLER_PLAN, coolerId: "c1", loop: LOOP } });
    render(<Held start={job.plan}>{(plan) => <LoopPart job={job} plan={plan} cooler={WET} />}</Held>);
    // Reservoir 150, block 50, radiator 100, and π/4 · 1 cm² · 150 cm of tube.
    expect(screen.queryByText(`${Math.round(300 + (Math.PI / 4) * 150)} mL`)).not.toBeNull();
    const [shut] = screen.getAllByLabelText("kPa");
    if (!shut) throw new Error("The pump has no field.");
    fireEvent.change(shut, { target: { value: "0" } });
    fireEvent.blur(shut);
    expect(screen.queryByText("The pump’s head does not fall with flow.")).not.toBeNull();
  });
});

describe("does it go on", () => {
  const fitted = (cooler: Cooler, map: BoardMap | null = MAP) => {
    const job = jobWith(cooler, { map });
    render(
      <Held start={job.plan}>
        {(plan) => <FitPart job={job} plan={plan} cooler={cooler} answer={fittedOf(job)} />}
      </Held>,
    );
    return job;
  };

  it("says what to know, the moment at the slot against a limit that can be changed, and the room it takes", () => {
    fitted(AIR);
    expect(screen.queryByText("What to know before it goes on")).not.toBeNull();
    expect(screen.queryByText(/The plate is aluminium: no liquid metal/)).not.toBeNull();
    // 1.4 kg at 120 mm from the slot.
    expect(screen.queryByText(/1\.65 N·m bend the slot: put a support under its free end/)).not.toBeNull();
    const limit = screen.getByLabelText("Support advised from (N·m)");
    fireEvent.change(limit, { target: { value: "2" } });
    fireEvent.blur(limit);
    expect(screen.queryByText(/1\.65 N·m bend the slot: no support needed/)).not.toBeNull();
    fireEvent.change(screen.getByLabelText("Room in the case (slots)"), { target: { value: "2" } });
    fireEvent.blur(screen.getByLabelText("Room in the case (slots)"));
    expect(screen.queryByText(/It takes 4 slots, the case has 2/)).not.toBeNull();
  });

  it("leads to the map where the board has none", () => {
    fitted(AIR, null);
    expect(screen.queryByText("OC-7 has no map yet")).not.toBeNull();
    expect(screen.getByRole("link", { name: "Draw the board map" }).getAttribute("href")).toBe("/boards/b1/map");
  });

  it("in one line: goes on, goes on with a contact lost, why not, mirrored, not judged", () => {
    const headline = (cooler: Cooler, map: BoardMap | null = MAP) => fitHeadline(fittedOf(jobWith(cooler, { map })));
    expect(headline(AIR, null)).toBe("not judged without a board map");
    expect(headline(AIR)).toBe("goes on; VRM loses its contact");
    expect(headline({ ...AIR, faces: [] })).toBe("goes on; memory and VRM lose their contact");
    expect(headline({ ...AIR, plate: null })).toBe("The cooler has no plate.");
    expect(headline({ ...AIR, kit: [] })).toMatch(/^does not go on: No screw for post .* And 3 more\.$/);
    const ok = fittedOf(jobWith(AIR));
    expect(ok && "ok" in ok && lostContacts(ok.ok)).toBe("VRM loses its contact");
  });

  it("closing lays out kit and drawer with washers", () => {
    const job = jobWith({ ...AIR, kit: [] });
    const plan = { ...job.plan, drawer: AIR.kit };
    const answer = fittedOf({ ...job, plan });
    const fittedWith = answer && "ok" in answer ? answer.ok : null;
    expect(otherOf(fittedWith)).toMatchObject({
      wet: false,
      screws: "4 × kit (M2.5 × 8, washer 0.5)",
      keptOff: ["S5"],
    });
    expect(otherOf(null)).toBeNull();
  });

  it("gives the gaps of its drawing to the pads, in place of what was measured under the original", () => {
    const answer = fittedOf(jobWith(AIR));
    const fittedWith = answer && "ok" in answer ? answer.ok : null;
    const pads = { serviceId: "s1", map: MAP, readings: [{ partId: "M1" }, { partId: "Q1" }] } as never;
    const { readings } = padJobWith(pads, fittedWith);
    expect(readings.map(({ partId, source, valueMm }) => [partId, source, valueMm])).toEqual([
      ["M1", "gap", expect.closeTo(2.4 - 0.5 - memory.tallMm, 9)],
    ]);
    expect(padJobWith(pads, null)).toBe(pads);
  });
});

describe("a leak test on screen", () => {
  const tested = (readings: CoolerPlan["leak"]["readings"], gaugeStepKPa = 0.1) => {
    const job = jobWith(WET);
    const start = { ...job.plan, leak: { ...job.plan.leak, gaugeStepKPa, readings } };
    render(<Held start={start}>{(plan) => <LeakPart job={job} plan={plan} cooler={WET} />}</Held>);
  };
  const steady = (minutes: number, perHour = 0) =>
    Array.from({ length: 13 }, (_, k) => ({
      atMin: (k * minutes) / 12,
      pressureKPa: 40 - (perHour * k * minutes) / 12 / 60,
      airC: 21,
    }));

  it("begins with what to do, says tight or leaking, and how many minutes more", () => {
    tested([]);
    expect(screen.queryByText("Pump it up, then read gauge and air")).not.toBeNull();
    cleanup();
    tested(steady(120));
    expect(screen.queryByRole("heading", { name: /Tight/ })).not.toBeNull();
    cleanup();
    tested(steady(120, 12));
    expect(screen.queryByRole("heading", { name: /Leaking/ })).not.toBeNull();
    expect(screen.getByText(/^Falls by/).textContent).toMatch(/Falls by 12\.\d\d ± /);
    cleanup();
    tested(steady(14), 1);
    expect(screen.queryByRole("heading", { name: /Not known yet: \d+ more minutes/ })).not.toBeNull();
    cleanup();
    // Pressure that rises by itself is told as rising, and is no air lost.
    tested(steady(120, -12));
    expect(screen.queryByText(/mL of air a minute/)).toBeNull();
  });
});

describe("heatsinks on chips", () => {
  it("tell what they bring and whether the cooler closes over them; joined by pads they stand taller", () => {
    const job = jobWith(AIR);
    render(<Held start={job.plan}>{(plan) => <HeatsinksPart job={job} plan={plan} />}</Held>);
    expect(screen.queryByText("No add-on heatsink yet")).not.toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Add a heatsink" }));
    expect(screen.queryByRole("heading", { name: "Heatsink H1 on M1" })).not.toBeNull();
    // 0.2 of joint, 1.5 of base, 5 of fins under a face 0.8 mm above the package.
    expect(
      screen.queryByText(/Stands 6\.7 mm above the chip, the cooler leaves 0\.8 mm: it does not close over it/),
    ).not.toBeNull();
    fireEvent.change(screen.getByLabelText("To the main heatsink"), { target: { value: "2" } });
    expect(screen.queryByText(/Stands 9\.7 mm/)).not.toBeNull();
    const fins = screen.getByLabelText("Fins");
    fireEvent.change(fins, { target: { value: "40" } });
    fireEvent.blur(fins);
    expect(screen.queryByText("The fins leave no room between them.")).not.toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Remove" }));
    expect(screen.queryByText("No add-on heatsink yet")).not.toBeNull();
  });
});
