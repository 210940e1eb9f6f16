import { readFile, rm } from "node:fs/promises";
import { Router } from "express";
import { BoardChange, CardChange, CardInput } from "#contract";
import { checkedBody } from "../http/problems.ts";
import { photoUpload } from "../http/uploads.ts";
import { listBench } from "../services/bench.ts";
import { changeBoard, changeCard, listBoards, readCard, takeInCard } from "../services/cards.ts";
import type { Context } from "../services/context.ts";
import { addPhoto, readPhoto, setPhotoRemoved } from "../services/photos.ts";

export function cardRoutes(context: Context): Router {
  const router = Router();
  router.get("/bench", async (_request, response) => {
    response.json(await listBench(context));
  });
  router.post("/cards", async (request, response) => {
    response.status(201).json(await takeInCard(context, checkedBody(CardInput, request.body)));
  });
  router.get("/cards/:id", async (request, response) => {
    response.json(await readCard(context, request.params.id));
  });
  router.put("/cards/:id", async (request, response) => {
    response.json(await changeCard(context, request.params.id, checkedBody(CardChange, request.body)));
  });
  router.post("/cards/:id/photos", photoUpload.single("photo"), async (request, response) => {
    if (request.file) {
      const bytes = await readFile(request.file.path);
      await rm(request.file.path, { force: true });
      await addPhoto(context, String(request.params.id), bytes, String(request.body?.caption ?? ""));
    }
    response.status(201).json(await readCard(context, String(request.params.id)));
  });
  router.put("/cards/:id/photos/:photo/removed", async (request, response) => {
    await setPhotoRemoved(context, request.params.id, request.params.photo, request.body?.removed === true);
    response.json(await readCard(context, request.params.id));
  });
  router.get("/photos/:id", async (request, response) => {
    response
      .set("Cache-Control", "private, max-age=31536000, immutable")
      .type("image/jpeg")
      .send(Buffer.from(await readPhoto(context, request.params.id)));
  });
  router.get("/boards", async (_request, response) => {
    response.json(await listBoards(context));
  });
  router.put("/boards/:id", async (request, response) => {
    response.json(await changeBoard(context, request.params.id, checkedBody(BoardChange, request.body)));
  });
  return router;
}
