import type { CoolerChange, CoolerJob, CoolerLine, CoolerPlanChange, CoolerView } from "#contract";
import type { Cooler } from "#core/coolers/index.ts";
import type { CoolerPoint } from "#core/service/index.ts";
import { api } from "../../app/api.ts";

export const coolersApi = api.injectEndpoints({
  endpoints: (build) => ({
    coolers: build.query<CoolerLine[], void>({ query: () => "coolers", providesTags: ["coolers"] }),
    cooler: build.query<CoolerView, string>({
      query: (id) => `coolers/${id}`,
      providesTags: ["coolers"],
      merge: (held, come) => (come.version >= held.version ? come : held),
    }),
    addCooler: build.mutation<CoolerView, Cooler>({
      query: (cooler) => ({ adds: "coolers", body: { cooler } }),
      invalidatesTags: ["coolers"],
    }),
    changeCooler: build.mutation<CoolerView, { id: string; body: CoolerChange }>({
      query: ({ id, body }) => ({ url: `coolers/${id}`, method: "PUT", body }),
      invalidatesTags: (_result, error) => (error ? [] : ["coolers", "coolerJob", "service", "lines"]),
      async onQueryStarted({ id }, { dispatch, queryFulfilled }) {
        const made = await queryFulfilled.catch(() => null);
        if (made) dispatch(coolersApi.util.updateQueryData("cooler", id, () => made.data));
      },
    }),
    removeCooler: build.mutation<CoolerLine[], { id: string; removed: boolean }>({
      query: ({ id, removed }) => ({ url: `coolers/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["coolers"],
    }),
    coolerSeen: build.query<CoolerPoint[], string>({ query: (id) => `coolers/${id}/seen`, providesTags: ["coolers"] }),
    coolerJob: build.query<CoolerJob, string>({
      query: (serviceId) => `services/${serviceId}/cooler`,
      providesTags: ["coolerJob", "map"],
      merge: (held, come) => (come.version >= held.version ? come : held),
    }),
    changeCoolerPlan: build.mutation<CoolerJob, { serviceId: string; body: CoolerPlanChange }>({
      query: ({ serviceId, body }) => ({ url: `services/${serviceId}/cooler`, method: "PUT", body }),
      invalidatesTags: (_result, error) => (error ? [] : ["service", "lines", "coolers"]),
      async onQueryStarted({ serviceId }, { dispatch, queryFulfilled }) {
        const made = await queryFulfilled.catch(() => null);
        if (made) dispatch(coolersApi.util.updateQueryData("coolerJob", serviceId, () => made.data));
      },
    }),
  }),
});
