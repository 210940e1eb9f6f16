const BEFORE = /before|base|vor|avant|old|alt/i;
const AFTER = /after|nach|apr[eè]s|new|neu/i;

/**
 * Which of two logs is of the run before: by the words of their names, else the one that was written first.
 * @example
 * ```ts
 * inOrder([{ name: "after.csv", lastModified: 1 }, { name: "before.csv", lastModified: 2 }])[0].name // => "before.csv"
 * ```
 */
export function inOrder<F extends Pick<File, "name" | "lastModified">>(files: readonly F[]): F[] {
  const rank = ({ name }: F): number => Number(AFTER.test(name)) - Number(BEFORE.test(name));
  return files.toSorted((one, other) => rank(one) - rank(other) || one.lastModified - other.lastModified);
}
