import type { Response } from "express";
import * as v from "valibot";
import { NoteChange, NoteInput, RunChange, RunInput, SkipInput, STATIONS, StepMarksInput, VERDICTS } from "#contract";
import { checkedBody, InputProblem } from "../http/problems.ts";
import { ANSWERED, type Asked, bare, get, param, post, put, type Route, removable } from "../http/route.ts";
import { logUpload } from "../http/uploads.ts";
import { addNote, changeNote, setNoteRemoved } from "../services/change-notes.ts";
import type { Context } from "../services/context.ts";
import { diagnoseRun } from "../services/diagnosis.ts";
import {
  addRun,
  changeRun,
  findChoice,
  readOriginal,
  readRunRow,
  readSamples,
  setRunRemoved,
} from "../services/runs.ts";
import { readService, skipStation } from "../services/services.ts";
import { addSteps, readSteps } from "../services/steps.ts";
import { listLines } from "../services/summaries.ts";

const Headers = v.object({ headers: v.array(v.string()) });

const USUAL_PAGE = 200;
const LinesQuery = v.object({
  find: v.optional(v.pipe(v.string(), v.maxLength(300, "At most 300 characters."))),
  closed: v.optional(v.picklist(["true", "false"], "Give true or false.")),
  station: v.optional(
    v.picklist(
      STATIONS.map(({ id }) => id),
      "No such station.",
    ),
  ),
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
});

/** A page of services; where the next one is, and how many there are, stands in the head (RFC 8288). */
async function lines(context: Context, { query, request, response }: Asked): Promise<unknown> {
  const asked = checkedBody(LinesQuery, query);
  const page = await listLines(context, {
    ...asked,
    closed: asked.closed === undefined ? undefined : asked.closed === "true",
    limit: asked.limit ?? USUAL_PAGE,
  });
  response.set("X-Total-Count", String(page.total));
  if (page.next) {
    const next = new URLSearchParams({ ...query, after: page.next });
    response.set("Link", `<${request.baseUrl}${request.path}?${next}>; rel="next"`);
  }
  return page.lines;
}

const LINES = { queries: ["find", "closed", "station", "verdict", "owner", "model", "after", "limit"] };

export const serviceRoutes = (context: Context): Route[] => [
  get(
    "/bench",
    "Services with station, figure and next step, a page at a time",
    (asked) => lines(context, asked),
    LINES,
  ),
  get("/services/:id", "A service: stations, runs, notes, comparisons", ({ params }) =>
    readService(context, param(params, "id")),
  ),
  get("/services/:id/steps", "What hands marked at the stations that lead step by step", ({ params }) =>
    readSteps(context, param(params, "id")),
  ),
  post(
    "/services/:id/steps",
    "Add marks; one that is there already is not added again",
    StepMarksInput,
    ({ params, body }) => addSteps(context, param(params, "id"), body.marks),
  ),
  post("/services/:id/notes", "Note work done", NoteInput, ({ params, body }) =>
    addNote(context, param(params, "id"), body),
  ),
  put("/notes/:id", "Change a note", NoteChange, ({ params, body }) => changeNote(context, param(params, "id"), body)),
  removable("/notes/:id", "Remove a note, or put it back", (params, removed) =>
    setNoteRemoved(context, param(params, "id"), removed),
  ),
  put(
    "/services/:id/skip",
    "Skip a station with a reason, or take that back with null",
    SkipInput,
    ({ params, body }) => skipStation(context, param(params, "id"), body.station, body.reason),
  ),
  bare(
    "post",
    "/services/:id/runs",
    "Add a run (multipart: run as JSON, and log unless its figures were typed)",
    async ({ params, request: { file, body } }) => {
      const input = checkedBody(RunInput, parsed(body?.run));
      if (!file && !input.typed) throw new InputProblem({ log: "Drop a log file." });
      return addRun(context, param(params, "id"), file && { path: file.path, name: file.originalname }, input);
    },
    { status: 201, first: logUpload, form: ["log", "run"] },
  ),
  post(
    "/header-choice",
    "What the columns of such a header were last taken for",
    Headers,
    async ({ body }) => ({ mapping: await findChoice(context, body.headers) }),
    { status: 200 },
  ),
  get("/runs/:id", "One run with its figures", ({ params }) => readRunRow(context, param(params, "id"))),
  put(
    "/runs/:id",
    "Change conditions, roles, room air or window; figures are computed anew",
    RunChange,
    ({ params, body }) => changeRun(context, param(params, "id"), body),
  ),
  removable("/runs/:id", "Remove a run, or put it back", (params, removed) =>
    setRunRemoved(context, param(params, "id"), removed),
  ),
  get("/runs/:id/diagnosis", "Likely causes with evidence and the next check", ({ params }) =>
    diagnoseRun(context, param(params, "id")),
  ),
  get("/runs/:id/samples", "Samples for display (binary, see contract/run.ts)", async ({ params, response }) => {
    response.set("Cache-Control", "private, no-cache");
    return sendGzip(response, await readSamples(context, param(params, "id")));
  }),
  get("/runs/:id/original", "The log as it was dropped", async ({ params, response }) => {
    const { name, gzip } = await readOriginal(context, param(params, "id"));
    response.attachment(name);
    return sendGzip(response, gzip);
  }),
];

function sendGzip(response: Response, gzip: Uint8Array): typeof ANSWERED {
  response.set("Content-Encoding", "gzip").type("application/octet-stream").send(Buffer.from(gzip));
  return ANSWERED;
}

function parsed(text: unknown): unknown {
  try {
    return JSON.parse(String(text));
  } catch {
    throw new InputProblem({ run: "The run’s conditions are not JSON." });
  }
}
