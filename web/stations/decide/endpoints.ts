import type { Advised, DecisionInput, ServiceView } from "#contract";
import { api } from "../../app/api.ts";

export const decideApi = api.injectEndpoints({
  endpoints: (build) => ({
    advice: build.query<Advised, string>({ query: (id) => `services/${id}/advice`, providesTags: ["service", "card"] }),
    decide: build.mutation<ServiceView, { id: string; body: DecisionInput }>({
      query: ({ id, body }) => ({ url: `services/${id}/decision`, method: "PUT", body }),
      invalidatesTags: ["service", "lines"],
    }),
  }),
});
