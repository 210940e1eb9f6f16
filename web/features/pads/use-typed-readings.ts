import { useState } from "react";
import { Problem } from "#core";
import type { GapSource, OldPadSoftness, OldPadState } from "#core/gaps/index.ts";
import { parseReadings } from "#core/gaps/index.ts";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
import { useAppDispatch, useAppSelector, useAppStore } from "../../app/store.ts";

/** How a reading is taken: of what, in which unit, and what is seen of the old pad. */
export interface ReadingHow {
  source: GapSource;
  padState: OldPadState;
  softness: OldPadSoftness;
  unit: "mm" | "in";
  coverPct: number | null;
}

type Typed = Readonly<Record<string, string>>;
const NOTHING: Typed = {};

/** What is typed for each place and not kept yet: it outlives a step to the next place, a lost server and a reload. */
export function useTypedReadings(serviceId: string) {
  const form = `readings ${serviceId}`;
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const typed = useAppSelector((state) => (state.drafts[form] as Typed | undefined) ?? NOTHING);
  const [add] = api.useAddGapsMutation();
  const [fault, setFault] = useState<Fault | null>(null);
  const type = (id: string, made: (old: string) => string): void => {
    const { [id]: old = "", ...others } = (store.getState().drafts[form] as Typed | undefined) ?? NOTHING;
    const text = made(old);
    const value = text === "" ? others : { ...others, [id]: text };
    dispatch(Object.keys(value).length > 0 ? keepDraft({ form, value }) : dropDraft(form));
  };
  /**
   * Takes what is typed for a place off the field at once, so that a caliper can go on typing; it comes back if it can't be kept.
   * @returns what is wrong with what was typed, if anything
   */
  const keep = (id: string, { unit, ...how }: ReadingHow): Problem | null => {
    const text = typed[id] ?? "";
    try {
      const readings = parseReadings(text, unit).map((valueMm) => ({ partId: id, valueMm, ...how }));
      type(id, () => "");
      void add({ serviceId, body: { readings } }).then((answer) => {
        const found = faultOf(answer.error);
        setFault(found);
        if (found) type(id, (since) => [text, since].filter(Boolean).join(" "));
      });
      return null;
    } catch (problem) {
      if (problem instanceof Problem) return problem;
      throw problem;
    }
  };
  return { typed, type, keep, fault };
}

export type TypedReadings = ReturnType<typeof useTypedReadings>;
