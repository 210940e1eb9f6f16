import { createApi, type FetchArgs, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import type {
  Advised,
  BenchEntry,
  BenchInput,
  Board,
  BoardInput,
  BoardMapChange,
  BoardMapView,
  BookInput,
  Card,
  CardInput,
  DecisionInput,
  ExportFile,
  GapInput,
  ImportReport,
  LiveRows,
  LiveRun,
  LiveStart,
  LotInput,
  Mapping,
  MaterialInput,
  NoteInput,
  OfferInput,
  OwnProtocol,
  PadJob,
  PadPlanChange,
  PowerOnInput,
  ProtocolInput,
  Reading,
  ReadingInput,
  Run,
  RunDiagnosis,
  RunInput,
  ServiceView,
  Settings,
  StationId,
  Stores,
  TestBench,
  Use,
  UseInput,
  WorkNote,
} from "#contract";
import type { Box, Package } from "#core/boardmap/index.ts";
import { sendOnce } from "./once.ts";

const ask = fetchBaseQuery({ baseUrl: new URL("/api/", location.href).href });

/** Something added at a path: sent again after its answer was lost, it is added once. */
interface Addition {
  adds: string;
  body: unknown;
}

/** Everything the server owns: cards, services, runs. One tag per kind of thing; a write names what it makes stale. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: (request: string | FetchArgs | Addition, more, options) =>
    typeof request === "object" && "adds" in request
      ? sendOnce({ url: request.adds, method: "POST", body: request.body }, (once) => ask(once, more, options))
      : ask(request, more, options),
  tagTypes: [
    "bench",
    "card",
    "service",
    "board",
    "settings",
    "passphrase",
    "testBench",
    "live",
    "protocol",
    "reading",
    "map",
    "pads",
    "stores",
    "packages",
  ],
  refetchOnReconnect: true,
  endpoints: (build) => ({
    bench: build.query<BenchEntry[], void>({ query: () => "bench", providesTags: ["bench"] }),
    card: build.query<Card, string>({ query: (id) => `cards/${id}`, providesTags: ["card"] }),
    takeIn: build.mutation<Card, CardInput>({
      query: (body) => ({ adds: "cards", body }),
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
        return { adds: `cards/${id}/photos`, body };
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
        return { adds: `services/${serviceId}/runs`, body };
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
    diagnosis: build.query<RunDiagnosis, string>({
      query: (id) => `runs/${id}/diagnosis`,
      providesTags: ["service"],
    }),
    advice: build.query<Advised, string>({ query: (id) => `services/${id}/advice`, providesTags: ["service", "card"] }),
    decide: build.mutation<ServiceView, { id: string; body: DecisionInput }>({
      query: ({ id, body }) => ({ url: `services/${id}/decision`, method: "PUT", body }),
      invalidatesTags: ["service", "bench"],
    }),
    powerOn: build.mutation<ServiceView, { id: string; body: PowerOnInput }>({
      query: ({ id, body }) => ({ url: `services/${id}/power-on`, method: "PUT", body }),
      invalidatesTags: ["service", "bench"],
    }),
    testBenches: build.query<TestBench[], void>({ query: () => "benches", providesTags: ["testBench"] }),
    addTestBench: build.mutation<TestBench, BenchInput>({
      query: (body) => ({ url: "benches", method: "POST", body }),
      invalidatesTags: ["testBench"],
    }),
    removeTestBench: build.mutation<void, { id: string; removed: boolean }>({
      query: ({ id, removed }) => ({ url: `benches/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["testBench"],
    }),
    runningLive: build.query<LiveRun[], void>({ query: () => "live", providesTags: ["live"] }),
    live: build.query<LiveRun, string>({ query: (id) => `live/${id}`, providesTags: ["live"] }),
    liveRows: build.query<LiveRows, { id: string; after: number }>({
      query: ({ id, after }) => `live/${id}/rows?after=${after}`,
    }),
    liveOfService: build.query<LiveRun[], string>({
      query: (id) => `services/${id}/live`,
      providesTags: ["live", "service"],
    }),
    startLive: build.mutation<LiveRun, LiveStart>({
      query: (body) => ({ adds: "live", body }),
      invalidatesTags: ["live", "testBench"],
    }),
    orderLive: build.mutation<LiveRun, { id: string; order: "stop" | "skip-ahead" | "confirm" }>({
      query: ({ id, order }) => ({ url: `live/${id}/${order}`, method: "PUT" }),
    }),
    protocols: build.query<OwnProtocol[], void>({ query: () => "protocols", providesTags: ["protocol"] }),
    addProtocol: build.mutation<OwnProtocol[], ProtocolInput>({
      query: (body) => ({ adds: "protocols", body }),
      invalidatesTags: ["protocol"],
    }),
    removeProtocol: build.mutation<OwnProtocol[], { id: string; removed: boolean }>({
      query: ({ id, removed }) => ({ url: `protocols/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["protocol"],
    }),
    readings: build.query<Reading[], string>({
      query: (serviceId) => `services/${serviceId}/readings`,
      providesTags: ["reading"],
    }),
    addReading: build.mutation<Reading[], { serviceId: string; body: ReadingInput }>({
      query: ({ serviceId, body }) => ({ adds: `services/${serviceId}/readings`, body }),
      invalidatesTags: ["reading"],
    }),
    removeReading: build.mutation<void, { id: string; removed: boolean }>({
      query: ({ id, removed }) => ({ url: `readings/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["reading"],
    }),
    addNote: build.mutation<WorkNote[], { serviceId: string; body: NoteInput }>({
      query: ({ serviceId, body }) => ({ adds: `services/${serviceId}/notes`, body }),
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
    boardMap: build.query<BoardMapView, string>({ query: (id) => `boards/${id}/map`, providesTags: ["map"] }),
    changeBoardMap: build.mutation<BoardMapView, { id: string; body: BoardMapChange }>({
      query: ({ id, body }) => ({ url: `boards/${id}/map`, method: "PUT", body }),
      invalidatesTags: (_result, error) => (error ? [] : ["map", "pads"]),
    }),
    setUnderlay: build.mutation<BoardMapView, { id: string; photo?: Blob; place: (Box & { hash?: string }) | null }>({
      query: ({ id, photo, place }) => {
        const body = new FormData();
        if (place) body.append("place", JSON.stringify(place));
        if (photo) body.append("photo", photo, "board.jpg");
        return { url: `boards/${id}/underlay`, method: "PUT", body };
      },
      invalidatesTags: ["map"],
    }),
    packages: build.query<Package[], void>({ query: () => "packages", providesTags: ["packages"] }),
    changePackages: build.mutation<Package[], Package[]>({
      query: (body) => ({ url: "packages", method: "PUT", body }),
      invalidatesTags: ["packages"],
    }),
    pads: build.query<PadJob, string>({ query: (id) => `services/${id}/pads`, providesTags: ["pads"] }),
    changePads: build.mutation<PadJob, { serviceId: string; body: PadPlanChange }>({
      query: ({ serviceId, body }) => ({ url: `services/${serviceId}/pads`, method: "PUT", body }),
      invalidatesTags: ["service", "bench"],
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
      invalidatesTags: ["pads", "stores"],
    }),
    stores: build.query<Stores, void>({ query: () => "stores", providesTags: ["stores"] }),
    addMaterial: build.mutation<Stores, MaterialInput>({
      query: (body) => ({ adds: "materials", body }),
      invalidatesTags: ["stores"],
    }),
    changeMaterial: build.mutation<Stores, { id: string; body: MaterialInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `materials/${id}`, method: "PUT", body }),
      invalidatesTags: ["stores"],
    }),
    addLot: build.mutation<Stores, LotInput>({
      query: (body) => ({ adds: "lots", body }),
      invalidatesTags: ["stores"],
    }),
    changeLot: build.mutation<Stores, { id: string; body: LotInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `lots/${id}`, method: "PUT", body }),
      invalidatesTags: ["stores"],
    }),
    addOffer: build.mutation<Stores, OfferInput>({
      query: (body) => ({ adds: "offers", body }),
      invalidatesTags: ["stores"],
    }),
    changeOffer: build.mutation<Stores, { id: string; body: OfferInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `offers/${id}`, method: "PUT", body }),
      invalidatesTags: ["stores"],
    }),
    removeFromStores: build.mutation<Stores, { what: "materials" | "lots" | "offers"; id: string; removed: boolean }>({
      query: ({ what, id, removed }) => ({ url: `${what}/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["stores"],
    }),
    uses: build.query<Use[], string>({ query: (id) => `services/${id}/uses`, providesTags: ["stores"] }),
    addUse: build.mutation<Use[], { serviceId: string; body: UseInput }>({
      query: ({ serviceId, body }) => ({ adds: `services/${serviceId}/uses`, body }),
      invalidatesTags: ["stores"],
    }),
    removeUse: build.mutation<void, { id: string; removed: boolean }>({
      query: ({ id, removed }) => ({ url: `uses/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["stores"],
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
