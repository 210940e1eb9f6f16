import { rm } from "node:fs/promises";
import { Router } from "express";
import * as v from "valibot";
import { DecisionInput, NoteChange, NoteInput, PowerOnInput, RunChange, RunInput, SkipInput } from "#contract";
import { checkedBody, InputProblem } from "../http/problems.ts";
import { logUpload } from "../http/uploads.ts";
import { adviseService, decide, diagnoseRun, keepPowerOn } from "../services/advice.ts";
import { readService, setClosed, skipStation } from "../services/bench.ts";
import type { Context } from "../services/context.ts";
import { addNote, changeNote, setNoteRemoved } from "../services/notes.ts";
import {
  addRun,
  changeRun,
  findChoice,
  readOriginal,
  readRunRow,
  readSamples,
  setRunRemoved,
} from "../services/runs.ts";

const Headers = v.object({ headers: v.array(v.string()) });

function parsed(text: unknown): unknown {
  try {
    return JSON.parse(String(text));
  } catch {
    throw new InputProblem({ run: "The run’s conditions are not JSON." });
  }
}

export function runRoutes(context: Context): Router {
  const router = Router();
  router.get("/services/:id", async (request, response) => {
    response.json(await readService(context, request.params.id));
  });
  router.put("/services/:id/skip", async (request, response) => {
    const { station, reason } = checkedBody(SkipInput, request.body);
    response.json(await skipStation(context, request.params.id, station, reason));
  });
  router.put("/services/:id/closed", async (request, response) => {
    response.json(await setClosed(context, request.params.id, request.body?.closed === true));
  });
  router.put("/services/:id/power-on", async (request, response) => {
    await keepPowerOn(context, request.params.id, checkedBody(PowerOnInput, request.body));
    response.json(await readService(context, request.params.id));
  });
  router.get("/services/:id/advice", async (request, response) => {
    response.json(await adviseService(context, request.params.id));
  });
  router.put("/services/:id/decision", async (request, response) => {
    await decide(context, request.params.id, checkedBody(DecisionInput, request.body));
    response.json(await readService(context, request.params.id));
  });
  router.get("/runs/:id/diagnosis", async (request, response) => {
    response.json(await diagnoseRun(context, request.params.id));
  });
  router.post("/services/:id/runs", logUpload.single("log"), async (request, response) => {
    const { file } = request;
    if (!file) throw new InputProblem({ log: "Drop a log file." });
    try {
      const input = checkedBody(RunInput, parsed(request.body?.run));
      response
        .status(201)
        .json(await addRun(context, String(request.params.id), { path: file.path, name: file.originalname }, input));
    } finally {
      await rm(file.path, { force: true });
    }
  });
  router.post("/header-choice", async (request, response) => {
    response.json({ mapping: await findChoice(context, checkedBody(Headers, request.body).headers) });
  });
  router.get("/runs/:id", async (request, response) => {
    response.json(await readRunRow(context, request.params.id));
  });
  router.put("/runs/:id", async (request, response) => {
    response.json(await changeRun(context, request.params.id, checkedBody(RunChange, request.body)));
  });
  router.put("/runs/:id/removed", async (request, response) => {
    await setRunRemoved(context, request.params.id, request.body?.removed === true);
    response.status(204).end();
  });
  router.get("/runs/:id/samples", async (request, response) => {
    response
      .set({ "Content-Encoding": "gzip", "Cache-Control": "private, no-cache" })
      .type("application/octet-stream")
      .send(Buffer.from(await readSamples(context, request.params.id)));
  });
  router.get("/runs/:id/original", async (request, response) => {
    const { name, gzip } = await readOriginal(context, request.params.id);
    response.attachment(name).set("Content-Encoding", "gzip").type("application/octet-stream").send(Buffer.from(gzip));
  });
  router.post("/services/:id/notes", async (request, response) => {
    response.status(201).json(await addNote(context, request.params.id, checkedBody(NoteInput, request.body)));
  });
  router.put("/notes/:id", async (request, response) => {
    response.json(await changeNote(context, request.params.id, checkedBody(NoteChange, request.body)));
  });
  router.put("/notes/:id/removed", async (request, response) => {
    await setNoteRemoved(context, request.params.id, request.body?.removed === true);
    response.status(204).end();
  });
  return router;
}
