import type { PowerOnInput, ServiceView } from "#contract";
import { api } from "../../app/api.ts";

export const takeInApi = api.injectEndpoints({
  endpoints: (build) => ({
    powerOn: build.mutation<ServiceView, { id: string; body: PowerOnInput }>({
      query: ({ id, body }) => ({ url: `services/${id}/power-on`, method: "PUT", body }),
      invalidatesTags: ["service", "lines"],
    }),
  }),
});
