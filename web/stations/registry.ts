import { type ComponentType, useEffect, useState } from "react";
import { STATIONS } from "#contract";
import type { StationProps, WebStation } from "./station.ts";

const FOLDERS = import.meta.glob<{ station: WebStation }>("./*/index.tsx");

type View = ComponentType<StationProps>;

/** The stations' pages in the order of work. */
export const STATION_PAGES: ReadonlyArray<{ id: string; path: string }> = STATIONS.map(({ id, path }) => ({
  id,
  path,
}));

const views = new Map<string, View>();

async function load(path: string): Promise<View> {
  const known = views.get(path);
  if (known) return known;
  const folder = FOLDERS[`./${path}/index.tsx`];
  if (!folder) throw new Error(`web/stations/${path}/index.tsx is missing.`);
  const { View: made } = (await folder()).station;
  views.set(path, made);
  return made;
}

/**
 * A station's page, loaded when it is first shown: fetched while the card is still being read, and drawn as soon as both are there (what is
 * suspended would be held back a third of a second more).
 * @returns undefined until it is there
 * @throws what kept its file from coming, as it is drawn
 */
export function useStationView(path: string): View | undefined {
  const [come, setCome] = useState<{ path: string; view?: View; fault?: unknown }>({ path: "" });
  useEffect(() => {
    let current = true;
    load(path).then(
      (view) => current && setCome({ path, view }),
      (fault: unknown) => current && setCome({ path, fault }),
    );
    return () => {
      current = false;
    };
  }, [path]);
  if (come.path === path && come.fault !== undefined) throw come.fault;
  return views.get(path);
}
