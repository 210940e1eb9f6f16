import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import type {
  BenchEntry,
  Board,
  BoardInput,
  Card,
  CardInput,
  ExportFile,
  ImportReport,
  Mapping,
  NoteInput,
  Run,
  RunInput,
  ServiceView,
  Settings,
  StationId,
  WorkNote,
} from "#contract";

/** Everything the server owns: cards, services, runs. One tag per kind of thing; a write names what it makes stale. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: new URL("/api/", location.href).href }),
  tagTypes: ["bench", "card", "service", "board", "settings", "passphrase"],
  refetchOnReconnect: true,
  endpoints: (build) => ({
    bench: build.query<BenchEntry[], void>({ query: () => "bench", providesTags: ["bench"] }),
    card: build.query<Card, string>({ query: (id) => `cards/${id}`, providesTags: ["card"] }),
    takeIn: build.mutation<Card, CardInput>({
      query: (body) => ({ url: "cards", method: "POST", body }),
      invalidatesTags: ["bench", "board"],
    }),
    changeCard: build.mutation<Card, { id: string; body: CardInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `cards/${id}`, method: "PUT", body }),
      invalidatesTags: ["bench", "card", "board"],
    }),
    addPhoto: build.mutation<Card, { id: string; file: File }>({
      query: ({ id, file }) => {
        const body = new FormData();
        body.append("photo", file);
        return { url: `cards/${id}/photos`, method: "POST", body };
      },
      invalidatesTags: ["card"],
    }),
    removePhoto: build.mutation<Card, { id: string; photo: string; removed: boolean }>({
      query: ({ id, photo, removed }) => ({
        url: `cards/${id}/photos/${photo}/removed`,
        method: "PUT",
        body: { removed },
      }),
      invalidatesTags: ["card"],
    }),
    service: build.query<ServiceView, string>({ query: (id) => `services/${id}`, providesTags: ["service"] }),
    skip: build.mutation<ServiceView, { id: string; station: StationId; reason: string | null }>({
      query: ({ id, ...body }) => ({ url: `services/${id}/skip`, method: "PUT", body }),
      invalidatesTags: ["service", "bench"],
    }),
    close: build.mutation<ServiceView, { id: string; closed: boolean }>({
      query: ({ id, closed }) => ({ url: `services/${id}/closed`, method: "PUT", body: { closed } }),
      invalidatesTags: ["service", "bench"],
    }),
    addRun: build.mutation<Run, { serviceId: string; file: File; run: RunInput }>({
      query: ({ serviceId, file, run }) => {
        const body = new FormData();
        body.append("run", JSON.stringify(run));
        body.append("log", file);
        return { url: `services/${serviceId}/runs`, method: "POST", body };
      },
      invalidatesTags: ["service", "bench"],
    }),
    run: build.query<Run, string>({ query: (id) => `runs/${id}`, providesTags: ["service"] }),
    changeRun: build.mutation<Run, { id: string; body: RunInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `runs/${id}`, method: "PUT", body }),
      invalidatesTags: ["service", "bench"],
    }),
    removeRun: build.mutation<void, { id: string; removed: boolean }>({
      query: ({ id, removed }) => ({ url: `runs/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["service", "bench"],
    }),
    headerChoice: build.mutation<{ mapping: Mapping | null }, string[]>({
      query: (headers) => ({ url: "header-choice", method: "POST", body: { headers } }),
    }),
    addNote: build.mutation<WorkNote[], { serviceId: string; body: NoteInput }>({
      query: ({ serviceId, body }) => ({ url: `services/${serviceId}/notes`, method: "POST", body }),
      invalidatesTags: ["service", "bench"],
    }),
    changeNote: build.mutation<WorkNote[], { id: string; body: NoteInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `notes/${id}`, method: "PUT", body }),
      invalidatesTags: ["service", "bench"],
    }),
    removeNote: build.mutation<void, { id: string; removed: boolean }>({
      query: ({ id, removed }) => ({ url: `notes/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["service", "bench"],
    }),
    boards: build.query<Board[], void>({ query: () => "boards", providesTags: ["board"] }),
    changeBoard: build.mutation<Board[], { id: string; body: BoardInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `boards/${id}`, method: "PUT", body }),
      invalidatesTags: ["board", "card"],
    }),
    settings: build.query<Settings, void>({ query: () => "settings", providesTags: ["settings"] }),
    changeSettings: build.mutation<Settings, Settings>({
      query: (body) => ({ url: "settings", method: "PUT", body }),
      invalidatesTags: ["settings", "service", "bench"],
    }),
    passphrase: build.query<{ set: boolean }, void>({ query: () => "passphrase", providesTags: ["passphrase"] }),
    setPassphrase: build.mutation<{ set: boolean }, string>({
      query: (passphrase) => ({ url: "passphrase", method: "PUT", body: { passphrase } }),
      invalidatesTags: ["passphrase"],
    }),
    signIn: build.mutation<void, string>({
      query: (passphrase) => ({ url: "sign-in", method: "POST", body: { passphrase } }),
      invalidatesTags: (_result, error) => (error ? [] : ["bench", "card", "service", "board", "settings"]),
    }),
    importFile: build.mutation<ImportReport, ExportFile>({
      query: (body) => ({ url: "import", method: "POST", body }),
      invalidatesTags: ["bench", "card", "service", "board", "settings"],
    }),
  }),
});
