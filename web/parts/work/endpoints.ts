import type { NoteInput, WorkNote } from "#contract";
import { api } from "../../app/api.ts";

export const workApi = api.injectEndpoints({
  endpoints: (build) => ({
    addNote: build.mutation<WorkNote[], { serviceId: string; body: NoteInput }>({
      query: ({ serviceId, body }) => ({ adds: `services/${serviceId}/notes`, body }),
      invalidatesTags: ["service", "lines"],
    }),
    changeNote: build.mutation<WorkNote[], { id: string; body: NoteInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `notes/${id}`, method: "PUT", body }),
      invalidatesTags: ["service", "lines"],
    }),
    removeNote: build.mutation<void, { id: string; removed: boolean }>({
      query: ({ id, removed }) => ({ url: `notes/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["service", "lines", "removed"],
    }),
  }),
});
