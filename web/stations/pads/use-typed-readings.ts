import { nanoid } from "@reduxjs/toolkit";
import { useEffect, useEffectEvent, useState } from "react";
import type { GapInput } from "#contract";
import { Problem } from "#core";
import type { GapSource, OldPadSoftness, OldPadState } from "#core/gaps/index.ts";
import { parseReadings } from "#core/gaps/index.ts";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import type { Fault } from "../../app/fault.ts";
import { outboxKind, sentAnswer } from "../../app/outbox.ts";
import { useAppDispatch, useAppSelector, useAppStore } from "../../app/store.ts";
import { useOutbox } from "../../app/use-outbox.ts";

/** How a reading is taken: of what, in which unit, and what is seen of the old pad. */
export interface ReadingHow {
  source: GapSource;
  padState: OldPadState;
  softness: OldPadSoftness;
  unit: "mm" | "in";
  coverPct: number | null;
}

interface Field {
  text: string;
  /** Of these figures the server may have some, its answer lost: sent again they keep their ids. */
  sent: ReadonlyArray<{ id: string; valueMm: number }>;
}
type Typed = Readonly<Record<string, Field>>;
const NOTHING: Typed = {};
const EMPTY: Field = { text: "", sent: [] };

/** Readings on their way, with what was typed for them. */
interface Outgoing {
  partId: string;
  text: string;
  readings: Array<GapInput["readings"][number] & { id: string }>;
}

const READINGS = outboxKind<Outgoing[]>({
  name: "readings",
  afterMs: 0,
  // Back into its field at once, where it is seen; from there it is sent again by hand.
  retries: false,
  async send(serviceId, { value }, dispatch) {
    const body = { readings: value.flatMap(({ readings }) => readings) };
    return sentAnswer(await dispatch(api.endpoints.addGaps.initiate({ serviceId, body }, { track: false })));
  },
  rest(newest, sent) {
    const left = newest.filter((one) => !sent.includes(one));
    return left.length > 0 ? left : undefined;
  },
});

/** What is typed for each place and not kept yet: it outlives a step to the next place, a lost server and a reload. */
export function useTypedReadings(serviceId: string) {
  const form = `readings ${serviceId}`;
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const typed = useAppSelector((state) => (state.drafts[form] as Typed | undefined) ?? NOTHING);
  const { value: outgoing, phase, fault: found, change, drop } = useOutbox(READINGS, serviceId, 0);
  const [fault, setFault] = useState<Fault | null>(null);
  const putField = (id: string, made: (old: Field) => Field): void => {
    const { [id]: old = EMPTY, ...others } = (store.getState().drafts[form] as Typed | undefined) ?? NOTHING;
    const field = made(old);
    const value = field.text === "" ? others : { ...others, [id]: field };
    dispatch(Object.keys(value).length > 0 ? keepDraft({ form, value }) : dropDraft(form));
  };
  const putBack = useEffectEvent((refused: readonly Outgoing[]) => {
    for (const out of refused)
      putField(out.partId, (since) => ({
        text: [out.text, since.text].filter(Boolean).join(" "),
        sent: [...out.readings.map(({ id, valueMm }) => ({ id, valueMm })), ...since.sent],
      }));
    drop();
  });
  useEffect(() => {
    if (phase === "sending") setFault(null);
    if (phase !== "refused" || !outgoing) return;
    setFault(found);
    putBack(outgoing);
  }, [phase, outgoing, found]);
  /**
   * Takes what is typed for a place off the field at once, so that a caliper can go on typing; it comes back if it can't be kept.
   * @returns what is wrong with what was typed, if anything
   */
  const keepTyped = (partId: string, { unit, ...how }: ReadingHow): Problem | null => {
    const { text, sent } = typed[partId] ?? EMPTY;
    try {
      const left = [...sent];
      const readings = parseReadings(text, unit).map((valueMm) => {
        const at = left.findIndex((one) => one.valueMm === valueMm);
        const [again] = at < 0 ? [] : left.splice(at, 1);
        return { id: again?.id ?? nanoid(), partId, valueMm, ...how };
      });
      putField(partId, () => EMPTY);
      change([...(outgoing ?? []), { partId, text, readings }]);
      return null;
    } catch (problem) {
      if (problem instanceof Problem) return problem;
      throw problem;
    }
  };
  const type = (id: string, text: string): void => putField(id, (old) => ({ ...old, text }));
  return { textOf: (id: string): string => typed[id]?.text ?? "", type, keepTyped, fault };
}

export type TypedReadings = ReturnType<typeof useTypedReadings>;
