import { STATIONS } from "#contract";
import type { ServerStation } from "./station.ts";

type Loaded = { station: ServerStation };

/**
 * The folders of the stations, in the order of work.
 * @param rows lines of the table of stations
 * @throws RangeError where a folder belongs to another line than the one that names it
 */
export async function loadStations(
  rows: ReadonlyArray<{ id: string; path: string }> = STATIONS,
): Promise<readonly ServerStation[]> {
  return Promise.all(
    rows.map(async ({ id, path }) => {
      const { station } = (await import(`./${path}/index.ts`)) as Loaded;
      if (station.id !== id) throw new RangeError(`server/stations/${path} is of “${station.id}”, not of “${id}”.`);
      return station;
    }),
  );
}
