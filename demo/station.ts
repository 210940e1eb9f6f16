import type { Context } from "#server/services/context.ts";

/** Fills a station of the demo's services, once all cards have runs and notes. @param serviceOf services by the serial of their card */
export type FillStation = (context: Context, serviceOf: ReadonlyMap<string, string>) => Promise<void>;
