import { readFile } from "node:fs/promises";
import { BoardChange, CardChange, CardInput } from "#contract";
import { InputProblem } from "../http/problems.ts";
import { ANSWERED, bare, get, param, post, put, type Route, removable } from "../http/route.ts";
import { photoUpload } from "../http/uploads.ts";
import {
  beginService,
  changeBoard,
  changeCard,
  listBoards,
  readCard,
  setCardRemoved,
  takeInCard,
} from "../services/cards.ts";
import type { Context } from "../services/context.ts";
import { readModel } from "../services/model.ts";
import { readHistory } from "../services/next-service.ts";
import { addPhoto, readPhoto, setPhotoRemoved } from "../services/photos.ts";
import { listRemoved } from "../services/removed.ts";

export const cardRoutes = (context: Context): Route[] => [
  post("/cards", "Take a card in", CardInput, ({ body }) => takeInCard(context, body)),
  get("/cards/:id", "One card", ({ params }) => readCard(context, param(params, "id"))),
  put("/cards/:id", "Change a card; send the version it was made from", CardChange, ({ params, body }) =>
    changeCard(context, param(params, "id"), body),
  ),
  bare(
    "post",
    "/cards/:id/services",
    "The card is back: another service begins",
    ({ params }) => beginService(context, param(params, "id")),
    { status: 201 },
  ),
  get("/cards/:id/history", "All services of a card, the first one first", ({ params }) =>
    readHistory(context, param(params, "id")),
  ),
  removable("/cards/:id", "Remove a card with all that belongs to it, or put it back", (params, removed) =>
    setCardRemoved(context, param(params, "id"), removed),
  ),
  get("/removed", "What was removed and can be put back, the last first", () => listRemoved(context)),
  bare(
    "post",
    "/cards/:id/photos",
    "Add a photo (multipart, field photo)",
    async ({ params, request }) => {
      const id = param(params, "id");
      if (!request.file) throw new InputProblem({ photo: "Choose a photo." });
      const bytes = await readFile(request.file.path);
      await addPhoto(context, id, bytes, String(request.body?.caption ?? ""));
      return readCard(context, id);
    },
    { status: 201, first: photoUpload, form: ["photo", "caption"] },
  ),
  removable("/cards/:id/photos/:photo", "Take a photo off, or put it back", async (params, removed) => {
    await setPhotoRemoved(context, param(params, "id"), param(params, "photo"), removed);
    return readCard(context, param(params, "id"));
  }),
  get("/photos/:id", "A photo as JPEG", async ({ params, response }) => {
    response
      .set("Cache-Control", "private, max-age=31536000, immutable")
      .type("image/jpeg")
      .send(Buffer.from(await readPhoto(context, param(params, "id"))));
    return ANSWERED;
  }),
  get("/boards", "Board models with limits", () => listBoards(context)),
  get("/boards/:id/known", "All that the shop knows of a board model", ({ params }) =>
    readModel(context, param(params, "id")),
  ),
  put("/boards/:id", "Change a board model", BoardChange, ({ params, body }) =>
    changeBoard(context, param(params, "id"), body),
  ),
];
