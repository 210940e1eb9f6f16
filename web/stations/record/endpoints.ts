import type { HandOverInput, NextServiceInput, NextView, ServiceView } from "#contract";
import { api } from "../../app/api.ts";

type HandOver = HandOverInput & { version: number };

export const recordApi = api.injectEndpoints({
  endpoints: (build) => ({
    close: build.mutation<ServiceView, { id: string; closed: boolean; reason: string }>({
      query: ({ id, ...body }) => ({ url: `services/${id}/closed`, method: "PUT", body }),
      invalidatesTags: ["service", "lines", "handOver"],
    }),
    setPrice: build.mutation<ServiceView, { id: string; price: number | null }>({
      query: ({ id, price }) => ({ url: `services/${id}/price`, method: "PUT", body: { price } }),
      invalidatesTags: ["service"],
    }),
    handOver: build.query<HandOver, string>({
      query: (id) => `services/${id}/hand-over`,
      providesTags: ["handOver"],
    }),
    changeHandOver: build.mutation<HandOver, { id: string; body: HandOver }>({
      query: ({ id, body }) => ({ url: `services/${id}/hand-over`, method: "PUT", body }),
      async onQueryStarted({ id }, { dispatch, queryFulfilled }) {
        const made = await queryFulfilled.catch(() => null);
        if (made) await dispatch(recordApi.util.upsertQueryData("handOver", id, made.data));
        else dispatch(recordApi.util.invalidateTags(["handOver"]));
      },
    }),
    next: build.query<NextView, string>({
      query: (id) => `services/${id}/next`,
      providesTags: ["handOver", "service", "lines"],
    }),
    changeNext: build.mutation<NextView, { id: string; body: NextServiceInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `services/${id}/next`, method: "PUT", body }),
      async onQueryStarted({ id }, { dispatch, queryFulfilled }) {
        const made = await queryFulfilled.catch(() => null);
        if (made) await dispatch(recordApi.util.upsertQueryData("next", id, made.data));
        else dispatch(recordApi.util.invalidateTags(["handOver"]));
      },
    }),
  }),
});
