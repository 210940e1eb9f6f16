import { gzipSync } from "node:zlib";

/** What every place loads before it shows anything, compressed, bytes. */
const MOST_BYTES = 180_000;

/**
 * @param {Record<string, { type: string, code?: string, isEntry?: boolean, imports?: string[] }>} bundle
 * @returns {number} compressed size of the entry and of all that it imports at once, bytes
 */
export function firstScriptBytes(bundle) {
  const first = new Set(Object.keys(bundle).filter((file) => bundle[file]?.isEntry));
  for (const file of first) for (const one of bundle[file]?.imports ?? []) first.add(one);
  return [...first].reduce((sum, file) => sum + gzipSync(bundle[file]?.code ?? "").length, 0);
}

/** The build fails where a place's own code comes into what all places load first. */
export const firstScript = () => ({
  name: "first-script",
  generateBundle(_options, bundle) {
    const bytes = firstScriptBytes(bundle);
    if (bytes > MOST_BYTES)
      this.error(
        `The first script has ${bytes} bytes compressed, more than ${MOST_BYTES}: load a place's page lazily.`,
      );
  },
});
