// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { useState } from "react";
import { Provider } from "react-redux";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { StepMarkInput } from "#contract";
import { addPlug, addScrew, EMPTY_MAP } from "#core/boardmap/index.ts";
import { type Folded, foldMarks, type HandStep, type PlannedTurn, stripSteps, valueOf } from "#core/handwork/index.ts";
import { api } from "../app/api.ts";
import { makeStore } from "../app/store.ts";
import { DieCore } from "../parts/steps/die-core.tsx";
import { StepMode } from "../parts/steps/step-mode.tsx";
import { pastOut, StepPlan } from "../parts/steps/step-plan.tsx";
import { StepsSheet } from "../parts/steps/steps-sheet.tsx";
import { TurnsProblem, turnsWaiting } from "../parts/steps/turns-waiting.tsx";
import type { MadeMark } from "../parts/steps/use-marks.ts";
import { BY_PLAN, readTurns, type Turns, writeTurns } from "../parts/steps/use-turns.ts";

beforeEach(() => localStorage.clear());
afterEach(cleanup);

/** Real steps of an unknown board, of which each test takes those it needs. */
const ALL = stripSteps({ map: EMPTY_MAP, folded: foldMarks([]), turns: null, warmth: null });
const named = (...ids: string[]): HandStep[] => ids.map((id) => ALL.find((step) => step.id === id) as HandStep);

const made: StepMarkInput[] = [];
let minute = 0;
const markOf = (one: MadeMark): StepMarkInput => ({
  value: "",
  text: "",
  ...one,
  id: `mark ${made.length} ${Math.random()}`,
  station: "strip",
  attempt: 1,
  at: new Date(Date.UTC(2026, 2, 1, 9, minute)).toISOString(),
});

function Mode({
  steps,
  start = [],
  faultAt,
  waiting = null,
  onClose = () => undefined,
}: {
  steps: readonly HandStep[];
  start?: readonly StepMarkInput[];
  faultAt?: (stepId: string, folded: Folded) => string;
  waiting?: React.ReactNode;
  onClose?: () => void;
}) {
  const [marks, setMarks] = useState<readonly StepMarkInput[]>(start);
  return (
    <Provider store={makeStore()}>
      <StepMode
        title="Strip · a card"
        cardId="c1"
        steps={steps}
        marks={{
          marks,
          folded: foldMarks(marks),
          of: () => marks,
          mark: (...more) => {
            const own = more.map(markOf);
            made.push(...own);
            setMarks((held) => [...held, ...own]);
          },
          ready: true,
          unsaved: 0,
          fault: null,
          error: undefined,
        }}
        picture={<p>the plan</p>}
        body={null}
        waiting={waiting}
        {...(faultAt ? { faultAt } : {})}
        onClose={onClose}
      />
    </Provider>
  );
}

const words = (): string => screen.getByRole("heading", { level: 2 }).textContent ?? "";
const press = (key: string, target: Element = document.activeElement ?? document.body): boolean =>
  fireEvent.keyDown(target, { key });
const folded = (): Folded => foldMarks(made);

describe("one step at a time", () => {
  beforeEach(() => {
    made.length = 0;
    minute = 0;
  });

  it("space, a pedal's page keys and the large button go on, Backspace goes back, and the end says so", () => {
    const steps = named("off", "warm", "tray");
    render(<Mode steps={steps} />);
    expect(words()).toMatch(/Switch the supply off/);
    press(" ");
    expect(words()).toMatch(/how warm the card is/);
    press("PageDown");
    expect(words()).toMatch(/tray sheet/);
    press("PageUp");
    press("Backspace");
    expect(words()).toMatch(/Switch the supply off/);
    press("Backspace");
    expect(words()).toMatch(/Switch the supply off/);
    for (let k = 0; k < 3; k++) fireEvent.click(screen.getByRole("button", { name: /^Done/ }));
    expect(words()).toBe("All steps are done");
    expect(made.map(({ stepId, what }) => `${what} ${stepId}`)).toEqual([
      "begun begin",
      "done off",
      "done warm",
      "undone warm",
      "undone off",
      "done off",
      "done warm",
      "done tray",
    ]);
  });

  it("what has the focus after a step is the next one's sentence, or its field", () => {
    render(<Mode steps={named("off", "board:width", "warm")} />);
    press(" ");
    expect(document.activeElement).toBe(screen.getByLabelText("Millimetres"));
    fireEvent.change(screen.getByLabelText("Millimetres"), { target: { value: "230" } });
    press("Enter");
    expect(document.activeElement).toBe(screen.getByRole("heading", { level: 2 }));
  });

  it("a choice is made by its number or its button; without one it is asked for, unless there is a usual one", () => {
    const off = {
      ...(named("layer:bracket")[0] as HandStep),
      choices: [{ value: "off", label: "Take it off", usual: true as const }],
    };
    render(<Mode steps={[...named("seal"), off, ...named("compound")]} />);
    press(" ");
    expect(screen.getByRole("alert").textContent).toBe("Choose one of them.");
    press("7");
    expect(words()).toMatch(/seal/);
    press("2");
    expect(valueOf(folded(), "seal")).toBe("damaged");
    press(" ");
    expect(valueOf(folded(), "layer:bracket")).toBe("off");
    fireEvent.click(screen.getByRole("button", { name: "Cracked" }));
    expect(valueOf(folded(), "compound")).toBe("cracked");
  });

  it("a figure is needed, must be one, and must be possible; what is typed is gone with its step", () => {
    render(<Mode steps={named("board:width", "board:height")} />);
    const type = (text: string): void => {
      fireEvent.change(screen.getByLabelText("Millimetres"), { target: { value: text } });
      press("Enter", screen.getByLabelText("Millimetres"));
    };
    press("Enter", screen.getByLabelText("Millimetres"));
    expect(screen.getByRole("alert").textContent).toBe("Type the figure first.");
    type("wide");
    expect(screen.getByRole("alert").textContent).toBe("Type a number.");
    type("3");
    expect(screen.getByRole("alert").textContent).toBe("Between 10 and 1000 mm.");
    type("231,5");
    expect(valueOf(folded(), "board:width")).toBe("231.5");
    expect(words()).toMatch(/height/);
    expect((screen.getByLabelText("Millimetres") as HTMLInputElement).value).toBe("");
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("digits are the field's, keys the step's: Backspace leads back only from an empty field, x is asked from within it", () => {
    render(<Mode steps={named("off", "board:width")} />);
    press(" ");
    const field = screen.getByLabelText("Millimetres");
    expect(press("7", field)).toBe(true);
    fireEvent.change(field, { target: { value: "7" } });
    expect(press("Backspace", field)).toBe(true);
    expect(words()).toMatch(/length/);
    fireEvent.change(field, { target: { value: "" } });
    expect(press("x", field)).toBe(false);
    expect(screen.queryByRole("form", { name: "This one is different" })).not.toBeNull();
    press("Backspace", field);
    expect(words()).toMatch(/Switch the supply off/);
  });

  it("an answer that does not add up is said before it is taken, and stands when it is said again", () => {
    const faultAt = (id: string, then: Folded): string => (valueOf(then, id) === "13" ? "13 of 14 lie there." : "");
    render(<Mode steps={named("count")} faultAt={faultAt} />);
    const type = (text: string) => fireEvent.change(screen.getByLabelText("Screws"), { target: { value: text } });
    type("13");
    press("Enter", screen.getByLabelText("Screws"));
    expect(screen.queryByText("13 of 14 lie there.")).not.toBeNull();
    type("1");
    expect(screen.queryByText("13 of 14 lie there.")).toBeNull();
    type("13");
    press("Enter", screen.getByLabelText("Screws"));
    expect(words()).toMatch(/Count/);
    press("Enter", screen.getByLabelText("Screws"));
    expect(words()).toBe("All steps are done");
    expect(valueOf(folded(), "count")).toBe("13");
  });

  it("what is different is noted, shown, and taken back; Escape leaves the panel and nothing else", () => {
    let closed = 0;
    render(<Mode steps={named("off", "warm")} onClose={() => closed++} />);
    press("x");
    press("Escape", screen.getByLabelText("In a few words"));
    expect(screen.queryByRole("form")).toBeNull();
    expect(closed).toBe(0);
    press("x", screen.getByRole("heading", { level: 2 }));
    fireEvent.click(screen.getByRole("radio", { name: "stripped" }));
    fireEvent.change(screen.getByLabelText("In a few words"), { target: { value: " worn " } });
    fireEvent.submit(screen.getByRole("form"));
    expect(screen.queryByText("Noted: stripped, worn")).not.toBeNull();
    fireEvent.click(screen.getByRole("button", { name: /^Different/ }));
    fireEvent.click(screen.getByRole("button", { name: "It is as it should be" }));
    expect(folded().get("off")?.odd).toBeNull();
    expect(words()).toMatch(/Switch the supply off/);
  });

  it("nothing goes on while something is waited for", () => {
    render(<Mode steps={named("off", "warm")} waiting={<p>Working it out: 40 %</p>} />);
    expect(words()).toBe("A moment, before you turn a screw");
    press(" ");
    expect(screen.getByRole("button", { name: /^Done/ })).toHaveProperty("disabled", true);
    expect(made.map(({ what }) => what)).toEqual(["begun"]);
  });

  it("all steps in a list: several are ticked in any order, those that ask need their answer", () => {
    render(<Mode steps={named("off", "seal", "warm", "tray")} />);
    press("l");
    fireEvent.click(screen.getByRole("checkbox", { name: /tray sheet/ }));
    fireEvent.click(screen.getByRole("checkbox", { name: /Switch the supply off/ }));
    fireEvent.click(screen.getByRole("checkbox", { name: /tray sheet/ }));
    expect(screen.getByRole("checkbox", { name: /seal/ })).toHaveProperty("disabled", true);
    press(" ");
    fireEvent.click(screen.getByRole("button", { name: /One at a time/ }));
    expect(words()).toMatch(/seal/);
    expect([...folded()].filter(([, { done }]) => done).map(([id]) => id)).toEqual(["off"]);
  });

  it("a gap of over ten minutes is asked about once, and its answer kept with the mark before it", () => {
    const first = markOf({ stepId: "begin", what: "begun" });
    minute = 38;
    render(<Mode steps={named("off", "warm")} start={[first]} />);
    press(" ");
    const question = screen.getByText(/no step was marked: were hands on it\?/);
    fireEvent.click(within(question.parentElement as HTMLElement).getByRole("button", { name: "Yes, count 38 min" }));
    expect(screen.queryByText(/were hands on it/)).toBeNull();
    expect(made.at(-1)).toMatchObject({ what: "pause", stepId: first.at, value: "worked" });
    expect(screen.queryByText("38 min")).not.toBeNull();
  });
});

describe("the plan at a step", () => {
  const one = addScrew(EMPTY_MAP, { xMm: 40, yMm: 30 }).map;
  const two = addPlug(addScrew(one, { xMm: 200, yMm: 80 }).map, { xMm: 60, yMm: 90 }).map;
  const placeOf = (id: string) => {
    const circle = document.querySelector(`[data-fastener="${id}"] circle:last-of-type`);
    return [Number(circle?.getAttribute("cx")), Number(circle?.getAttribute("cy"))];
  };
  const stateOf = (id: string) => document.querySelector(`[data-fastener="${id}"]`)?.getAttribute("data-state");

  it("shows what is done, what is next and what is left; the back as it lies on the bench", () => {
    const done = pastOut(
      foldMarks([markOf({ stepId: "out:S1", what: "done" }), markOf({ stepId: "plug:P1", what: "done" })]),
    );
    const { rerender } = render(
      <StepPlan map={two} step={{ side: "front", things: ["S2"], text: "" }} isPast={done} />,
    );
    expect([stateOf("S1"), stateOf("S2"), stateOf("P1")]).toEqual(["past", "next", "past"]);
    expect(placeOf("S1")).toEqual([40, EMPTY_MAP.board.heightMm - 30]);
    rerender(<StepPlan map={two} step={{ side: "back", things: [], text: "" }} isPast={done} />);
    expect(placeOf("S1")).toEqual([EMPTY_MAP.board.widthMm - 40, EMPTY_MAP.board.heightMm - 30]);
    // A plug of the other side is not there to be seen.
    expect(stateOf("P1")).toBeUndefined();
  });

  it("is tapped by arrows and Enter too, at the place on the board whichever side is up", () => {
    const taps: Array<{ xMm: number; yMm: number }> = [];
    const { widthMm, heightMm } = EMPTY_MAP.board;
    for (const side of ["front", "back"] as const) {
      render(
        <StepPlan map={one} step={{ side, things: [], text: "" }} isPast={() => false} onTap={(at) => taps.push(at)} />,
      );
      const plan = screen.getByRole("group", { name: /move the cross/ });
      fireEvent.keyDown(plan, { key: "ArrowRight", shiftKey: true });
      fireEvent.keyDown(plan, { key: "ArrowUp" });
      fireEvent.keyDown(plan, { key: "Enter" });
      cleanup();
    }
    expect(taps).toEqual([
      { xMm: widthMm / 2 + 10, yMm: heightMm / 2 + 1 },
      { xMm: widthMm / 2 - 10, yMm: heightMm / 2 + 1 },
    ]);
  });
});

describe("turns", () => {
  const turn = (more: Partial<PlannedTurn>): PlannedTurn => ({
    screwId: "S1",
    turns: 1,
    totalTurns: 1,
    dieForceN: 40,
    offCentre: 0.5,
    cornerKPa: 137.4,
    exMm: 1,
    eyMm: 0,
    ...more,
  });
  const TURNS: Turns = { turns: null, fastening: null, problem: null, progress: null, kept: false };

  it("are kept in a mark and read again to what is shown of them; anything else is no plan", () => {
    const plan = [turn({ turns: 1.234_567_89 }), turn({ screwId: "S2", offCentre: null })];
    const [first, second] = readTurns(BY_PLAN, writeTurns(plan)) ?? [];
    expect(first?.turns).toBeCloseTo(1.2346, 9);
    expect(second).toEqual(plan[1]);
    expect(readTurns("cross", writeTurns(plan))).toBeNull();
    expect(readTurns(BY_PLAN, "{")).toBeNull();
  });

  it("a die's centre of pressure is told against its core", () => {
    const die = { xMm: 0, yMm: 0, widthMm: 24, heightMm: 24 };
    const told = (at: PlannedTurn): string => {
      const { container } = render(<DieCore die={die} turns={[at]} at={at} back={false} />);
      const text = container.textContent ?? "";
      cleanup();
      return text;
    };
    expect(told(turn({}))).toMatch(/137 kPa.*40 N.*Inside the dashed core/);
    expect(told(turn({ offCentre: 1.2 }))).toMatch(/Outside the core: an edge lifts/);
    expect(told(turn({ offCentre: null, dieForceN: 0, cornerKPa: 0 }))).toMatch(/carries nothing yet/);
  });

  it("are waited for with a way out, and their want is told beside the screw", () => {
    const marked: MadeMark[] = [];
    render(<>{turnsWaiting({ ...TURNS, progress: 0.4 }, (...more) => marked.push(...more))}</>);
    expect(screen.queryByText(/40 %/)).not.toBeNull();
    fireEvent.click(screen.getByRole("button", { name: /by the cross/ }));
    expect(marked).toEqual([{ stepId: "plan", what: "value", value: "cross" }]);
    expect(turnsWaiting({ ...TURNS, turns: [turn({})], progress: 0.4 }, () => undefined)).toBeNull();
    expect(turnsWaiting({ ...TURNS, kept: true, progress: 0.4 }, () => undefined)).toBeNull();
    cleanup();
    const problem = { code: "bad-stack", what: "Screw S3 has no travel.", remedy: "Give its pull." };
    render(<TurnsProblem turning={{ ...TURNS, problem }} />);
    expect(screen.queryByText(/Screw S3 has no travel/)).not.toBeNull();
    expect(screen.queryByText(/crosswise, a little each/)).not.toBeNull();
  });
});

it("a station says how far it is and what is next", () => {
  const steps = named("off", "warm");
  const sheet = (marks: readonly StepMarkInput[]) => (
    <MemoryRouter>
      <StepsSheet
        steps={steps}
        marks={{
          marks,
          folded: foldMarks(marks),
          of: () => marks,
          mark: () => undefined,
          ready: true,
          unsaved: 0,
          fault: null,
          error: undefined,
        }}
        ended="Taken apart"
      >
        <p>plan</p>
      </StepsSheet>
    </MemoryRouter>
  );
  const { rerender } = render(sheet([]));
  expect(screen.getByRole("heading").textContent).toBe("2 steps");
  expect(screen.queryByRole("button", { name: "Begin" })).not.toBeNull();
  const off = markOf({ stepId: "off", what: "done" });
  rerender(sheet([off]));
  expect(screen.getByRole("heading").textContent).toBe("1 of 2 steps done");
  expect(screen.queryByText(/^Next: Nobody knows how warm/)).not.toBeNull();
  rerender(sheet([off, markOf({ stepId: "warm", what: "done" })]));
  expect(screen.getByRole("heading").textContent).toBe("Taken apart");
});

it("an answer that was under way is not taken for the newest: marks never grow fewer, a map never older", async () => {
  const store = makeStore();
  const [one, two] = [markOf({ stepId: "off", what: "done" }), markOf({ stepId: "warm", what: "done" })];
  for (const marks of [[one], [one, two], [one]])
    await store.dispatch(api.util.upsertQueryData("steps", "s1", { serviceId: "s1", marks }));
  expect(api.endpoints.steps.select("s1")(store.getState()).data?.marks).toEqual([one, two]);
  const view = { boardModelId: "b1", boardName: "OF-1", map: EMPTY_MAP, underlay: null };
  for (const version of [3, 4, 3])
    await store.dispatch(api.util.upsertQueryData("boardMap", "b1", { ...view, version }));
  expect(api.endpoints.boardMap.select("b1")(store.getState()).data?.version).toBe(4);
});
