import * as v from "valibot";
import {
  LotChange,
  LotInput,
  MaterialChange,
  MaterialInput,
  OfferChange,
  OfferInput,
  Stores,
  Use,
  UseInput,
} from "../stores.ts";
import { add, get, put, removable } from "./route.ts";

const answered = { answers: Stores, fills: "stores", stale: ["uses", "quote"] } as const;
const used = { answers: v.array(Use), fills: "uses", stale: ["stores", "quote"] } as const;

/** Materials, what lies in stock, the price list, and what was taken. */
export const stores = {
  stores: get("/stores", "Materials, lots, price list, what is low", { answers: Stores }),
  addMaterial: add("/materials", "Add a material", { takes: MaterialInput, ...answered }),
  changeMaterial: put("/materials/:materialId", "Change a material", { takes: MaterialChange, ...answered }),
  removeMaterial: removable("/materials/:materialId", "Take it off the stores, or put it back", answered),
  addLot: add("/lots", "Put something into stock", { takes: LotInput, ...answered }),
  changeLot: put("/lots/:lotId", "Change a lot", { takes: LotChange, ...answered }),
  removeLot: removable("/lots/:lotId", "Take it off the stores, or put it back", answered),
  addOffer: add("/offers", "Add a line of the price list", { takes: OfferInput, ...answered }),
  changeOffer: put("/offers/:offerId", "Change a line of the price list", { takes: OfferChange, ...answered }),
  removeOffer: removable("/offers/:offerId", "Take it off the stores, or put it back", answered),
  uses: get("/services/:serviceId/uses", "What a service took from the stock", { answers: v.array(Use) }),
  addUse: add("/services/:serviceId/uses", "Take something from the stock", { takes: UseInput, ...used }),
  removeUse: removable("/uses/:useId", "Give it back to its lot, or take it out again", used),
};
