import { seeded } from "../../random/index.ts";

export type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

/** A document with something wrong at one place, which is named. */
export interface Damage {
  where: string;
  document: Json;
}

/** What stands where something else is expected. */
const INSTEAD: readonly [Json, ...Json[]] = [
  null,
  true,
  "",
  "12",
  "x".repeat(5000),
  0,
  -1,
  0.5,
  1e-300,
  1e300,
  123_456_789,
  [],
  {},
  [[]],
  [null],
  { id: 3 },
];

/** Every place in a document, as the keys that lead to it. */
function places(document: Json, path: readonly string[] = []): string[][] {
  const below =
    document !== null && typeof document === "object"
      ? Object.entries(document).flatMap(([key, value]) => places(value, [...path, key]))
      : [];
  return path.length === 0 ? below : [[...path], ...below];
}

/** The document with something else at a place, or with nothing there, or with what stands there twice. */
function damaged(
  document: Json,
  path: readonly string[],
  how: (at: Json, holder: Json[] | { [key: string]: Json }, key: string) => void,
): Json {
  const copy = structuredClone(document);
  let holder = copy;
  for (const key of path.slice(0, -1)) holder = (holder as { [key: string]: Json })[key] ?? null;
  const key = path.at(-1) ?? "";
  how((holder as { [key: string]: Json })[key] ?? null, holder as { [key: string]: Json }, key);
  return copy;
}

const REMOVED = (_: Json, holder: Json[] | { [key: string]: Json }, key: string): void => {
  if (Array.isArray(holder)) holder.splice(Number(key), 1);
  else delete holder[key];
};
const TWICE = (at: Json, holder: Json[] | { [key: string]: Json }, key: string): void => {
  if (Array.isArray(holder)) holder.push(structuredClone(at));
  else holder[`${key} again`] = structuredClone(at);
};

/** Some of all ways to damage a document at one place, by chance and the same each time. */
export function damages(whole: Json, seed: number, most: number): Damage[] {
  const all = places(whole).flatMap((path): Damage[] => {
    const at = path.join("/");
    return [
      { where: `${at} removed`, document: damaged(whole, path, REMOVED) },
      { where: `${at} twice`, document: damaged(whole, path, TWICE) },
      ...INSTEAD.map((value) => ({
        where: `${at} ${JSON.stringify(value).slice(0, 20)}`,
        document: damaged(whole, path, (_, holder, key) => {
          (holder as { [key: string]: Json })[key] = value;
        }),
      })),
    ];
  });
  return seeded(seed).shuffled(all).slice(0, most);
}
