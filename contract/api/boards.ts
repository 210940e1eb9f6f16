import * as v from "valibot";
import { BoardMapChange, BoardMapView, PackageList, UnderlayPlace } from "../pads.ts";
import { get, media, put } from "./route.ts";

/** Plans of board models. */
export const boards = {
  boardMap: get("/boards/:boardId/map", "The plan of a board model", {
    answers: BoardMapView,
    idIn: "boardModelId",
    newest: "version",
  }),
  changeBoardMap: put("/boards/:boardId/map", "Keep the plan; send the version it was made from", {
    takes: BoardMapChange,
    answers: BoardMapView,
    fills: "boardMap",
    stale: ["coolerJob", "pads", "openPads"],
  }),
  setUnderlay: put(
    "/boards/:boardId/underlay",
    "Put a straightened photo under the plan (multipart: photo, and place as JSON)",
    {
      form: { photo: v.optional(v.blob()), place: v.optional(UnderlayPlace) },
      answers: BoardMapView,
      fills: "boardMap",
      stale: ["coolerJob"],
    },
  ),
  underlay: get("/boards/:boardId/underlay.jpg", "That photo", { answers: media("image/jpeg") }),
  packages: get("/packages", "Packages to stamp on maps", { answers: PackageList }),
  changePackages: put("/packages", "Change that list", {
    takes: PackageList,
    answers: PackageList,
    fills: "packages",
  }),
};
