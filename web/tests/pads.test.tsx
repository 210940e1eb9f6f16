// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import Papa from "papaparse";
import { afterEach, describe, expect, it, vi } from "vitest";
import { EMPTY_MATERIAL, type Lot, type Material, type Offer, type OpenPads, type Stores } from "#contract";
import { addScrew, EMPTY_MAP, mapToSvg, PACKAGES, stampPart } from "#core/boardmap/index.ts";
import { planCuts } from "#core/cutting/index.ts";
import type { PadPiece } from "#core/padplan/index.ts";
import { parseAmount, parseLengthMm } from "#core/units/index.ts";
import { fromJson } from "../features/board-map/files.tsx";
import { fromSvg } from "../parts/board/read-svg.ts";
import {
  afterCutting,
  buyList,
  buyListCsv,
  cuttingTask,
  drawingOf,
  isStale,
  keptPlan,
  piecesOfAll,
} from "../parts/pads/cutting.ts";
import { padMaterials, padOffers } from "../parts/pads/stock.ts";
import { NumberField } from "../ui/number-field.tsx";
import { PadSession } from "../workers/pad-session.ts";

afterEach(cleanup);

const MAP = addScrew(
  stampPart(
    { ...EMPTY_MAP, die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 } },
    PACKAGES[0]!,
    { xMm: 80, yMm: 52 },
    "back",
  ).map,
  { xMm: 95, yMm: 25 },
).map;

describe("map files", () => {
  it("come back from JSON as they were, and from SVG with all a drawing carries", () => {
    expect(fromJson(JSON.stringify(MAP))).toEqual(MAP);
    const drawn = fromSvg(mapToSvg(MAP));
    expect(drawn).toMatchObject({ board: MAP.board, die: MAP.die, screws: MAP.screws, parts: MAP.parts });
  });

  it("take a plain drawing in inches: rectangles as parts, circles as holes", () => {
    const map = fromSvg(
      '<svg xmlns="http://www.w3.org/2000/svg" width="10in" height="4in" viewBox="0 0 100 40"><rect x="10" y="10" width="5" height="4"/><circle cx="50" cy="20" r="1"/></svg>',
    );
    expect(map.board).toMatchObject({ widthMm: 254, heightMm: 101.6 });
    expect(map.parts[0]).toMatchObject({ kind: "other", xMm: 31.75, yMm: 71.12, widthMm: 12.7, heightMm: 10.16 });
    expect(map.screws[0]).toMatchObject({ xMm: 127, yMm: 50.8, holeMm: 5.08 });
  });

  it.each([
    [() => fromJson("{"), /not JSON/],
    [() => fromJson(JSON.stringify({ ...MAP, version: 99 })), /newer version/],
    [() => fromJson('{"cards": []}'), /not a board map/],
    [() => fromJson(JSON.stringify({ ...MAP, board: { ...MAP.board, widthMm: -1 } })), /board\.widthMm/],
    [() => fromSvg("<html></html>"), /not a drawing/],
    [() => fromSvg('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"/>'), /no rectangle and no circle/],
  ])("that are none are refused with what to do (%#)", (read, words) => {
    expect(read).toThrow(words);
  });
});

describe("lengths and amounts as people type them", () => {
  it.each([
    ["12,5", 12.5],
    ["1.2 cm", 12],
    ["0.5 in", 12.7],
    ['1/2"', 12.7],
    ["−3", -3],
    ["wide", undefined],
  ])("%j is %j mm", (text, expected) => {
    expect(parseLengthMm(text)).toBe(expected);
  });

  it("mass and volume change into each other where the density is known; 1 oz is 28.349523125 g (NIST SP 811)", () => {
    expect(parseAmount("2", "g", null)).toBe(2);
    expect(parseAmount("2 ml", "g", 2.6)).toBeCloseTo(5.2, 9);
    expect(parseAmount("2 ml", "g", null)).toBeUndefined();
    expect(parseAmount("0.5 oz", "g", null)).toBeCloseTo(14.1747615625, 9);
    expect(parseAmount("7.86 g", "ml", 0.786)).toBeCloseTo(10, 9);
    expect(parseAmount("1 l", "ml", null)).toBe(1000);
    expect(parseAmount("many", "g", 1)).toBeUndefined();
  });

  it("an amount that may be two numbers is none, until it is said which", () => {
    expect(parseAmount("1,200", "piece", null)).toBeUndefined();
    expect(parseAmount("1200", "piece", null)).toBe(1200);
    expect(parseAmount("1 200,5 g", "g", null)).toBe(1200.5);
  });

  it("a field keeps a length on Enter, and what is none stays with its reason", () => {
    const kept = vi.fn<(value: number | null) => void>();
    render(<NumberField label="Width" unit="mm" value={10} least={1} most={50} onValue={kept} />);
    const field = screen.getByLabelText("Width (mm)");
    const type = (text: string): void => {
      fireEvent.change(field, { target: { value: text } });
      fireEvent.keyDown(field, { key: "Enter" });
    };
    type("1 in");
    expect(kept).toHaveBeenLastCalledWith(25.4);
    type("99");
    expect(screen.getByRole("alert").textContent).toBe("Between 1 and 50.");
    expect((field as HTMLInputElement).value).toBe("99");
    expect(kept).toHaveBeenCalledTimes(1);
  });

  it("a field reads a number as its unit is told, and asks where it may be two", () => {
    const kept = vi.fn<(value: number | null) => void>();
    const type = (label: string, text: string): void => {
      fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
      fireEvent.blur(screen.getByLabelText(label));
    };
    render(
      <>
        <NumberField label="Fans" unit="rpm" value={null} onValue={kept} />
        <NumberField label="Hands" unit={{ currency: "EUR", digits: 2 }} value={null} onValue={kept} />
        <NumberField unit="kPa" value={null} onValue={kept} />
      </>,
    );
    type("Fans (rpm)", "1,200");
    expect(kept).toHaveBeenLastCalledWith(1200);
    type("Hands (EUR)", "1.250");
    expect(kept).toHaveBeenLastCalledWith(1250);
    type("Fans (rpm)", "1.5");
    expect(screen.getByRole("alert").textContent).toBe("Type a whole number.");
    type("Fans (rpm)", "15");
    render(<NumberField label="Shown by runs" unit="rpm" value={1843.5} onValue={kept} />);
    fireEvent.blur(screen.getByLabelText("Shown by runs (rpm)"));
    expect(screen.queryByRole("alert")).toBeNull();
    type("kPa", "1,250");
    expect(kept).toHaveBeenLastCalledWith(15);
    fireEvent.click(screen.getByRole("button", { name: "1.25" }));
    fireEvent.blur(screen.getByLabelText("kPa"));
    expect(kept).toHaveBeenLastCalledWith(1.25);
  });
});

const material = (id: string, more: Partial<Material> = {}): Material => ({
  ...EMPTY_MATERIAL,
  id,
  name: id,
  conductivityWPerMK: 6,
  version: 1,
  ...more,
});
const lot = (id: string, more: Partial<Lot> = {}): Lot => ({
  id,
  materialId: "soft",
  label: "",
  thicknessMm: 1,
  widthMm: 85,
  heightMm: 45,
  price: 6,
  amount: 1,
  openedOn: null,
  useBefore: null,
  leftOverOf: null,
  version: 1,
  ...more,
});
const { amount: _amount, openedOn: _opened, useBefore: _before, leftOverOf: _left, ...sheet } = lot("x");
const offer = (id: string, more: Partial<Offer> = {}): Offer => ({
  ...sheet,
  leadDays: null,
  orderedOn: null,
  id,
  ...more,
});
const stores = (more: Partial<Stores> = {}): Stores => ({
  materials: [material("soft")],
  lots: [],
  offers: [],
  low: [],
  stale: [],
  ...more,
});
const piece = (more: Partial<PadPiece> = {}): PadPiece => ({
  id: "A",
  widthMm: 14,
  heightMm: 12,
  thicknessMm: 1,
  materialId: "soft",
  notches: [],
  quantity: 8,
  spares: 0,
  forParts: ["M1"],
  ...more,
});
const planned = (pieces: PadPiece[], from: Stores) =>
  keptPlan(planCuts(cuttingTask(pieces, from), { tries: 50 }), pieces, from);

describe("what can be chosen and cut from", () => {
  it("counts whole sheets in stock and on the price list, each thickness once; putty in any thickness", () => {
    const from = stores({
      materials: [material("soft"), material("putty", { kind: "putty" }), material("oil", { kind: "oil" })],
      lots: [
        lot("a"),
        lot("b", { amount: 0.4, thicknessMm: 3 }),
        lot("c", { materialId: "putty", thicknessMm: null, amount: 12 }),
      ],
      offers: [offer("d"), offer("e", { thicknessMm: 2 })],
    });
    expect(padOffers(from)).toEqual([
      { materialId: "soft", thicknessMm: 1, inStock: true },
      { materialId: "putty", thicknessMm: null, inStock: true },
      { materialId: "soft", thicknessMm: 2, inStock: false },
    ]);
    expect(padMaterials(from).map((one) => [one.id, one.form])).toEqual([
      ["soft", "pad"],
      ["putty", "putty"],
    ]);
  });

  it("cuts left-overs before whole sheets and these before bought ones", () => {
    const from = stores({
      lots: [lot("whole"), lot("rest", { widthMm: 60, heightMm: 26, leftOverOf: "s" })],
      offers: [offer("buy")],
    });
    const eight = planned([piece()], from);
    expect(eight.sheets.map((one) => [one.sourceId, one.price])).toEqual([["rest", 0]]);
    expect([eight.cost, eight.lowerBoundCost]).toEqual([0, 0]);
    const many = planned([piece({ quantity: 40 })], from);
    expect(many.unplaced).toEqual([]);
    expect(many.cost).toBe(6);
    expect(many.lowerBoundCost).toBeLessThanOrEqual(6);
  });

  it("turns notches with their piece: a notch at the left edge of a quarter turn lies at the bottom", () => {
    const from = stores({ lots: [lot("tall", { widthMm: 12, heightMm: 14 })] });
    const [only] = planned([piece({ quantity: 1, notches: [{ xMm: 0, yMm: 6, radiusMm: 2 }] })], from).sheets;
    expect(only?.pieces[0]).toMatchObject({ rotated: true, notches: [{ xMm: 6, yMm: 0, radiusMm: 2 }] });
    expect(only && drawingOf(only).pieces[0]?.notches).toEqual([{ xMm: 6, yMm: 0, radiusMm: 2 }]);
  });

  it("knows when the pads were changed after the plan", () => {
    const from = stores({ offers: [offer("buy")] });
    const plan = planned([piece()], from);
    expect(isStale(plan, [piece()])).toBe(false);
    expect(isStale(plan, [piece({ quantity: 9 })])).toBe(true);
    expect(isStale(plan, [piece({ thicknessMm: 2 })])).toBe(true);
    expect(isStale(plan, [])).toBe(true);
  });
});

describe("pads of several cards", () => {
  it("leave behind what a cutting left over, and take away what it took", () => {
    const from = stores({ lots: [lot("whole", { amount: 2 })], offers: [offer("buy")] });
    const plan = planCuts(cuttingTask([piece()], from), { tries: 50 });
    const after = afterCutting(plan, from);
    expect(after.lots.find(({ id }) => id === "whole")?.amount).toBe(1);
    const area = (of: Stores["lots"]): number =>
      of.reduce((sum, { widthMm, heightMm, amount }) => sum + (widthMm ?? 0) * (heightMm ?? 0) * amount, 0);
    // Eight pieces are gone; what is too small to keep may be too.
    expect(area(after.lots)).toBeLessThanOrEqual(area(from.lots) - 8 * 14 * 12 + 1e-6);
    expect(area(after.lots)).toBeGreaterThan(area(from.lots) - 85 * 45);
    // The next card is cut from what was left.
    const next = planCuts(cuttingTask([piece({ quantity: 2 })], after), { tries: 50 });
    expect(after.lots.find(({ id }) => id === next.sheets[0]?.stockId)?.leftOverOf).toBe("plan");
  });

  it("keep their pieces apart by card", () => {
    const map = PACKAGES[0] ? stampPart(EMPTY_MAP, PACKAGES[0], { xMm: 80, yMm: 52 }, "front").map : EMPTY_MAP;
    const [part] = map.parts;
    const picks = {
      [part?.id ?? ""]: {
        materialId: "soft",
        thicknessMm: 1,
        layers: 1,
        widthMm: 14,
        heightMm: 12,
        offXMm: 0,
        offYMm: 0,
      },
    } as OpenPads["picks"];
    const rules = { marginMm: 0, clearMm: 0.5, spareEvery: 0 };
    const open = ["one", "two"].map((serviceId) => ({
      serviceId,
      cardId: serviceId,
      name: serviceId,
      serial: "",
      map,
      picks,
      rules,
    }));
    const pieces = piecesOfAll(open, stores());
    expect(pieces.map(({ id, quantity }) => [id, quantity])).toEqual([
      ["one A", 1],
      ["two A", 1],
    ]);
    // One bought sheet holds both.
    expect(planned(pieces, stores({ offers: [offer("buy")] })).cost).toBe(6);
  });
});

describe("the list to buy", () => {
  it("has the sheets that are bought, pieces no sheet holds, and what is low; no cell can become a formula", () => {
    const from = stores({
      offers: [offer("buy", { label: "=cmd()" })],
      low: [{ materialId: "putty", name: "Putty", left: 12, unit: "g", lowAt: 20 }],
    });
    const pieces = [piece({ quantity: 30 }), piece({ id: "B", widthMm: 140, quantity: 2 })];
    const csv = buyListCsv(buyList(planned(pieces, from), pieces, from));
    const { data } = Papa.parse<Record<string, string>>(csv.replace("\ufeff", ""), { header: true });
    expect(data.map((row) => [row.what, row.quantity, row.unit, row.priceTotal])).toEqual([
      ["soft", "2", "sheet", "12"],
      ["soft", "2", "piece", ""],
      ["Putty", "9", "g", ""],
    ]);
    expect(data[0]?.note).toBe("'=cmd()");
  });
});

it("the worker answers a refusal in words instead of throwing it", () => {
  const answer = new PadSession().judge({
    map: EMPTY_MAP,
    gapsMm: {},
    picks: {},
    materials: [],
    heat: { faceC: 55, powerW: { memory: 1, mosfet: 1, choke: 1, capacitor: 1, controller: 1, other: 1 } },
  });
  expect(answer).toMatchObject({ problem: { code: "map-not-ready", what: expect.stringContaining("no die") } });
});
