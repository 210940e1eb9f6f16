import * as v from "valibot";
import { Board, BoardChange, Card, CardChange, CardInput } from "../card.ts";
import { ModelView } from "../findings.ts";
import { HistoryLine } from "../hand-over.ts";
import { RemovedThing } from "../service.ts";
import { add, get, media, put, removable } from "./route.ts";
import { BOARD, CARD, LINES } from "./stale.ts";

/** Physical cards and the board models they are built on. */
export const cards = {
  takeIn: add("/cards", "Take a card in", {
    takes: CardInput,
    answers: Card,
    fills: "card",
    stale: [...LINES, ...BOARD],
  }),
  card: get("/cards/:cardId", "One card", { answers: Card, idIn: "id" }),
  changeCard: put("/cards/:cardId", "Change a card; send the version it was made from", {
    takes: CardChange,
    answers: Card,
    fills: "card",
    stale: [...LINES, ...CARD, ...BOARD],
  }),
  beginService: add("/cards/:cardId/services", "The card is back: another service begins", {
    answers: Card,
    fills: "card",
    stale: [...LINES, ...CARD],
  }),
  history: get("/cards/:cardId/history", "All services of a card, the first one first", {
    answers: v.array(HistoryLine),
  }),
  removeCard: removable("/cards/:cardId", "Remove a card with all that belongs to it, or put it back", {
    answers: v.array(RemovedThing),
    fills: "removed",
    stale: [...LINES, ...CARD, ...BOARD],
  }),
  removed: get("/removed", "What was removed and can be put back, the last first", { answers: v.array(RemovedThing) }),
  addPhoto: add("/cards/:cardId/photos", "Add a photo (multipart, field photo)", {
    form: { photo: v.optional(v.blob()), caption: v.optional(v.string(), "") },
    answers: Card,
    fills: "card",
  }),
  removePhoto: removable("/cards/:cardId/photos/:photoId", "Take a photo off, or put it back", {
    answers: Card,
    fills: "card",
    stale: ["removed"],
  }),
  photo: get("/photos/:photoId", "A photo as JPEG", { answers: media("image/jpeg") }),
  boards: get("/boards", "Board models with limits", { answers: v.array(Board) }),
  model: get("/boards/:boardId/known", "All that the shop knows of a board model", { answers: ModelView }),
  changeBoard: put("/boards/:boardId", "Change a board model", {
    takes: BoardChange,
    answers: v.array(Board),
    fills: "boards",
    stale: ["model", ...CARD],
  }),
};
