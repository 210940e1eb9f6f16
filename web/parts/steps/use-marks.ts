import { nanoid } from "@reduxjs/toolkit";
import { useMemo } from "react";
import { type HandStation, MOST_MARKS_AT_ONCE, type StepMarkInput } from "#contract";
import { type Folded, foldMarks, type StepMark } from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import type { Fault } from "../../app/fault.ts";
import { keyOf, outboxKind, sentAnswer } from "../../app/outbox.ts";
import { useAppStore } from "../../app/store.ts";
import { useOutbox } from "../../app/use-outbox.ts";

/** What was marked goes out in the order in which hands did it; whatever a device marked while it was away goes with it. */
const MARKS = outboxKind<StepMarkInput[]>({
  name: "steps",
  afterMs: 0,
  async send(serviceId, { value }, dispatch) {
    for (let from = 0; from < value.length; from += MOST_MARKS_AT_ONCE) {
      const marks = value.slice(from, from + MOST_MARKS_AT_ONCE);
      const made = await dispatch(api.endpoints.addSteps.initiate({ serviceId, body: { marks } }, { track: false }));
      if (!made.data) return sentAnswer(made);
    }
    return { version: 0 };
  },
  rest(newest, sent) {
    const gone = new Set(sent.map(({ id }) => id));
    const left = newest.filter(({ id }) => !gone.has(id));
    return left.length > 0 ? left : undefined;
  },
});

/** Another device's marks come in so often, ms. */
const LOOK_MS = 3000;

export interface MadeMark {
  stepId: string;
  what: StepMark["what"];
  value?: string;
  text?: string;
}

export interface Marks {
  /** Of this station and attempt, those of the server first. */
  marks: readonly StepMarkInput[];
  folded: Folded;
  /** All marks of the service that another station reads. */
  of: (station: HandStation, attempt: number) => readonly StepMarkInput[];
  /** Marks one thing or several, in this order. */
  mark: (...made: readonly MadeMark[]) => void;
  ready: boolean;
  unsaved: number;
  fault: Fault | null;
  error: unknown;
}

const NONE: readonly StepMarkInput[] = [];

/** Marks of a station that leads step by step: shown at once, kept in the browser until the server has them, shared between devices. */
export function useMarks(serviceId: string, station: HandStation, attempt: number, isLooking: boolean): Marks {
  const { data, error } = api.useStepsQuery(serviceId, {
    pollingInterval: isLooking ? LOOK_MS : 0,
    skipPollingIfUnfocused: true,
  });
  const store = useAppStore();
  const { value: waiting = NONE, fault, change } = useOutbox(MARKS, serviceId, 0);
  const all = useMemo(() => [...(data?.marks ?? NONE), ...waiting], [data, waiting]);
  const of = (whose: HandStation, which: number): readonly StepMarkInput[] =>
    all.filter((mark) => mark.station === whose && mark.attempt === which);
  const marks = useMemo(
    () => all.filter((mark) => mark.station === station && mark.attempt === attempt),
    [all, station, attempt],
  );
  const folded = useMemo(() => foldMarks(marks), [marks]);
  return {
    marks,
    folded,
    of,
    mark: (...made) => {
      const at = new Date().toISOString();
      // Of the store, not of the page: a second press may come before it is drawn anew.
      const held = (store.getState().outbox[keyOf(MARKS, serviceId)]?.value as StepMarkInput[] | undefined) ?? NONE;
      change([...held, ...made.map((one) => ({ value: "", text: "", ...one, id: nanoid(), station, attempt, at }))]);
    },
    ready: data !== undefined,
    unsaved: waiting.length,
    fault,
    error,
  };
}
