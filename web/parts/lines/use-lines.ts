import type { ServiceLine } from "#contract";
import { api, type LinesAsked } from "../../app/api.ts";

/** Services a page at a time; `reach` is called with the last line that is looked at, and fetches the next page in time. */
export function useLines(asked: LinesAsked) {
  const { data, error, isLoading, hasNextPage, isFetching, fetchNextPage } = api.useLinesInfiniteQuery(asked);
  const lines: ServiceLine[] = data?.pages.flatMap((page) => page.lines) ?? [];
  return {
    lines,
    total: data?.pages[0]?.total ?? 0,
    error,
    isLoading,
    known: data !== undefined,
    /** What is asked now is not answered yet. */
    waits: isFetching,
    reach: (index: number): void => {
      if (hasNextPage && !isFetching && index > lines.length - AHEAD) void fetchNextPage();
    },
  };
}

/** So many lines before the end the next page is fetched. */
const AHEAD = 40;
