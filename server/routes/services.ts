import type { Response } from "express";
import { WIRES } from "#contract";
import { InputProblem } from "../http/problems.ts";
import { ANSWERED, type Asked, type Route, serve } from "../http/route.ts";
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

const USUAL_PAGE = 200;

/** A page of services; where the next one is, and how many there are, stands in the head (RFC 8288). */
async function lines(context: Context, { query, request, response }: Asked<(typeof WIRES.services)["lines"]>) {
  const page = await listLines(context, {
    ...query,
    closed: query.closed === undefined ? undefined : query.closed === "true",
    limit: query.limit ?? USUAL_PAGE,
  });
  response.set("X-Total-Count", String(page.total));
  if (page.next) {
    const next = new URLSearchParams({ ...(request.query as Record<string, string>), after: page.next });
    response.set("Link", `<${request.baseUrl}${request.path}?${next}>; rel="next"`);
  }
  return page.lines;
}

export const serviceRoutes = (context: Context): Route[] =>
  serve(WIRES.services, {
    lines: (asked) => lines(context, asked),
    service: ({ params }) => readService(context, params.serviceId),
    steps: ({ params }) => readSteps(context, params.serviceId),
    addSteps: ({ params, body }) => addSteps(context, params.serviceId, body.marks),
    addNote: async ({ params, body }) => {
      await addNote(context, params.serviceId, body);
      return readService(context, params.serviceId);
    },
    changeNote: async ({ params, body }) => readService(context, await changeNote(context, params.noteId, body)),
    removeNote: async ({ params, body }) =>
      readService(context, await setNoteRemoved(context, params.noteId, body.removed)),
    skip: ({ params, body }) => skipStation(context, params.serviceId, body.station, body.reason),
    addRun: ({ params, body: { run }, file }) => {
      if (!file && !run.typed) throw new InputProblem({ log: "Drop a log file." });
      return addRun(context, params.serviceId, file, run);
    },
    headerChoice: async ({ body }) => ({ mapping: await findChoice(context, body.headers) }),
    run: ({ params }) => readRunRow(context, params.runId),
    changeRun: ({ params, body }) => changeRun(context, params.runId, body),
    removeRun: async ({ params, body }) =>
      readService(context, await setRunRemoved(context, params.runId, body.removed)),
    diagnosis: ({ params }) => diagnoseRun(context, params.runId),
    samples: async ({ params, response }) => {
      response.set("Cache-Control", "private, no-cache");
      return sendGzip(response, await readSamples(context, params.runId));
    },
    original: async ({ params, response }) => {
      const { name, gzip } = await readOriginal(context, params.runId);
      response.attachment(name);
      return sendGzip(response, gzip);
    },
  });

function sendGzip(response: Response, gzip: Uint8Array): typeof ANSWERED {
  response.set("Content-Encoding", "gzip").type("application/octet-stream").send(Buffer.from(gzip));
  return ANSWERED;
}
