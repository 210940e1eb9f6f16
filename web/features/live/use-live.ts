import { useEffect, useState } from "react";
import { API, type LiveRows, type LiveRun, urlOf } from "#contract";
import { api } from "../../app/api.ts";
import { useAppDispatch } from "../../app/store.ts";

/** Rows that are kept for drawing; older ones are thinned by half when there are more. */
const MOST_ROWS = 6000;

const ASK_EVERY_MS = 3000;

interface LiveView {
  live: LiveRun | undefined;
  rows: LiveRows["rows"];
  /** False while the stream is broken; it is taken up again by itself. */
  connected: boolean;
  error: unknown;
}

/** Follows a live run: what was before by one request, what comes by server-sent events, and the rest after every break. */
export function useLive(id: string): LiveView {
  const { data, error, refetch } = api.useLiveQuery(id);
  const [said, setSaid] = useState<Partial<LiveRun>>({});
  const [rows, setRows] = useState<LiveRows["rows"]>([]);
  const [connected, setConnected] = useState(false);
  const [fetchRows] = api.useLazyLiveRowsQuery();
  const dispatch = useAppDispatch();
  const status = said.status ?? data?.status;

  useEffect(() => {
    let latestS = -1;
    // Rows that come while the earlier ones are still being fetched wait for them, so that none falls behind.
    let early: LiveRows["rows"] | null = [];
    const append = (more: LiveRows["rows"]): void => {
      const fresh = more.filter((row) => {
        const later = (row[0] ?? 0) > latestS;
        if (later) latestS = row[0] ?? latestS;
        return later;
      });
      if (fresh.length === 0) return;
      setRows((old) => {
        const all = [...old, ...fresh];
        return all.length > MOST_ROWS ? all.filter((_, index) => index % 2 === 0 || index > all.length - 200) : all;
      });
    };
    const source = new EventSource(urlOf(API.liveStream, { liveId: id }));
    const fetchRest = async (): Promise<void> => {
      const { data: found } = await fetchRows({ liveId: id, after: String(latestS) });
      append([...(found?.rows ?? []), ...(early ?? [])]);
      early = null;
    };
    let asking: ReturnType<typeof setInterval> | undefined;
    const ask = (): void => {
      void fetchRest();
      void refetch();
    };
    source.addEventListener("open", () => {
      setConnected(true);
      early ??= [];
      void fetchRest();
    });
    source.addEventListener("error", () => {
      setConnected(false);
      // Refused for good, as where too many pages follow: the state and the rest of the rows are asked for now and then.
      if (source.readyState === EventSource.CLOSED) asking ??= setInterval(ask, ASK_EVERY_MS);
    });
    source.addEventListener("state", (event) => {
      const state = JSON.parse(String(event.data)) as Partial<LiveRun>;
      setSaid((old) => ({ ...old, ...state }));
      if (state.status && state.status !== "running") {
        source.close();
        dispatch(api.util.invalidateTags(["live", "service", "lines", "testBench"]));
      }
    });
    source.addEventListener("rows", (event) => {
      const { rows: fresh } = JSON.parse(String(event.data)) as LiveRows;
      if (early) early.push(...fresh);
      else append(fresh);
    });
    return () => {
      source.close();
      clearInterval(asking);
    };
  }, [id, fetchRows, refetch, dispatch]);

  return {
    live: data ? { ...data, ...said } : undefined,
    rows,
    connected: connected || (status !== undefined && status !== "running"),
    error,
  };
}
