import { isOpenElsewhere, ownWindow } from "./windows.ts";

const KEY = "algidus-drafts";
const keyOf = (name: string): string => `${KEY} ${name}`;

type Stored = Record<string, unknown>;

function read(key: string): Stored {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "{}") as Stored;
  } catch {
    return {};
  }
}

/** What windows of this browser stored, by the key it is stored under. */
function storedKeys(): string[] {
  try {
    return Object.keys(localStorage).filter((key) => key === KEY || key.startsWith(`${KEY} `));
  } catch {
    return [];
  }
}

function write(key: string, all: Stored): void {
  try {
    if (Object.keys(all).length > 0) localStorage.setItem(key, JSON.stringify(all));
    else localStorage.removeItem(key);
  } catch {
    // A full or forbidden store only means that drafts end with the page.
  }
}

/**
 * What was typed in this browser and is not saved, by form: in this window, and in windows that are closed by now. Empty where the browser's
 * store is damaged or forbidden.
 */
export function readStored(): Stored {
  const own = keyOf(ownWindow());
  const orphans = storedKeys().filter((key) => key !== own && !isOpenElsewhere(key.slice(KEY.length + 1)));
  const all = Object.assign({}, ...orphans.map(read), read(own)) as Stored;
  if (orphans.length > 0) {
    write(own, all);
    for (const key of orphans) localStorage.removeItem(key);
  }
  return all;
}

/** Writes what changed in this window, undefined for what goes; other windows' drafts stay as they are. */
export function storeChanges(changes: Stored): void {
  if (Object.keys(changes).length === 0) return;
  const own = keyOf(ownWindow());
  const all = read(own);
  for (const [form, value] of Object.entries(changes)) {
    if (value === undefined) delete all[form];
    else all[form] = value;
  }
  write(own, all);
}

/** What another window that is open holds of a form; undefined where none does. Look at the windows first. */
export function storedElsewhere(form: string): { value: unknown; take: () => void } | undefined {
  for (const key of storedKeys()) {
    if (!isOpenElsewhere(key.slice(KEY.length + 1))) continue;
    const { [form]: value, ...rest } = read(key);
    if (value !== undefined) return { value, take: () => write(key, rest) };
  }
  return undefined;
}
