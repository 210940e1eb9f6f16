import type { ServiceView } from "#contract";
import { api } from "../../app/api.ts";

export const recordApi = api.injectEndpoints({
  endpoints: (build) => ({
    close: build.mutation<ServiceView, { id: string; closed: boolean }>({
      query: ({ id, closed }) => ({ url: `services/${id}/closed`, method: "PUT", body: { closed } }),
      invalidatesTags: ["service", "lines"],
    }),
  }),
});
