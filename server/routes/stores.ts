import { WIRES } from "#contract";
import { type Route, serve } from "../http/route.ts";
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

export const storeRoutes = (context: Context): Route[] =>
  serve(WIRES.stores, {
    stores: () => readStores(context),
    addMaterial: ({ body }) => addMaterial(context, body),
    changeMaterial: ({ params, body }) => changeMaterial(context, params.materialId, body),
    removeMaterial: ({ params, body }) => setStoreRemoved(context, "materials", params.materialId, body.removed),
    addLot: ({ body }) => addLot(context, body),
    changeLot: ({ params, body }) => changeLot(context, params.lotId, body),
    removeLot: ({ params, body }) => setStoreRemoved(context, "lots", params.lotId, body.removed),
    addOffer: ({ body }) => addOffer(context, body),
    changeOffer: ({ params, body }) => changeOffer(context, params.offerId, body),
    removeOffer: ({ params, body }) => setStoreRemoved(context, "offers", params.offerId, body.removed),
    uses: ({ params }) => listUses(context, params.serviceId),
    addUse: ({ params, body }) => addUse(context, params.serviceId, body),
    removeUse: async ({ params, body }) => listUses(context, await setUseRemoved(context, params.useId, body.removed)),
  });
