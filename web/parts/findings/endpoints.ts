import type { FindingsAsked, FindingsView, ImportView, ModelView, PaperImport, SheetMapping } from "#contract";
import { api } from "../../app/api.ts";

export const findingsApi = api.injectEndpoints({
  endpoints: (build) => ({
    findings: build.query<FindingsView, FindingsAsked>({
      query: (body) => ({ url: "findings", method: "POST", body }),
      providesTags: ["findings", "lines"],
    }),
    model: build.query<ModelView, string>({
      query: (id) => `boards/${id}/known`,
      providesTags: ["board", "lines", "findings"],
    }),
    leaveOut: build.mutation<unknown, { id: string; reason: string | null }>({
      query: ({ id, reason }) =>
        reason === null
          ? { url: `results/${id}/counted`, method: "PUT" }
          : { url: `results/${id}/left-out`, method: "PUT", body: { reason } },
      invalidatesTags: ["findings"],
    }),
    paperImports: build.query<ImportView[], void>({ query: () => "paper-imports", providesTags: ["findings"] }),
    sheetMapping: build.mutation<{ mapping: SheetMapping | null }, string[]>({
      query: (headers) => ({ url: "paper-imports/mapping", method: "POST", body: { headers } }),
    }),
    importPaper: build.mutation<ImportView[], PaperImport>({
      query: (body) => ({ adds: "paper-imports", body }),
      invalidatesTags: ["findings"],
    }),
    setImportRemoved: build.mutation<ImportView[], { id: string; removed: boolean }>({
      query: ({ id, removed }) => ({ url: `paper-imports/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["findings"],
    }),
  }),
});
