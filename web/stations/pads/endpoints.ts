import type { BookInput, GapInput, PadJob, PadPlanChange } from "#contract";
import { api } from "../../app/api.ts";

export const padsApi = api.injectEndpoints({
  endpoints: (build) => ({
    changePads: build.mutation<PadJob, { serviceId: string; body: PadPlanChange }>({
      query: ({ serviceId, body }) => ({ url: `services/${serviceId}/pads`, method: "PUT", body }),
      invalidatesTags: ["service", "lines"],
      async onQueryStarted({ serviceId }, { dispatch, queryFulfilled }) {
        const { data } = await queryFulfilled.catch(() => ({ data: null }));
        if (data) void dispatch(api.util.upsertQueryData("pads", serviceId, data));
      },
    }),
    addGaps: build.mutation<PadJob, { serviceId: string; body: GapInput }>({
      query: ({ serviceId, body }) => ({ adds: `services/${serviceId}/gaps`, body }),
      invalidatesTags: ["pads"],
    }),
    removeGap: build.mutation<PadJob, { id: string; removed: boolean }>({
      query: ({ id, removed }) => ({ url: `gaps/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["pads"],
    }),
    bookSheet: build.mutation<PadJob, BookInput & { serviceId: string }>({
      query: ({ serviceId, ...body }) => ({ url: `services/${serviceId}/pads/booked`, method: "PUT", body }),
      invalidatesTags: ["pads", "stores", "service", "lines"],
    }),
  }),
});
