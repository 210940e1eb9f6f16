import { LotChange, LotInput, MaterialChange, MaterialInput, OfferChange, OfferInput, UseInput } from "#contract";
import { get, param, post, put, type Route, removable } from "../http/route.ts";
import type { Context } from "../services/context.ts";
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

export const storeRoutes = (context: Context): Route[] => [
  get("/stores", "Materials, lots, price list, what is low", () => readStores(context)),
  post("/materials", "Add a material", MaterialInput, ({ body }) => addMaterial(context, body)),
  put("/materials/:id", "Change a material", MaterialChange, ({ params, body }) =>
    changeMaterial(context, param(params, "id"), body),
  ),
  post("/lots", "Put something into stock", LotInput, ({ body }) => addLot(context, body)),
  put("/lots/:id", "Change a lot", LotChange, ({ params, body }) => changeLot(context, param(params, "id"), body)),
  post("/offers", "Add a line of the price list", OfferInput, ({ body }) => addOffer(context, body)),
  put("/offers/:id", "Change a line of the price list", OfferChange, ({ params, body }) =>
    changeOffer(context, param(params, "id"), body),
  ),
  ...(["materials", "lots", "offers"] as const).map((what) =>
    removable(`/${what}/:id`, "Take it off the stores, or put it back", (params, removed) =>
      setStoreRemoved(context, what, param(params, "id"), removed),
    ),
  ),
  get("/services/:id/uses", "What a service took from the stock", ({ params }) =>
    listUses(context, param(params, "id")),
  ),
  post("/services/:id/uses", "Take something from the stock", UseInput, ({ params, body }) =>
    addUse(context, param(params, "id"), body),
  ),
  removable("/uses/:id", "Give it back to its lot, or take it out again", (params, removed) =>
    setUseRemoved(context, param(params, "id"), removed),
  ),
];
