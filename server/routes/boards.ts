import { readFile } from "node:fs/promises";
import { WIRES } from "#contract";
import { InputProblem } from "../http/problems.ts";
import { ANSWERED, type Route, serve } from "../http/route.ts";
import type { Context } from "../services/context.ts";
import { changeMap, readMap, readUnderlay, removeUnderlay, setUnderlay } from "../services/maps.ts";
import { changePackages, readPackages } from "../services/settings.ts";

export const boardRoutes = (context: Context): Route[] =>
  serve(WIRES.boards, {
    boardMap: ({ params }) => readMap(context, params.boardId),
    changeBoardMap: ({ params, body }) => changeMap(context, params.boardId, body),
    setUnderlay: async ({ params, body: { place }, file }) => {
      const bytes = file ? await readFile(file.path) : null;
      if (!place) {
        if (bytes) throw new InputProblem({ place: "Say where the photo lies." });
        return removeUnderlay(context, params.boardId);
      }
      return setUnderlay(context, params.boardId, bytes, place);
    },
    underlay: async ({ params, response }) => {
      response.type("image/jpeg").send(Buffer.from(await readUnderlay(context, params.boardId)));
      return ANSWERED;
    },
    packages: () => readPackages(context),
    changePackages: ({ body }) => changePackages(context, body),
  });
