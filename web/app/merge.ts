type Fields = Record<string, unknown>;

const isFields = (value: unknown): value is Fields =>
  typeof value === "object" && value !== null && !Array.isArray(value);
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * Two windows changed the same form: theirs with what was changed here, field by field; a list of the same length entry by entry.
 * @param base what this window began with
 */
export function mergeChanges<T>(base: T, mine: T, theirs: T): T {
  if (same(mine, base)) return theirs;
  if (isFields(base) && isFields(mine) && isFields(theirs)) {
    const merged: Fields = { ...theirs };
    for (const key of Object.keys(mine)) merged[key] = mergeChanges(base[key], mine[key], theirs[key]);
    return merged as T;
  }
  const lists = [base, mine, theirs];
  if (Array.isArray(mine) && lists.every((one) => Array.isArray(one) && one.length === mine.length))
    return mine.map((one, k) => mergeChanges((base as unknown[])[k], one, (theirs as unknown[])[k])) as T;
  return mine;
}
