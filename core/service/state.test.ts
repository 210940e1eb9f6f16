import { describe, expect, it } from "vitest";
import type { Outcome } from "../outcome/index.ts";
import {
  coolerSeen,
  coolerToday,
  mountAgain,
  type RunFacts,
  type ServiceFacts,
  type StationRow,
  type StationRule,
  stationViews,
  summarise,
} from "./index.ts";
import { NOTHING, run, temperature } from "./tests/made-run.ts";

/** What a made-up station is told about itself. */
interface Own {
  done: boolean;
  wanted: boolean;
  figure: string;
}
const rule = (id: string, more: Partial<StationRule<Own>> = {}): StationRule<never> =>
  ({
    figure: (_: ServiceFacts, own: Own) => own.figure,
    done: (_: ServiceFacts, own: Own) => own.done,
    wanted: (_: ServiceFacts, own: Own) => own.wanted,
    todo: `Do ${id}`,
    ...more,
  }) as StationRule<never>;
const row = (id: string, more: Partial<StationRule<Own>> = {}): StationRow => ({ id, title: id, rule: rule(id, more) });
const TABLE = [row("takeIn"), row("baseline"), row("prove"), row("record")];
const IDS = TABLE.map(({ id }) => id);
const own = (more: Readonly<Record<string, Partial<Own>>> = {}) =>
  Object.fromEntries(IDS.map((id) => [id, { done: false, wanted: true, figure: "", ...more[id] }]));

describe("stations of a service", () => {
  it("whatever is done, skipped or not wanted, the next is the first that still waits, and there is one at most", () => {
    for (let code = 0; code < 8 ** IDS.length; code++) {
      const bits = IDS.map((_, at) => Math.floor(code / 8 ** at) % 8);
      const told = own(
        Object.fromEntries(
          IDS.map((id, at) => [id, { done: ((bits[at] ?? 0) & 1) > 0, wanted: ((bits[at] ?? 0) & 2) > 0 }]),
        ),
      );
      const skips = Object.fromEntries(IDS.flatMap((id, at) => ((bits[at] ?? 0) & 4 ? [[id, "not here"]] : [])));
      const views = stationViews(TABLE, { ...NOTHING, skips }, told);
      const waits = IDS.filter((id) => !told[id]?.done && told[id]?.wanted && !(id in skips));
      expect(views.filter(({ state }) => state === "next").map(({ id }) => id)).toEqual(waits.slice(0, 1));
      expect(views.filter(({ ahead }) => ahead).map(({ id }) => id)).toEqual(waits);
      // What was done is done, though it had been skipped before.
      for (const view of views) {
        expect(view.state === "done").toBe(told[view.id]?.done);
        expect(view.state === "skipped").toBe(view.id in skips && !told[view.id]?.done);
      }
      expect(summarise(TABLE, { ...NOTHING, skips }, told)).toMatchObject({
        station: waits[0] ?? "record",
        next: waits[0] ? `Do ${waits[0]}` : "Handed over",
        ahead: waits,
      });
    }
  });

  it("nothing comes next for a card that was set aside, nor is anything ahead of one that was handed over", () => {
    const aside = summarise(TABLE, { ...NOTHING, setAside: "return to seller" }, own());
    expect(aside).toMatchObject({ station: "takeIn", next: "Send it on, or take it back", ahead: [] });
    const closed = summarise(TABLE, { ...NOTHING, closed: true }, own());
    expect(closed.ahead).toEqual([]);
    expect(closed.clocks).toEqual([]);
  });

  it("leads with the last figure that tells how the card is: not a quiet one, not one prepared ahead, else why it was skipped", () => {
    const table = [TABLE[0]!, TABLE[1]!, row("parts", { quiet: true }), row("plan", { mayRunAhead: true }), TABLE[3]!];
    const told = (figures: Record<string, string>) =>
      Object.fromEntries(
        table.map(({ id }) => [id, { done: id === "takeIn", wanted: true, figure: figures[id] ?? "" }]),
      );
    const figureOf = (figures: Record<string, string>, facts = NOTHING) =>
      summarise(table, facts, told(figures)).figure;
    expect(figureOf({ takeIn: "came in", baseline: "49 K" })).toBe("49 K");
    expect(figureOf({ takeIn: "came in", parts: "3 pads" })).toBe("came in");
    expect(figureOf({ baseline: "49 K", plan: "8 places" })).toBe("49 K");
    expect(figureOf({}, { ...NOTHING, skips: { baseline: "no power" } })).toBe("no power");
    expect(figureOf({ takeIn: "no picture", baseline: "49 K" }, { ...NOTHING, setAside: "sold" })).toBe("no picture");
  });

  it("clocks of all stations are told together", () => {
    const clock = (id: string) => ({ id, what: id, fromMs: 0, untilMs: 60_000 });
    const table = [
      row("clean", { clocks: () => [clock("drying")] }),
      row("compound", { clocks: () => [clock("glue"), clock("sheet")] }),
    ];
    const told = {
      clean: { done: true, wanted: true, figure: "" },
      compound: { done: false, wanted: true, figure: "" },
    };
    expect(summarise(table, NOTHING, told).clocks.map(({ id }) => id)).toEqual(["drying", "glue", "sheet"]);
  });
});

describe("what hinders more than the next step", () => {
  const nextOf = (facts: Partial<ServiceFacts>, told = own({ takeIn: { done: true } })): string =>
    summarise(TABLE, { ...NOTHING, ...facts }, told).next;
  const airless = (): RunFacts => {
    const one = run("a", "before", 70);
    return { ...one, analysis: { ...one.analysis, ambient: null } };
  };
  const short = (minutesNeeded: number): RunFacts => {
    const one = run("a", "before", 70, { finalU95K: 9 });
    return {
      ...one,
      analysis: {
        ...one.analysis,
        steady: { reached: false, fromS: null, toS: null, minutesNeeded, byHand: false },
        roles: { ...one.analysis.roles, edge: { ...temperature(70), finalU95K: 9 } },
      } as RunFacts["analysis"],
    };
  };

  it("comes in this order: what failed, the loop, the room air, minutes to settle", () => {
    expect(nextOf({ failed: ["No picture"] })).toBe("No picture: rule it out");
    expect(nextOf({ failed: ["No picture"], runs: [airless()] })).toBe("Add the room air to its run");
    expect(nextOf({ runs: [airless(), short(4)] })).toBe("Add the room air to its run");
    expect(nextOf({ runs: [short(4)] })).toBe("Run 4 more minutes to settle");
    expect(nextOf({ runs: [short(1)] })).toBe("Run 1 more minute to settle");
    expect(nextOf({ runs: [{ ...short(4), leftOut: "fan unplugged" }] })).toBe("Do baseline");
  });

  it("the loop matters once power comes next, not before", () => {
    const proving = own({ takeIn: { done: true }, baseline: { done: true } });
    expect(nextOf({ leak: "to test" })).toBe("Do baseline");
    expect(nextOf({ leak: "to test" }, proving)).toBe("Test its loop for leaks before power");
    expect(nextOf({ leak: "leaking" }, proving)).toBe("Its loop leaks: mend it before power");
    for (const leak of ["tight", "accepted", "dry"] as const) expect(nextOf({ leak }, proving)).toBe("Do prove");
  });

  it("a result that got something worse asks to be mounted again, the die before the rest", () => {
    const outcome = (more: Partial<Outcome>): Outcome => ({
      verdict: "mixed",
      sensors: [],
      gap: null,
      fanSlowerPct: null,
      warmestRoomC: 30,
      short: null,
      known: true,
      minutesNeeded: null,
      tells: [],
      ...more,
    });
    const sensor = (role: "edge" | "memory", verdict: "cooler" | "hotter", overLimit = false) => ({
      role,
      verdict,
      overLimit,
      changeK: 5,
      u95K: 0.8,
      jointU95K: 1,
      known: true,
      beforeC: 60,
      afterC: 65,
      limitC: 90,
    });
    expect(mountAgain(undefined)).toBeUndefined();
    expect(mountAgain(outcome({ verdict: "better", sensors: [sensor("edge", "cooler")] }))).toBeUndefined();
    expect(mountAgain(outcome({ sensors: [sensor("edge", "hotter"), sensor("memory", "hotter")] }))).toBe(
      "Hotter than before: mount it again",
    );
    expect(mountAgain(outcome({ sensors: [sensor("edge", "cooler"), sensor("memory", "hotter")] }))).toBe(
      "Memory hotter than before: mount it again",
    );
    expect(mountAgain(outcome({ verdict: "over-limit", sensors: [sensor("memory", "cooler", true)] }))).toBe(
      "Memory over its limit: look at its contact",
    );
  });
});

describe("what a cooler does", () => {
  it("today is told by the run before the work that leads: at a fixed fan, not left out; the hand’s sound where the log has none", () => {
    const automatic = { ...run("a", "before", 80), fanMode: "automatic" as const };
    const left = { ...run("b", "before", 90), leftOut: "door open" };
    const fixed = run("c", "before", 70, {}, { memory: temperature(78) });
    expect(coolerToday([])).toBeNull();
    expect(coolerToday([run("d", "after", 60)])).toBeNull();
    expect(coolerToday([automatic, left, fixed], 38.5)).toMatchObject({
      edgeK: 50,
      memoryK: 58,
      vrmK: null,
      powerW: 200,
      fanRpm: 1800,
      dba: 38.5,
    });
    expect(coolerToday([run("e", "before", 70, {}, { sound: { mean: 41, u95: 0.5 } })], 38.5)?.dba).toBe(41);
  });

  it("seen here: kelvins per watt at the fan of each run after the work, those without power or left out not counted", () => {
    const noPower = run("b", "after", 60);
    const { power: _, ...roles } = noPower.analysis.roles;
    expect(
      coolerSeen([
        run("a", "after", 60),
        { ...noPower, analysis: { ...noPower.analysis, roles } } as RunFacts,
        { ...run("c", "after", 60), leftOut: "door open" },
        run("d", "before", 60),
      ]),
    ).toEqual([{ fanRpm: 1800, kPerW: 0.2, dba: null, runs: 1 }]);
  });

  it("runs at one fan speed are one point, the slowest first; a level is the mean of those that have one", () => {
    const at = (edgeC: number, rpm: number, dba: number | null) =>
      run(
        `${edgeC} ${rpm}`,
        "after",
        edgeC,
        {},
        { fanRpm: { mean: rpm, u95: 5 }, ...(dba && { sound: { mean: dba, u95: 1 } }) },
      );
    expect(coolerSeen([at(60, 1800, 40), at(62, 1840, null), at(70, 900, 28), at(64, 1820, 42)])).toEqual([
      { fanRpm: 900, kPerW: 0.25, dba: 28, runs: 1 },
      { fanRpm: 1820, kPerW: expect.closeTo((40 + 42 + 44) / 3 / 200, 9), dba: 41, runs: 3 },
    ]);
  });
});
