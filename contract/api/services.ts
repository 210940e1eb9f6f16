import * as v from "valibot";
import { VERDICTS } from "../choices.ts";
import { RunDiagnosis } from "../decide.ts";
import { Mapping, Run, RunChange, RunInput } from "../run.ts";
import { NoteChange, NoteInput, ServiceLine, ServiceView, SkipInput } from "../service.ts";
import { StationName } from "../stations.ts";
import { StepMarksInput, StepsView } from "../steps.ts";
import { add, get, media, post, put, removable } from "./route.ts";
import { LINES, SERVICE } from "./stale.ts";

/** One service: its work, marks and runs; and the lists of all of them. */
export const services = {
  lines: get("/bench", "Services with station, figure and next step, a page at a time", {
    queries: {
      find: v.optional(v.pipe(v.string(), v.maxLength(300, "At most 300 characters."))),
      closed: v.optional(v.picklist(["true", "false"], "Give true or false.")),
      station: v.optional(StationName),
      verdict: v.optional(v.picklist(VERDICTS, "No such verdict.")),
      owner: v.optional(v.pipe(v.string(), v.maxLength(120, "At most 120 characters."))),
      model: v.optional(v.pipe(v.string(), v.maxLength(300, "At most 300 characters."))),
      after: v.optional(v.string()),
      limit: v.optional(
        v.pipe(
          v.string(),
          v.transform(Number),
          v.integer("A whole number."),
          v.minValue(1, "At least 1."),
          v.maxValue(500, "At most 500."),
        ),
      ),
    },
    answers: v.array(ServiceLine),
  }),
  service: get("/services/:serviceId", "A service: stations, runs, notes, comparisons", {
    answers: ServiceView,
    idIn: "id",
  }),
  steps: get("/services/:serviceId/steps", "What hands marked at the stations that lead step by step", {
    answers: StepsView,
    idIn: "serviceId",
    newest: "marks",
  }),
  addSteps: post("/services/:serviceId/steps", "Add marks; one that is there already is not added again", {
    takes: StepMarksInput,
    answers: StepsView,
    fills: "steps",
    stale: [...SERVICE, ...LINES],
  }),
  addNote: add("/services/:serviceId/notes", "Note work done", {
    takes: NoteInput,
    answers: ServiceView,
    fills: "service",
    stale: [...SERVICE, ...LINES],
  }),
  changeNote: put("/notes/:noteId", "Change a note", {
    takes: NoteChange,
    answers: ServiceView,
    fills: "service",
    stale: [...SERVICE, ...LINES],
  }),
  removeNote: removable("/notes/:noteId", "Remove a note, or put it back", {
    answers: ServiceView,
    fills: "service",
    stale: [...SERVICE, ...LINES, "removed"],
  }),
  skip: put("/services/:serviceId/skip", "Skip a station with a reason, or take that back with null", {
    takes: SkipInput,
    answers: ServiceView,
    fills: "service",
    stale: [...SERVICE, ...LINES],
  }),
  addRun: add(
    "/services/:serviceId/runs",
    "Add a run (multipart: run as JSON, and log unless its figures were typed)",
    {
      form: { log: v.optional(v.blob()), run: RunInput },
      answers: Run,
      fills: "run",
      stale: [...SERVICE, ...LINES],
    },
  ),
  headerChoice: post("/header-choice", "What the columns of such a header were last taken for", {
    takes: v.object({ headers: v.array(v.string()) }),
    answers: v.object({ mapping: v.nullable(Mapping) }),
  }),
  run: get("/runs/:runId", "One run with its figures", { answers: Run, idIn: "id" }),
  changeRun: put("/runs/:runId", "Change conditions, roles, room air or window; figures are computed anew", {
    takes: RunChange,
    answers: Run,
    fills: "run",
    stale: [...SERVICE, ...LINES],
  }),
  removeRun: removable("/runs/:runId", "Remove a run, or put it back", {
    answers: ServiceView,
    fills: "service",
    stale: [...SERVICE, ...LINES, "removed"],
  }),
  diagnosis: get("/runs/:runId/diagnosis", "Likely causes with evidence and the next check", { answers: RunDiagnosis }),
  samples: get("/runs/:runId/samples", "Samples for display (binary, see contract/run.ts)", {
    answers: media("application/octet-stream"),
  }),
  original: get("/runs/:runId/original", "The log as it was dropped", { answers: media("application/octet-stream") }),
};
