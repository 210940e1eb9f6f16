import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { broken } from "../schedule/tests/validate.ts";
import { type Day, type DayCard, dayShop, planDay, STATION_WORK, startsOf } from "./index.ts";

const MIN = 60_000;
const NOW = Date.parse("2026-03-02T09:00:00Z");
const at = (minutes: number): number => NOW + minutes * MIN;
const card = (serviceId: string, ahead: string[], more: Partial<DayCard> = {}): DayCard => ({
  serviceId,
  cardId: serviceId,
  name: serviceId,
  ahead,
  clocks: [],
  running: null,
  inHands: null,
  promisedMs: null,
  testByMs: null,
  weight: 1,
  partsMs: null,
  held: {},
  ...more,
});
const day = (cards: DayCard[], more: Partial<Day> = {}): Day => ({
  nowMs: NOW,
  people: [{ name: "Runa", can: null }],
  benches: [{ id: "b1", name: "Left bench" }],
  closed: [],
  times: {},
  cards,
  ...more,
});
const blockOf = (plan: ReturnType<typeof planDay>, serviceId: string, id: string) => {
  const found = plan.blocks.find((one) => one.serviceId === serviceId && one.id === id);
  if (!found) throw new Error(`no block ${serviceId} ${id}`);
  return found;
};
const plan = (of: Day, more: Parameters<typeof planDay>[1] = {}) => planDay(of, { most: 40, ...more });

describe("the day", () => {
  it("leaves what runs where it is, puts the next run behind it, and lets hands work meanwhile", () => {
    const found = plan(
      day([
        card("running", ["baseline", "decide"], { running: { benchId: "b1", minutesLeft: 30 } }),
        card("next", ["baseline"]),
        card("hands", ["strip"]),
      ]),
    );
    expect(blockOf(found, "running", "baseline")).toMatchObject({ begun: true, startMs: NOW, endMs: at(30), lane: 0 });
    expect(blockOf(found, "next", "baseline").startMs).toBe(at(30));
    expect(blockOf(found, "next", "baseline").why).toBe("waits for Left bench, which running has");
    expect(blockOf(found, "hands", "strip")).toMatchObject({ startMs: NOW, why: "" });
    expect(blockOf(found, "running", "decide").startMs).toBe(at(30));
  });

  it("knows of a run beside the station a card has reached: its bench is taken, the card too", () => {
    const benches = [
      { id: "b1", name: "Left bench" },
      { id: "b2", name: "Right bench" },
    ];
    const running = { benchId: "b2", minutesLeft: 25 };
    const found = plan(
      day([card("again", ["decide", "strip"], { running, inHands: "decide" }), card("next", ["baseline"])], {
        benches,
      }),
    );
    expect(blockOf(found, "again", "run")).toMatchObject({ kind: "bench", begun: true, lane: 1, endMs: at(25) });
    expect(blockOf(found, "again", "decide").startMs).toBe(at(25));
    expect(blockOf(found, "next", "baseline")).toMatchObject({ lane: 0, startMs: NOW });
  });

  it("does fans while washed parts dry, and closes only when they are dry", () => {
    const found = plan(
      day([
        card("wet", ["pads", "fans", "closeUp"], {
          clocks: [{ id: "rest fins", what: "Fins dry", fromMs: at(-60), untilMs: at(90) }],
        }),
      ]),
    );
    expect(blockOf(found, "wet", "fans").startMs).toBe(NOW);
    expect(blockOf(found, "wet", "pads")).toMatchObject({ startMs: at(90), why: "waits until it is dry or set" });
    expect(blockOf(found, "wet", "closeUp").startMs).toBe(at(90 + (STATION_WORK.pads?.minutes ?? 0)));
    expect(found.blocks.find(({ kind }) => kind === "rack")).toMatchObject({ begun: true, endMs: at(90), lane: -1 });
  });

  it("works in opening hours only, but finishes what is begun", () => {
    const closed = [{ fromMs: at(5), untilMs: at(600) }];
    const found = plan(
      day([card("begun", ["strip", "fans"], { inHands: "strip" }), card("other", ["decide"])], { closed }),
    );
    const strip = blockOf(found, "begun", "strip");
    expect(strip).toMatchObject({ begun: true, startMs: NOW });
    for (const [id, station] of [
      ["begun", "fans"],
      ["other", "decide"],
    ] as const)
      expect(blockOf(found, id, station).startMs).toBeGreaterThanOrEqual(at(600));
    expect([blockOf(found, "begun", "fans").why, blockOf(found, "other", "decide").why]).toContain(
      "waits until somebody is there",
    );
  });

  it("gives each step to somebody who can do it", () => {
    const people = [
      { name: "Runa", can: null },
      { name: "Tove", can: ["clean", "strip"] },
    ];
    const found = plan(
      day([card("a", ["compound"]), card("b", ["strip"]), card("c", ["compound"]), card("d", ["clean"])], { people }),
    );
    for (const id of ["a", "c"]) expect(blockOf(found, id, "compound").lane).toBe(0);
    // Both compounds and the strip are 38 min of Runa’s, so that Tove’s longer clean is done by then.
    expect(Math.max(...found.blocks.map(({ endMs }) => endMs))).toBe(at(38));
    expect(blockOf(found, "d", "clean").lane).toBe(1);
  });

  it("waits for parts, and keeps a step where it is held", () => {
    const found = plan(
      day([
        card("parts", ["pads"], { partsMs: at(200) }),
        card("chosen", ["fans", "compound"], { partsMs: at(90) }),
        card("held", ["decide", "strip"], { held: { strip: at(120) } }),
      ]),
    );
    expect(blockOf(found, "parts", "pads")).toMatchObject({ startMs: at(200), why: "waits for parts" });
    expect(blockOf(found, "chosen", "compound")).toMatchObject({ startMs: at(90), why: "waits for parts" });
    expect(blockOf(found, "chosen", "fans").startMs).toBeLessThan(at(60));
    expect(blockOf(found, "held", "strip")).toMatchObject({ startMs: at(120), held: true, why: "held there" });
  });

  it("tests a bought card before it can no longer be given back, and says where that can't be", () => {
    const of = (testByMs: number) =>
      plan(
        day([card("long", ["baseline"], { promisedMs: at(40) }), card("bought", ["baseline", "strip"], { testByMs })]),
      );
    expect(blockOf(of(at(36)), "bought", "baseline").startMs).toBe(NOW);
    expect(of(at(36)).testsLate).toEqual([]);
    expect(of(at(20)).testsLate).toEqual(["bought"]);
  });

  it("says how likely a promise is, first the one at risk, and what would save it", () => {
    // 18 min of hands, a spread of a half: due at its median it is as likely late as not.
    const tight = plan(day([card("due", ["strip"], { promisedMs: at(18) })]));
    expect(tight.kept[0]?.chance).toBeGreaterThan(0.4);
    expect(tight.kept[0]?.chance).toBeLessThan(0.6);
    const wide = plan(day([card("due", ["strip"], { promisedMs: at(180) })]));
    expect(wide.kept[0]?.chance).toBe(1);
    expect(wide.risk).toBeNull();
    // Two can't both be in time; the heavier goes first, the other would come in time if it did.
    const both = plan(
      day([
        card("heavy", ["clean"], { promisedMs: at(45), weight: 9 }),
        card("light", ["clean"], { promisedMs: at(46), weight: 1 }),
      ]),
    );
    expect(both.risk).toMatchObject({ serviceId: "light" });
    expect(both.risk?.saves).toMatch(/^Put it before all others: then \d+ %\.$/);
    expect(both.newcomerMs).toBeGreaterThan(at(200));
  });

  /** What has to be over before what, said again and for itself: the order of work of a card that may be open. */
  const ORDER: ReadonlyArray<readonly [string, readonly string[]]> = [
    ["baseline", ["takeIn"]],
    ["decide", ["takeIn", "baseline"]],
    ["strip", ["takeIn", "baseline", "decide"]],
    ["clean", ["takeIn", "baseline", "decide", "strip"]],
    ["fans", ["takeIn", "baseline", "decide", "strip"]],
    ["pads", ["takeIn", "baseline", "decide", "strip", "clean"]],
    ["compound", ["takeIn", "baseline", "decide", "strip", "clean", "pads"]],
    ["closeUp", ["takeIn", "baseline", "decide", "strip", "clean", "pads", "compound", "fans"]],
    ["prove", ["takeIn", "baseline", "decide", "strip", "clean", "pads", "compound", "fans", "closeUp"]],
    ["record", ["takeIn", "baseline", "decide", "strip", "clean", "pads", "compound", "fans", "closeUp", "prove"]],
  ];
  const outOfOrder = (ahead: readonly string[], times: ReadonlyMap<string, { from: number; to: number }>): string[] => [
    ...ahead.filter((id) => !times.has(id)).map((id) => `${id} is missing`),
    ...(ahead.some((id) => ["strip", "pads", "compound"].includes(id)) &&
    ahead.some((id) => ["prove", "record"].includes(id)) &&
    !times.has("closeUp")
      ? ["stays open"]
      : []),
    ...ORDER.flatMap(([id, before]) =>
      before
        .filter((one) => (times.get(one)?.to ?? 0) > (times.get(id)?.from ?? Number.POSITIVE_INFINITY) + 1e-6)
        .map((one) => `${id} before ${one} is done`),
    ),
  ];

  it("nothing runs, is proved or handed over before it is whole: every combination of what is ahead", () => {
    const all = Object.keys(STATION_WORK);
    for (let bits = 1; bits < 2 ** all.length; bits++) {
      const ahead = all.filter((_, at) => (bits >> at) % 2 === 1);
      const { shop } = dayShop(day([card("one", ahead)]));
      // As early as what comes before allows, with hands without end: nothing but the order keeps them apart.
      const times = new Map<string, { from: number; to: number }>();
      for (const { id, after, durationMin } of shop.jobs[0]?.steps ?? []) {
        const from = Math.max(0, ...(after ?? []).map((one) => times.get(one)?.to ?? Number.NaN));
        times.set(id, { from, to: from + durationMin });
      }
      expect(outOfOrder(ahead, times), ahead.join()).toEqual([]);
    }
  });

  it("and in whole plans of made-up services, with clocks, runs and hands in the middle of something", () => {
    const all = Object.keys(STATION_WORK);
    const random = seeded(29);
    for (let trial = 0; trial < 12; trial++) {
      const cards = Array.from({ length: 6 }, (_, nth) => {
        const ahead = all.slice(Math.floor(random.uniform() * all.length)).filter(() => random.uniform() < 0.7);
        const dries = random.uniform() < 0.4;
        return card(`c${nth}`, ahead.length > 0 ? ahead : ["record"], {
          clocks: dries ? [{ id: "rest fins", what: "Fins dry", fromMs: at(-10), untilMs: at(80) }] : [],
        });
      });
      const found = plan(
        day(cards, {
          people: [
            { name: "Runa", can: null },
            { name: "Tove", can: null },
          ],
        }),
        { most: 10 },
      );
      for (const { serviceId, ahead } of cards) {
        const own = found.blocks.filter((block) => block.serviceId === serviceId);
        const times = new Map(own.map(({ id, startMs, endMs }) => [id, { from: startMs, to: endMs }]));
        expect(outOfOrder(ahead, times), ahead.join()).toEqual([]);
      }
    }
  });

  it("is sound for made-up days, also from one plan to the next", () => {
    const chance = seeded(5);
    const stations = Object.keys(STATION_WORK);
    for (let round = 0; round < 4; round++) {
      const cards = Array.from({ length: 14 }, (_, k) => {
        const ahead = stations.slice(Math.floor(chance.uniform() * stations.length));
        return card(`card ${k}`, ahead, {
          running:
            k === 0 && ["baseline", "prove"].includes(ahead[0] ?? "") ? { benchId: "b1", minutesLeft: 12 } : null,
          promisedMs: chance.uniform() < 0.3 ? at(chance.between(100, 3000)) : null,
          inHands: chance.uniform() < 0.2 ? (ahead[0] ?? null) : null,
        });
      });
      const closed = Array.from({ length: 20 }, (_, k) => ({
        fromMs: at(480 + 1440 * k),
        untilMs: at(1440 * (k + 1)),
      }));
      const made = day(cards, { closed });
      const first = plan(made);
      const again = plan({ ...made, nowMs: at(7) }, { last: startsOf(first) });
      for (const [of, found] of [
        [made, first],
        [{ ...made, nowMs: at(7) }, again],
      ] as const) {
        const steps = found.blocks.map(({ serviceId, id, kind, lane, startMs, endMs }) => ({
          job: serviceId,
          step: id,
          startMin: (startMs - of.nowMs) / MIN,
          endMin: (endMs - of.nowMs) / MIN,
          ...(kind !== "rack" && { takes: kind === "hands" ? `person ${lane}` : "bench b1" }),
        }));
        expect(broken(dayShop(of).shop, steps)).toEqual([]);
      }
    }
  });
});
