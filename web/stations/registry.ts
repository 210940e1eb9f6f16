import { type ComponentType, lazy } from "react";
import { STATIONS } from "#contract";
import type { StationProps, WebStation } from "./station.ts";

const FOLDERS = import.meta.glob<{ station: WebStation }>("./*/index.tsx");

/** The stations' pages in the order of work, each loaded when it is first shown. */
export const STATION_PAGES: ReadonlyArray<{ id: string; path: string; View: ComponentType<StationProps> }> =
  STATIONS.map(({ id, path }) => ({
    id,
    path,
    View: lazy(async () => {
      const load = FOLDERS[`./${path}/index.tsx`];
      if (!load) throw new Error(`web/stations/${path}/index.tsx is missing.`);
      return { default: (await load()).station.View };
    }),
  }));
