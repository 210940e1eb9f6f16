// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { useState } from "react";
import { Provider } from "react-redux";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it } from "vitest";
import { type TypedInput, USUAL_LIMITS, USUAL_SETTINGS } from "#contract";
import { comparePairs } from "#core/service/index.ts";
import { typedAnalysis } from "#core/soak/index.ts";
import { makeStore } from "../app/store.ts";
import { asRun, inputOf } from "../features/compare/as-run.ts";
import { inOrder } from "../features/compare/in-order.ts";
import { ComparisonSheet } from "../parts/run/comparison.tsx";
import { RunList } from "../parts/run/run-list.tsx";
import { runName } from "../parts/run/run-name.ts";
import { readTyped, TYPED_FIELDS, TypedFigures, textsOf } from "../parts/run/typed-figures.tsx";
import { TERMS, Term } from "../ui/term.tsx";

afterEach(cleanup);

const NOTHING = textsOf(null);
const TYPED: TypedInput = {
  edgeC: 74.5,
  hotspotC: 91,
  memoryC: null,
  vrmC: null,
  fanRpm: 1800,
  fanPct: null,
  powerW: 204,
  coreClockMHz: null,
  minutes: 15,
};

describe("figures as they are typed", () => {
  it("become numbers and are written so that they are read again as themselves", () => {
    expect(
      readTyped({ ...NOTHING, edgeC: "74,5", hotspotC: " 91 ", fanRpm: "1 800", powerW: "204", minutes: "15" }),
    ).toEqual({
      typed: TYPED,
    });
    expect(readTyped(textsOf(TYPED))).toEqual({ typed: TYPED });
    expect(readTyped(textsOf({ ...TYPED, edgeC: 74.125 }))).toEqual({ typed: { ...TYPED, edgeC: 74.125 } });
  });

  it.each([
    ["nothing at all", {}, "edgeC", /one temperature or more/],
    ["°F", { edgeC: "165" }, "edgeC", /Fahrenheit/],
    ["a word", { edgeC: "warm" }, "edgeC", /temperature lies/],
    ["two meanings", { edgeC: "70", fanRpm: "1.800" }, "fanRpm", /fan speed/],
    ["too long a run", { edgeC: "70", minutes: "2000" }, "minutes", /a day/],
    ["no power", { edgeC: "70", powerW: "0" }, "powerW", /Power lies/],
  ] as const)("are refused by field: %s", (_, texts, field, words) => {
    const read = readTyped({ ...NOTHING, ...texts });
    expect("errors" in read && read.errors[field]).toMatch(words);
  });

  it("are asked about one by one, with what is wrong beside its field", () => {
    const Form = () => {
      const [texts, setTexts] = useState(NOTHING);
      const read = readTyped(texts);
      return <TypedFigures texts={texts} onChange={setTexts} errors={"errors" in read ? read.errors : {}} />;
    };
    render(<Form />);
    for (const { label } of TYPED_FIELDS) expect(screen.queryByLabelText(label)).not.toBeNull();
    fireEvent.input(screen.getByLabelText("Memory (°C)"), { target: { value: "300" } });
    expect(screen.getByLabelText("Memory (°C)").getAttribute("aria-invalid")).toBe("true");
    fireEvent.input(screen.getByLabelText("Memory (°C)"), { target: { value: "88" } });
    expect(screen.queryByRole("alert")).toBeNull();
  });
});

const typedRun = (side: "before" | "after", more: Partial<TypedInput>, ambientC = 22) => {
  const typed = { ...TYPED, ...more };
  return asRun(side, { typed, ambientC, analysis: typedAnalysis(typed, { ambientC }) });
};

describe("runs from paper on the page", () => {
  it("say that they are, in the list as in the comparison, and lead to an answer with wide intervals", () => {
    const [before, after] = [typedRun("before", {}), typedRun("after", { edgeC: 62, hotspotC: 75 })];
    const [pair] = comparePairs([before, after], { ...USUAL_SETTINGS, limits: USUAL_LIMITS, complaint: "" });
    expect(pair).toBeDefined();
    render(
      <MemoryRouter>
        <ComparisonSheet pair={pair!} before={before} after={after} limits={USUAL_LIMITS} isKept={false} />
      </MemoryRouter>,
    );
    expect(screen.queryByText("Both runs were typed from paper:", { exact: false })).not.toBeNull();
    const row = screen.getByRole("row", { name: /^Edge/ });
    const [, width] = /−12\.5 ± (\d+\.\d) K/.exec(row.textContent ?? "") ?? [];
    expect(Number(width)).toBeGreaterThan(3);
    // What nobody wrote down differs in nothing.
    const differed = screen.getByRole("table", { name: /Differences of conditions/ });
    expect(within(differed).queryByText("Sampling")).toBeNull();
    expect(within(differed).queryByText("Time under load")).not.toBeNull();
  });

  it("are named where nobody named them, and warned of where they were too short or lack their room", () => {
    expect(runName({ name: "", typed: TYPED, fileName: "typed.json" })).toBe("Figures from paper");
    expect(runName({ name: "", typed: null, fileName: "a.csv" })).toBe("a.csv");
    expect(runName({ name: "evening", typed: TYPED, fileName: "typed.json" })).toBe("evening");
    const short = { ...typedRun("before", { minutes: 4 }), id: "short" };
    const airless = {
      ...asRun("before", { typed: TYPED, ambientC: null, analysis: typedAnalysis(TYPED) }),
      id: "airless",
    };
    render(
      <Provider store={makeStore()}>
        <MemoryRouter>
          <RunList runs={[short, airless]} />
        </MemoryRouter>
      </Provider>,
    );
    const [first, second] = screen.getAllByRole("listitem");
    expect(first?.textContent).toContain("typed from paper");
    expect(first?.textContent).toContain("not settled");
    expect(first?.textContent).toContain("K expected");
    expect(second?.textContent).toContain("room air missing");
  });

  it("are sent as they were typed, with nothing of what the page made of them", () => {
    const input = inputOf(typedRun("after", {}));
    expect(input).toMatchObject({ side: "after", typed: TYPED, ambientC: 22, attempt: null, mapping: [] });
    expect(Object.keys(input)).not.toEqual(expect.arrayContaining(["analysis"]));
    expect(Object.keys(input)).not.toEqual(expect.arrayContaining(["id"]));
  });
});

describe("which of two logs is the one before", () => {
  const file = (name: string, lastModified: number) => ({ name, lastModified });
  it.each([
    ["by its words", [file("after.csv", 1), file("before.csv", 2)], "before.csv"],
    ["by one word only", [file("run-new.csv", 1), file("run.csv", 2)], "run.csv"],
    ["in German", [file("nachher.csv", 1), file("vorher.csv", 2)], "vorher.csv"],
    ["in French", [file("après.csv", 1), file("avant.csv", 2)], "avant.csv"],
    ["by when it was written", [file("b.csv", 2), file("a.csv", 1)], "a.csv"],
  ])("is told %s", (_, files, first) => expect(inOrder(files)[0]?.name).toBe(first));
});

describe("a term of the trade", () => {
  it("explains itself when it is asked, and each is one of its own", async () => {
    render(<Term of="theta">θ</Term>);
    expect(screen.queryByText(/each watt costs/)).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "What is θ (theta)?" }));
    expect(await screen.findByText(/each watt costs/)).toBeDefined();
    const names = Object.values(TERMS).map(([name]) => name);
    expect(new Set(names).size).toBe(names.length);
  });
});
