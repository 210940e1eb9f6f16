import type { Plugin } from "vite";

/** Compressed size of the entry and of all that it imports at once, bytes. */
export function firstScriptBytes(bundle: Record<string, object>): number;
/** The build fails where a place's own code comes into what all places load first. */
export function firstScript(): Plugin & {
  generateBundle(this: { error(text: string): void }, options: object, bundle: Record<string, object>): void;
};
