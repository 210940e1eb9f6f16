import type { ServiceView } from "#contract";
import { api } from "../../app/api.ts";

export const recordApi = api.injectEndpoints({
  endpoints: (build) => ({
    close: build.mutation<ServiceView, { id: string; closed: boolean; reason: string }>({
      query: ({ id, ...body }) => ({ url: `services/${id}/closed`, method: "PUT", body }),
      invalidatesTags: ["service", "lines"],
    }),
    setPrice: build.mutation<ServiceView, { id: string; price: number | null }>({
      query: ({ id, price }) => ({ url: `services/${id}/price`, method: "PUT", body: { price } }),
      invalidatesTags: ["service"],
    }),
  }),
});
