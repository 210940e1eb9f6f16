import { readFile } from "node:fs/promises";
import { WIRES } from "#contract";
import { InputProblem } from "../http/problems.ts";
import { ANSWERED, type Route, serve } from "../http/route.ts";
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

export const cardRoutes = (context: Context): Route[] =>
  serve(WIRES.cards, {
    takeIn: ({ body }) => takeInCard(context, body),
    card: ({ params }) => readCard(context, params.cardId),
    changeCard: ({ params, body }) => changeCard(context, params.cardId, body),
    beginService: ({ params }) => beginService(context, params.cardId),
    history: ({ params }) => readHistory(context, params.cardId),
    removeCard: async ({ params, body }) => {
      await setCardRemoved(context, params.cardId, body.removed);
      return listRemoved(context);
    },
    removed: () => listRemoved(context),
    addPhoto: async ({ params, body, file }) => {
      if (!file) throw new InputProblem({ photo: "Choose a photo." });
      await addPhoto(context, params.cardId, await readFile(file.path), body.caption);
      return readCard(context, params.cardId);
    },
    removePhoto: async ({ params, body }) => {
      await setPhotoRemoved(context, params.cardId, params.photoId, body.removed);
      return readCard(context, params.cardId);
    },
    photo: async ({ params, response }) => {
      response
        .set("Cache-Control", "private, max-age=31536000, immutable")
        .type("image/jpeg")
        .send(Buffer.from(await readPhoto(context, params.photoId)));
      return ANSWERED;
    },
    boards: () => listBoards(context),
    model: ({ params }) => readModel(context, params.boardId),
    changeBoard: ({ params, body }) => changeBoard(context, params.boardId, body),
  });
