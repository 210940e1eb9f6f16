import { readFile } from "node:fs/promises";
import { BoardMapChange, PackageList, UnderlayPlace } from "#contract";
import { Problem } from "#core";
import { checkedBody } from "../http/problems.ts";
import { ANSWERED, bare, get, param, put, type Route } from "../http/route.ts";
import { photoUpload } from "../http/uploads.ts";
import type { Context } from "../services/context.ts";
import { changeMap, readMap, readUnderlay, removeUnderlay, setUnderlay } from "../services/maps.ts";
import { changePackages, readPackages } from "../services/settings.ts";

export const boardRoutes = (context: Context): Route[] => [
  get("/boards/:id/map", "The plan of a board model", ({ params }) => readMap(context, param(params, "id"))),
  put("/boards/:id/map", "Keep the plan; send the version it was made from", BoardMapChange, ({ params, body }) =>
    changeMap(context, param(params, "id"), body),
  ),
  bare(
    "put",
    "/boards/:id/underlay",
    "Put a straightened photo under the plan (multipart: photo, and place as JSON)",
    async ({ params, request }) => {
      const id = param(params, "id");
      const bytes = request.file ? await readFile(request.file.path) : null;
      if (!bytes && request.body?.place === undefined) return removeUnderlay(context, id);
      const place = checkedBody(UnderlayPlace, placeOf(String(request.body?.place ?? "")));
      return setUnderlay(context, id, bytes, place);
    },
    { first: photoUpload, form: ["photo", "place"] },
  ),
  get("/boards/:id/underlay.jpg", "That photo", async ({ params, response }) => {
    response.type("image/jpeg").send(Buffer.from(await readUnderlay(context, param(params, "id"))));
    return ANSWERED;
  }),
  get("/packages", "Packages to stamp on maps", () => readPackages(context)),
  put("/packages", "Change that list", PackageList, ({ body }) => changePackages(context, body)),
];

function placeOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Problem({
      code: "bad-input",
      what: "The place of the photo is not JSON.",
      remedy: "Send xMm, yMm, widthMm and heightMm as the field place.",
    });
  }
}
