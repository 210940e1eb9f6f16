import type { CompoundFacts } from "#contract";
import { api } from "../../app/api.ts";

export const compoundApi = api.injectEndpoints({
  endpoints: (build) => ({
    compoundFacts: build.query<CompoundFacts, string>({
      query: (serviceId) => `services/${serviceId}/compound`,
      providesTags: ["service"],
    }),
  }),
});
