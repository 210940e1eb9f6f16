import { type Run, type RunInput, UNTOLD } from "#contract";

/** A run as it would be kept, before anything is: nobody said more of it than is given here. */
export function asRun(side: Run["side"], given: Pick<Run, "analysis" | "ambientC"> & Partial<Run>): Run {
  return {
    ...UNTOLD,
    id: side,
    serviceId: "",
    cardId: "",
    side,
    name: "",
    fileName: "",
    fileBytes: 0,
    attempt: 1,
    fanMode: "unknown",
    fanPct: null,
    loadName: "",
    sidePanel: "unknown",
    clocks: "",
    powerLimitPct: null,
    picture: "works",
    ambientU95K: null,
    intervalS: null,
    mapping: [],
    window: null,
    createdAt: "",
    version: 0,
    ...given,
  };
}

/** What of it is sent. */
export function inputOf(run: Run): RunInput {
  const { id: _id, serviceId: _service, cardId: _card, fileName: _file, fileBytes: _bytes, ...rest } = run;
  const { analysis: _analysis, createdAt: _created, version: _version, ...input } = rest;
  return { ...input, attempt: null };
}
