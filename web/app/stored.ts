const KEY = "algidus-drafts";

/** What was typed in this browser and is not saved: by form. Empty where the browser's store is damaged or forbidden. */
export function readStored(): Record<string, unknown> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "{}") as Record<string, unknown>;
  } catch {
    return {};
  }
}

/** Writes what changed, undefined for what goes; the other windows' drafts stay as they are. */
export function storeChanges(changes: Record<string, unknown>): void {
  if (Object.keys(changes).length === 0) return;
  const all = readStored();
  for (const [form, value] of Object.entries(changes)) {
    if (value === undefined) delete all[form];
    else all[form] = value;
  }
  try {
    localStorage.setItem(KEY, JSON.stringify(all));
  } catch {
    // A full or forbidden store only means that drafts end with the page.
  }
}
