import { Problem } from "../problem/index.ts";
import type { Role } from "./role.ts";

/** One graphics card of a log: the columns that belong together. */
export interface CardInLog {
  /** From 1, by each card's first column. */
  index: number;
  name: string;
  headers: string[];
  /** Over its own load, else over the log, W; null without a power column. */
  meanPowerW: number | null;
  chosen: boolean;
}

interface Group {
  name: string;
  /** Positions of its columns. */
  columns: number[];
}

interface Column {
  header: string;
  values: Float64Array;
}

/** A number behind one of these counts cards, not fans or sensors of one. */
const DEVICE = /^(gpu|card|graphicscard|karte|grafikkarte|carte|vga|adapter|device)$/i;
const NAMED_DEVICE = /^(gpu|card|karte|grafikkarte|carte|vga|adapter|device)\d+$/i;

const tokensOf = (header: string): string[] =>
  header
    .replace(/[[(][^\])]*[\])]\s*$/u, (unit) => (/[°%]|rpm|^\W*[wva]\W*$|hz|watt|volt|db/iu.test(unit) ? "" : unit))
    .toLowerCase()
    .match(/[\p{L}\p{N}]+/gu) ?? [];

/** Columns that belong to one card each, where a log holds several; empty for the usual log. */
function groupsOf(headers: readonly string[], roles: ReadonlyArray<Role | null>): Group[] {
  for (const role of ["edge", "hotspot"] as const) {
    const holders = roles.flatMap((held, index) => (held === role ? [index] : []));
    if (holders.length < 2) continue;
    const groups = byRepeatedHeaders(headers, holders) ?? byName(headers, roles, holders);
    if (groups) return groups.sort((one, other) => (one.columns[0] ?? 0) - (other.columns[0] ?? 0));
  }
  return [];
}

/** The same names again for every card: the first of each name is the first card's. */
function byRepeatedHeaders(headers: readonly string[], holders: readonly number[]): Group[] | undefined {
  const [first] = holders;
  const times = headers.filter((header) => header === headers[first ?? -1]).length;
  if (times < 2) return undefined;
  const groups: Group[] = Array.from({ length: times }, (_, card) => ({ name: `card ${card + 1}`, columns: [] }));
  const seen = new Map<string, number>();
  for (const [index, header] of headers.entries()) {
    const before = seen.get(header) ?? 0;
    seen.set(header, before + 1);
    if (headers.filter((one) => one === header).length === times) groups[before]?.columns.push(index);
  }
  return groups;
}

const bears = (tokens: readonly string[], name: readonly string[]): boolean =>
  tokens.some((_, at) => name.every((word, offset) => tokens[at + offset] === word));

/** No bench holds more: so many alike names are sensors of something else. */
const MOST_CARDS = 32;

/** What tells the names of one sensor apart is the card's name; every column that bears it is that card's. */
function byName(
  headers: readonly string[],
  roles: ReadonlyArray<Role | null>,
  holders: readonly number[],
): Group[] | undefined {
  const words = headers.map(tokensOf);
  const held = holders.map((index) => words[index] ?? []);
  const shortest = Math.min(...held.map((tokens) => tokens.length));
  const sameAt = (at: (tokens: string[]) => string | undefined): boolean => new Set(held.map(at)).size === 1;
  let start = 0;
  while (start < shortest && sameAt((tokens) => tokens[start])) start++;
  let end = 0;
  while (end < shortest - start && sameAt((tokens) => tokens[tokens.length - 1 - end])) end++;
  const names = held.map((tokens) =>
    // Before the sensor's own words all of it is the name; behind them, the word that counts and its number.
    end > 0 ? tokens.slice(0, tokens.length - end) : tokens.slice(Math.max(0, start - 1)),
  );
  const told = held.map((tokens) => tokens.slice(start, tokens.length - end).join(" "));
  if (told.length > MOST_CARDS || told.some((text) => text === "") || new Set(told).size < told.length)
    return undefined;
  const groups = names.map((name): Group => {
    const columns = words.flatMap((tokens, index) => (bears(tokens, name) ? [index] : []));
    const from = headers[holders[names.indexOf(name)] ?? -1] ?? "";
    return { name: asWritten(from, name), columns };
  });
  const rolesOf = ({ columns }: Group): Set<Role> =>
    new Set(columns.flatMap((index) => (roles[index] && roles[index] !== "time" ? [roles[index]] : [])));
  const shared = groups.map(rolesOf).reduce((all, some) => new Set([...all].filter((role) => some.has(role))));
  const isDevice = names.every((name) => name.some((word) => DEVICE.test(word) || NAMED_DEVICE.test(word)));
  return shared.size >= 2 || isDevice ? groups : undefined;
}

/** A name as the header spells it. */
function asWritten(header: string, name: readonly string[]): string {
  const found = new RegExp(name.join("[^\\p{L}\\p{N}]+"), "iu").exec(header);
  return found?.[0] ?? name.join(" ");
}

/** A card under load draws so much more than at its least, and no less than this, W. Common practice. */
const LOAD_RATIO = 1.8;
const LEAST_LOAD_W = 50;
const LOAD_PCT = 50;
/** Where neither power nor load was logged: it warmed by so much, K. */
const WARMED_K = 15;

/** So many of a log's values tell where they lie. */
const ENOUGH = 4000;

function spread(values: Float64Array): { low: number; high: number } {
  const stride = Math.ceil(values.length / ENOUGH);
  const sorted = values.filter((value, row) => row % stride === 0 && !Number.isNaN(value)).sort();
  const at = (share: number): number => sorted[Math.floor(share * (sorted.length - 1))] ?? Number.NaN;
  return { low: at(0.02), high: at(0.95) };
}

function powerOver(values: Float64Array): number {
  const { low, high } = spread(values);
  const least = (low + high) / 2;
  let [loaded, inLoad, all, count] = [0, 0, 0, 0];
  for (let row = 0; row < values.length; row++) {
    const value = values[row] ?? Number.NaN;
    if (Number.isNaN(value)) continue;
    all += value;
    count++;
    if (value < least) continue;
    loaded += value;
    inLoad++;
  }
  return inLoad > 0 ? loaded / inLoad : all / count;
}

function isUnderLoad(of: (role: Role) => Float64Array | undefined): boolean {
  const load = of("load");
  if (load && spread(load).high > LOAD_PCT) return true;
  const power = of("power");
  if (power) {
    const { low, high } = spread(power);
    return high >= LEAST_LOAD_W && (high > LOAD_RATIO * low || low >= 2 * LEAST_LOAD_W);
  }
  if (load) return false;
  const edge = of("edge") ?? of("hotspot");
  const { low, high } = spread(edge ?? new Float64Array(0));
  return high - low > WARMED_K;
}

export interface Settled {
  cards: CardInLog[];
  /** Columns of the cards that were not chosen. */
  others: ReadonlySet<number>;
}

/**
 * Tells the cards of a log apart and chooses one: the one asked for, the one whose columns were named, or the only one under load.
 * @param card as asked for, from 1
 * @param named positions of columns that were given a role by hand
 * @throws Problem `no-such-card`, `which-card`
 */
export function settleCards(
  columns: readonly Column[],
  roles: ReadonlyArray<Role | null>,
  card: number | undefined,
  named: ReadonlySet<number>,
): Settled {
  const headers = columns.map((column) => column.header);
  const groups = groupsOf(headers, roles);
  if (groups.length < 2) {
    const own = columns.flatMap((_, index) =>
      roles[index] && roles[index] !== "time" && roles[index] !== "ambient" ? [index] : [],
    );
    const only = { name: "card 1", columns: own };
    if (card !== undefined && card !== 1) throw noSuchCard(card, [only.name]);
    return { cards: [cardOf(only, 1, true, columns, roles)], others: new Set() };
  }
  const valuesOf = (group: Group) => (role: Role) => {
    const index = group.columns.find((at) => roles[at] === role);
    return index === undefined ? undefined : columns[index]?.values;
  };
  const byHand = groups.filter((group) => group.columns.some((index) => named.has(index)));
  const loaded = groups.filter((group) => isUnderLoad(valuesOf(group)));
  let chosen: Group | undefined;
  if (card !== undefined) {
    chosen = groups[card - 1];
    if (!chosen)
      throw noSuchCard(
        card,
        groups.map(({ name }) => name),
      );
  } else if (byHand.length === 1) [chosen] = byHand;
  else if (loaded.length === 1) [chosen] = loaded;
  else if (loaded.length === 0) [chosen] = groups;
  if (!chosen) {
    const words = groups.map((group, at) => {
      const { meanPowerW } = cardOf(group, at + 1, false, columns, roles);
      return `${at + 1} “${group.name}”${meanPowerW === null ? "" : ` at ${Math.round(meanPowerW)} W`}`;
    });
    throw new Problem({
      code: "which-card",
      what: `This log holds ${groups.length} cards, and ${loaded.length} of them were under load: ${words.join(", ")}.`,
      remedy: "Say which one it is about: --card 1, or its button on the page.",
    });
  }
  const others = new Set(groups.flatMap((group) => (group === chosen ? [] : group.columns)));
  return {
    cards: groups.map((group, at) => cardOf(group, at + 1, group === chosen, columns, roles)),
    others,
  };
}

const noSuchCard = (card: number, names: readonly string[]): Problem =>
  new Problem({
    code: "no-such-card",
    what: `The log has no card ${card}.`,
    remedy: `Its cards are: ${names.map((name, at) => `${at + 1} “${name}”`).join(", ")}.`,
  });

function cardOf(
  { name, columns: own }: Group,
  index: number,
  chosen: boolean,
  columns: readonly Column[],
  roles: ReadonlyArray<Role | null>,
): CardInLog {
  const power = own.find((at) => roles[at] === "power");
  const meanPowerW = power === undefined ? Number.NaN : powerOver(columns[power]?.values ?? new Float64Array(0));
  return {
    index,
    name,
    headers: own.flatMap((at) => columns[at]?.header ?? []),
    meanPowerW: Number.isFinite(meanPowerW) ? meanPowerW : null,
    chosen,
  };
}
