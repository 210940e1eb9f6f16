import type { DayNow, DayTerms, DayView } from "#contract";
import { api } from "../../app/api.ts";
import type { AppStore } from "../../app/store.ts";

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

export const dayApi = api.injectEndpoints({
  endpoints: (build) => ({
    day: build.query<DayView, void>({
      async queryFn(_, { getState }, _extra, ask) {
        const held = heldDay(getState() as ReturnType<AppStore["getState"]>);
        const asked = await ask(held ? `day?known=${encodeURIComponent(held.stamp)}` : "day");
        if (asked.error) return { error: asked.error };
        const come = asked.data as DayView | DayNow;
        if (!("unchanged" in come)) return { data: come };
        const { stamp, atMs, planning, progress } = come;
        return { data: { ...(held as DayView), stamp, atMs, planning, progress } };
      },
      providesTags: ["day", "lines", "live"],
      merge: withNewest,
    }),
    endSearch: build.mutation<unknown, void>({
      query: () => ({ url: "day/enough", method: "POST" }),
      invalidatesTags: ["day"],
    }),
    changeTerms: build.mutation<
      DayTerms & { version: number },
      { serviceId: string; body: DayTerms & { version: number } }
    >({
      query: ({ serviceId, body }) => ({ url: `services/${serviceId}/terms`, method: "PUT", body }),
      invalidatesTags: ["day"],
      async onQueryStarted({ serviceId }, { dispatch, queryFulfilled }) {
        const made = await queryFulfilled.catch(() => null);
        if (!made) return;
        const { version, ...terms } = made.data;
        dispatch(
          dayApi.util.updateQueryData("day", undefined, (day) => {
            const card = day.cards.find((one) => one.serviceId === serviceId);
            if (card) Object.assign(card, { terms, version });
          }),
        );
      },
    }),
  }),
});

function heldDay(state: ReturnType<AppStore["getState"]>): DayView | undefined {
  return dayApi.endpoints.day.select()(state).data;
}
