import {
  type BaseQueryFn,
  createApi,
  type EndpointBuilder,
  type FetchArgs,
  type FetchBaseQueryError,
  type FetchBaseQueryMeta,
  fetchBaseQuery,
  type MutationDefinition,
  type QueryDefinition,
} from "@reduxjs/toolkit/query/react";
import {
  type AnswerOf,
  API,
  type CallOf,
  type DayView,
  isMedia,
  type Media,
  type ServiceLine,
  type Wire,
} from "#contract";
import { sendOnce } from "./once.ts";
import { type Addition, checked, filledBy, isNewer, isRead, READS, requestOf, staleAfter } from "./wire.ts";

const ask = fetchBaseQuery({
  baseUrl: new URL("/api/", location.href).href,
  // Days are those of whoever sits here, not of the server.
  prepareHeaders: (head) => head.set("Time-Zone", Intl.DateTimeFormat().resolvedOptions().timeZone),
});
type Ask = BaseQueryFn<string | FetchArgs | Addition, unknown, FetchBaseQueryError, object, FetchBaseQueryMeta>;

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

/** Read in pages, or by what changed since: told below. */
type OwnWay = "lines" | "day";
type Endpoint<R extends Wire, Call> = R extends { method: "get" } | { reads: true }
  ? QueryDefinition<Call, Ask, string, AnswerOf<R>, "api">
  : MutationDefinition<Call, Ask, string, AnswerOf<R>, "api">;
type Endpoints<T> = {
  [K in keyof T as T[K] extends { answers: Media } ? never : K extends OwnWay ? never : K]: T[K] extends Wire
    ? Endpoint<T[K], CallOf<T[K], T>>
    : never;
};

/** An endpoint for every line of the API: a hook that reads, or one that changes and puts its answer where it is read. */
function endpointsOf(build: EndpointBuilder<Ask, string, "api">): Endpoints<typeof API> {
  const made = Object.entries<Wire>(API).flatMap(([name, wire]) => {
    if (name === "lines" || name === "day" || (wire.answers !== null && isMedia(wire.answers))) return [];
    const query = (call: unknown) => requestOf(wire, call);
    const transformResponse = (answer: unknown): unknown => checked(wire, answer);
    const endpoint = isRead(wire)
      ? build.query<unknown, unknown>({
          query,
          transformResponse,
          providesTags: [name],
          ...(wire.newest ? { merge: (held, come) => (isNewer(wire, held, come) ? come : held) } : {}),
        })
      : build.mutation<unknown, unknown>({
          query,
          transformResponse,
          invalidatesTags: (_answer, error) => staleAfter(wire, error),
          async onQueryStarted(call, { dispatch, queryFulfilled, ...store }) {
            const { data } = (await queryFulfilled.catch(() => undefined)) ?? {};
            const filled = data === undefined ? undefined : filledBy(wire, call, data);
            if (!filled) return;
            const at = [filled.name as "card", filled.of as string] as const;
            dispatch(
              api.util.updateQueryData(...at, (held) =>
                isNewer(filled.wire, held, data) ? (data as typeof held) : held,
              ),
            );
            // What is under way was asked before: it is not to come over this.
            const { isSuccess } = api.endpoints[at[0]].select(at[1])(store.getState() as never);
            if (!isSuccess) void dispatch(api.util.upsertQueryData(...at, data as never));
          },
        });
    return [[name, endpoint]];
  });
  return Object.fromEntries(made) as Endpoints<typeof API>;
}

/** What an answer that was under way longer says of a card's terms is older than what is held. */
function withNewest(held: DayView, come: DayView): DayView {
  const known = new Map(held.cards.map((card) => [card.serviceId, card]));
  return {
    ...come,
    cards: come.cards.map((card) => {
      const own = known.get(card.serviceId);
      return own && own.version > card.version ? { ...card, terms: own.terms, version: own.version } : card;
    }),
  };
}

function heldDay(state: unknown): DayView | undefined {
  return api.endpoints.day.select()(state as never).data;
}

/** Everything the server owns, as the table in `contract/api` has it. What is read is known by its name; a change names what it makes stale. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: ((request, more, options) =>
    typeof request === "object" && "adds" in request
      ? sendOnce({ url: request.adds, method: "POST", body: request.body }, (once) => ask(once, more, options))
      : ask(request, more, options)) as Ask,
  tagTypes: READS,
  refetchOnReconnect: true,
  refetchOnFocus: false,
  endpoints: (build) => ({
    ...endpointsOf(build),
    lines: build.infiniteQuery<LinesPage, LinesAsked, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: ({ next }) => next ?? undefined },
      query: ({ queryArg: { closed, limit, ...words }, pageParam }) =>
        requestOf(API.lines, { ...words, limit, closed: closed?.toString(), after: pageParam }),
      transformResponse: (lines: ServiceLine[], meta) => {
        const head = (meta as FetchBaseQueryMeta | undefined)?.response?.headers;
        const next = /<([^>]*)>; *rel="next"/.exec(head?.get("Link") ?? "")?.[1];
        return {
          lines: checked(API.lines, lines) as ServiceLine[],
          total: Number(head?.get("X-Total-Count") ?? lines.length),
          next: next ? new URL(next, location.href).searchParams.get("after") : null,
        };
      },
      providesTags: ["lines"],
    }),
    day: build.query<DayView, void>({
      async queryFn(_, { getState }, _extra, askServer): Promise<{ data: DayView } | { error: FetchBaseQueryError }> {
        const held = heldDay(getState());
        const asked = await askServer(requestOf(API.day, { known: held?.stamp }));
        if (asked.error) return { error: asked.error };
        const come = checked(API.day, asked.data) as AnswerOf<typeof API.day>;
        if (!("unchanged" in come)) return { data: come };
        const { stamp, atMs, planning, progress } = come;
        return { data: { ...(held as DayView), stamp, atMs, planning, progress } };
      },
      providesTags: ["day"],
      merge: withNewest,
    }),
  }),
});
