import { createApi, type FetchArgs, type FetchBaseQueryMeta, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import type {
  BenchInput,
  Board,
  BoardInput,
  BoardMapChange,
  BoardMapView,
  Card,
  CardInput,
  DueCard,
  HistoryLine,
  ImportReport,
  Keeping,
  LiveRows,
  LiveRun,
  LiveStart,
  LotInput,
  Mapping,
  MaterialInput,
  OfferInput,
  OpenPads,
  OwnProtocol,
  PadJob,
  ProtocolInput,
  Reading,
  ReadingInput,
  RemovedThing,
  Run,
  RunDiagnosis,
  RunInput,
  ServiceLine,
  ServiceView,
  Settings,
  StationId,
  StepMarkInput,
  StepsView,
  Stores,
  TestBench,
  Use,
  UseInput,
  Week,
} from "#contract";
import type { Box, Package } from "#core/boardmap/index.ts";
import { sendOnce } from "./once.ts";
import { TAGS } from "./tags.ts";

const ask = fetchBaseQuery({
  baseUrl: new URL("/api/", location.href).href,
  // Days are those of whoever sits here, not of the server.
  prepareHeaders: (head) => head.set("Time-Zone", Intl.DateTimeFormat().resolvedOptions().timeZone),
});

/** Which services are listed: all words found, open or handed over or both. */
export interface LinesAsked {
  find: string;
  closed: boolean | undefined;
  station?: string;
  verdict?: string;
  owner?: string;
  model?: string;
  limit: number;
}

interface LinesPage {
  lines: ServiceLine[];
  total: number;
  next: string | null;
}

/** So often a map is read anew and saved again while others save it too; then it is a conflict, and what is unsaved waits. */
export const MOST_CONFLICTS = 8;

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
  tagTypes: TAGS,
  refetchOnReconnect: true,
  refetchOnFocus: false,
  endpoints: (build) => ({
    lines: build.infiniteQuery<LinesPage, LinesAsked, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: ({ next }) => next ?? undefined },
      query: ({ queryArg: { closed, limit, ...words }, pageParam }) => {
        const asked = new URLSearchParams({ limit: String(limit) });
        if (closed !== undefined) asked.set("closed", String(closed));
        for (const [name, value] of Object.entries(words)) if (value) asked.set(name, value);
        if (pageParam) asked.set("after", pageParam);
        return `bench?${asked}`;
      },
      transformResponse: (lines: ServiceLine[], meta) => {
        const head = (meta as FetchBaseQueryMeta | undefined)?.response?.headers;
        const next = /<([^>]*)>; *rel="next"/.exec(head?.get("Link") ?? "")?.[1];
        return {
          lines,
          total: Number(head?.get("X-Total-Count") ?? lines.length),
          next: next ? new URL(next, location.href).searchParams.get("after") : null,
        };
      },
      providesTags: ["lines"],
    }),
    card: build.query<Card, string>({ query: (id) => `cards/${id}`, providesTags: ["card"] }),
    beginService: build.mutation<Card, string>({
      query: (id) => ({ adds: `cards/${id}/services`, body: {} }),
      invalidatesTags: ["lines", "card", "handOver"],
    }),
    history: build.query<HistoryLine[], string>({
      query: (id) => `cards/${id}/history`,
      providesTags: ["card", "service", "lines"],
    }),
    due: build.query<DueCard[], void>({ query: () => "due", providesTags: ["lines", "handOver"] }),
    takeIn: build.mutation<Card, CardInput>({
      query: (body) => ({ adds: "cards", body }),
      invalidatesTags: ["lines", "board"],
    }),
    changeCard: build.mutation<Card, { id: string; body: CardInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `cards/${id}`, method: "PUT", body }),
      invalidatesTags: ["lines", "card", "board"],
    }),
    removed: build.query<RemovedThing[], void>({ query: () => "removed", providesTags: ["removed"] }),
    setRemoved: build.mutation<void, Pick<RemovedThing, "kind" | "id" | "cardId"> & { removed: boolean }>({
      query: ({ kind, id, cardId, removed }) => ({
        url:
          { card: `cards/${id}`, run: `runs/${id}`, note: `notes/${id}`, photo: `cards/${cardId}/photos/${id}` }[kind] +
          "/removed",
        method: "PUT",
        body: { removed },
      }),
      // What is put back may show anywhere.
      invalidatesTags: ["lines", "card", "service", "board", "removed"],
    }),
    addPhoto: build.mutation<Card, { id: string; file: File; caption?: string }>({
      query: ({ id, file, caption }) => {
        const body = new FormData();
        body.append("photo", file);
        if (caption) body.append("caption", caption);
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
      invalidatesTags: ["removed", "card"],
    }),
    service: build.query<ServiceView, string>({ query: (id) => `services/${id}`, providesTags: ["service"] }),
    skip: build.mutation<ServiceView, { id: string; station: StationId; reason: string | null }>({
      query: ({ id, ...body }) => ({ url: `services/${id}/skip`, method: "PUT", body }),
      invalidatesTags: ["service", "lines"],
    }),
    addRun: build.mutation<Run, { serviceId: string; file?: File; run: RunInput }>({
      query: ({ serviceId, file, run }) => {
        const body = new FormData();
        body.append("run", JSON.stringify(run));
        if (file) body.append("log", file);
        return { adds: `services/${serviceId}/runs`, body };
      },
      invalidatesTags: ["service", "lines"],
    }),
    beginAttempt: build.mutation<ServiceView, { id: string; changed: string }>({
      query: ({ id, changed }) => ({ adds: `services/${id}/attempts`, body: { changed } }),
      invalidatesTags: ["service", "lines"],
    }),
    run: build.query<Run, string>({ query: (id) => `runs/${id}`, providesTags: ["service"] }),
    changeRun: build.mutation<Run, { id: string; body: RunInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `runs/${id}`, method: "PUT", body }),
      invalidatesTags: ["service", "lines"],
    }),
    removeRun: build.mutation<void, { id: string; removed: boolean }>({
      query: ({ id, removed }) => ({ url: `runs/${id}/removed`, method: "PUT", body: { removed } }),
      invalidatesTags: ["removed", "service", "lines"],
    }),
    headerChoice: build.mutation<{ mapping: Mapping | null }, string[]>({
      query: (headers) => ({ url: "header-choice", method: "POST", body: { headers } }),
    }),
    diagnosis: build.query<RunDiagnosis, string>({
      query: (id) => `runs/${id}/diagnosis`,
      providesTags: ["service"],
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
    boards: build.query<Board[], void>({ query: () => "boards", providesTags: ["board"] }),
    changeBoard: build.mutation<Board[], { id: string; body: BoardInput & { version: number } }>({
      query: ({ id, body }) => ({ url: `boards/${id}`, method: "PUT", body }),
      invalidatesTags: ["board", "card"],
    }),
    boardMap: build.query<BoardMapView, string>({
      query: (id) => `boards/${id}/map`,
      providesTags: ["map"],
      // An answer that was under way while the map was saved is not taken for the newest.
      merge: (held, come) => (come.version >= held.version ? come : held),
    }),
    changeBoardMap: build.mutation<BoardMapView, { id: string; body: BoardMapChange }>({
      query: ({ id, body }) => ({ url: `boards/${id}/map`, method: "PUT", body }),
      invalidatesTags: (_result, error) => (error ? [] : ["map", "pads"]),
      async onQueryStarted({ id }, { dispatch, queryFulfilled }) {
        const made = await queryFulfilled.catch(() => null);
        if (made) dispatch(api.util.updateQueryData("boardMap", id, () => made.data));
      },
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
    steps: build.query<StepsView, string>({
      query: (id) => `services/${id}/steps`,
      providesTags: ["steps"],
      // Marks are only ever added to: an answer that was under way is not taken for the newest.
      merge: (held, come) => (come.marks.length > held.marks.length ? come : held),
    }),
    addSteps: build.mutation<StepsView, { serviceId: string; marks: readonly StepMarkInput[] }>({
      query: ({ serviceId, marks }) => ({ url: `services/${serviceId}/steps`, method: "POST", body: { marks } }),
      invalidatesTags: (_result, fault) => (fault ? [] : ["service", "lines"]),
      async onQueryStarted({ serviceId }, { dispatch, queryFulfilled }) {
        const made = await queryFulfilled.catch(() => null);
        if (!made) return;
        dispatch(
          api.util.updateQueryData("steps", serviceId, (held) =>
            made.data.marks.length > held.marks.length ? made.data : held,
          ),
        );
      },
    }),
    openPads: build.query<OpenPads[], void>({ query: () => "pads/open", providesTags: ["pads", "lines"] }),
    pads: build.query<PadJob, string>({ query: (id) => `services/${id}/pads`, providesTags: ["pads"] }),
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
      invalidatesTags: ["settings", "service", "lines"],
    }),
    changeWeek: build.mutation<Settings, Week>({
      query: (body) => ({ url: "settings/week", method: "PUT", body }),
      invalidatesTags: ["settings", "day"],
    }),
    passphrase: build.query<{ set: boolean }, void>({ query: () => "passphrase", providesTags: ["passphrase"] }),
    setPassphrase: build.mutation<{ set: boolean }, { passphrase: string; current?: string }>({
      query: (body) => ({ url: "passphrase", method: "PUT", body }),
      invalidatesTags: ["passphrase"],
    }),
    session: build.query<{ signedIn: boolean }, void>({ query: () => "session", providesTags: ["passphrase"] }),
    signOut: build.mutation<void, void>({
      query: () => ({ url: "sign-out", method: "POST" }),
      invalidatesTags: (_result, error) => (error ? [] : TAGS),
    }),
    keeping: build.query<Keeping, void>({ query: () => "backups", providesTags: ["keeping"] }),
    backUp: build.mutation<Keeping, void>({
      query: () => ({ url: "backups", method: "POST" }),
      invalidatesTags: ["keeping"],
    }),
    changeBackupFolder: build.mutation<Keeping, string>({
      query: (folder) => ({ url: "backups/folder", method: "PUT", body: { folder } }),
      invalidatesTags: ["keeping"],
    }),
    signIn: build.mutation<void, string>({
      query: (passphrase) => ({ url: "sign-in", method: "POST", body: { passphrase } }),
      invalidatesTags: (_result, error) => (error ? [] : TAGS),
    }),
    /** As it is on disk: the server reads it in pieces. */
    importFile: build.mutation<ImportReport, Blob>({
      query: (body) => ({ url: "import", method: "POST", body, headers: { "Content-Type": "application/json" } }),
      invalidatesTags: (_result, error) => (error ? [] : TAGS),
    }),
  }),
});
