import { readFile, rm } from "node:fs/promises";
import { Router } from "express";
import {
  BoardMapChange,
  BookInput,
  GapInput,
  LotChange,
  LotInput,
  MaterialChange,
  MaterialInput,
  OfferChange,
  OfferInput,
  PackageList,
  PadPlanChange,
  UnderlayPlace,
  UseInput,
} from "#contract";
import { Problem } from "#core";
import { checkedBody } from "../http/problems.ts";
import { photoUpload } from "../http/uploads.ts";
import type { Context } from "../services/context.ts";
import { changeMap, readMap, readUnderlay, removeUnderlay, setUnderlay } from "../services/maps.ts";
import { addGapReadings, bookSheet, changePadPlan, readPads, setGapRemoved } from "../services/pads.ts";
import { changePackages, readPackages } from "../services/settings.ts";
import {
  addLot,
  addMaterial,
  addOffer,
  addUse,
  changeLot,
  changeMaterial,
  changeOffer,
  listUses,
  readStores,
  setStoreRemoved,
  setUseRemoved,
} from "../services/stores.ts";

export function padRoutes(context: Context): Router {
  const router = Router();
  router.get("/boards/:id/map", async (request, response) => {
    response.json(await readMap(context, request.params.id));
  });
  router.put("/boards/:id/map", async (request, response) => {
    response.json(await changeMap(context, request.params.id, checkedBody(BoardMapChange, request.body)));
  });
  router.put("/boards/:id/underlay", photoUpload.single("photo"), async (request, response) => {
    const id = String(request.params.id);
    const bytes = request.file ? await readFile(request.file.path) : null;
    if (request.file) await rm(request.file.path, { force: true });
    if (!bytes && request.body?.place === undefined) return void response.json(await removeUnderlay(context, id));
    const place = checkedBody(UnderlayPlace, placeOf(String(request.body?.place ?? "")));
    response.json(await setUnderlay(context, id, bytes, place));
  });
  router.get("/boards/:id/underlay.jpg", async (request, response) => {
    response.type("image/jpeg").send(Buffer.from(await readUnderlay(context, request.params.id)));
  });
  router.get("/packages", async (_request, response) => {
    response.json(await readPackages(context));
  });
  router.put("/packages", async (request, response) => {
    response.json(await changePackages(context, checkedBody(PackageList, request.body)));
  });
  router.get("/services/:id/pads", async (request, response) => {
    response.json(await readPads(context, request.params.id));
  });
  router.put("/services/:id/pads", async (request, response) => {
    response.json(await changePadPlan(context, request.params.id, checkedBody(PadPlanChange, request.body)));
  });
  router.post("/services/:id/gaps", async (request, response) => {
    response.status(201).json(await addGapReadings(context, request.params.id, checkedBody(GapInput, request.body)));
  });
  router.put("/gaps/:id/removed", async (request, response) => {
    response.json(await setGapRemoved(context, request.params.id, request.body?.removed === true));
  });
  router.put("/services/:id/pads/booked", async (request, response) => {
    response.json(await bookSheet(context, request.params.id, checkedBody(BookInput, request.body)));
  });
  router.get("/stores", async (_request, response) => {
    response.json(await readStores(context));
  });
  router.post("/materials", async (request, response) => {
    response.status(201).json(await addMaterial(context, checkedBody(MaterialInput, request.body)));
  });
  router.put("/materials/:id", async (request, response) => {
    response.json(await changeMaterial(context, request.params.id, checkedBody(MaterialChange, request.body)));
  });
  router.post("/lots", async (request, response) => {
    response.status(201).json(await addLot(context, checkedBody(LotInput, request.body)));
  });
  router.put("/lots/:id", async (request, response) => {
    response.json(await changeLot(context, request.params.id, checkedBody(LotChange, request.body)));
  });
  router.post("/offers", async (request, response) => {
    response.status(201).json(await addOffer(context, checkedBody(OfferInput, request.body)));
  });
  router.put("/offers/:id", async (request, response) => {
    response.json(await changeOffer(context, request.params.id, checkedBody(OfferChange, request.body)));
  });
  for (const what of ["materials", "lots", "offers"] as const)
    router.put(`/${what}/:id/removed`, async (request, response) => {
      response.json(await setStoreRemoved(context, what, request.params.id, request.body?.removed === true));
    });
  router.get("/services/:id/uses", async (request, response) => {
    response.json(await listUses(context, request.params.id));
  });
  router.post("/services/:id/uses", async (request, response) => {
    response.status(201).json(await addUse(context, request.params.id, checkedBody(UseInput, request.body)));
  });
  router.put("/uses/:id/removed", async (request, response) => {
    await setUseRemoved(context, request.params.id, request.body?.removed === true);
    response.status(204).end();
  });
  return router;
}

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
