import { nanoid } from "@reduxjs/toolkit";

/** A window keeps its name over a reload. */
const NAME = "algidus-window";
const lockOf = (name: string): string => `algidus window ${name}`;

let own = "only";
let living: ReadonlySet<string> = new Set();

/** The name of this window, unlike that of every other window that is open in this browser. */
export const ownWindow = (): string => own;
/** Whether a window of that name was open in this browser when that was last asked. */
export const isOpenElsewhere = (name: string): boolean => name !== own && living.has(name);

/** Looks which windows are open now. Where the browser has no locks (plain HTTP from another machine) each counts as the only one. */
export async function lookAtWindows(): Promise<void> {
  if (!("locks" in navigator)) return;
  const { held = [] } = await navigator.locks.query();
  living = new Set(
    held.flatMap(({ name = "" }) => (name.startsWith(lockOf("")) ? [name.slice(lockOf("").length)] : [])),
  );
}

/** Takes this window's name, a new one where it was opened as a copy of another; to be done before anything is read that was stored. */
export async function beginWindow(): Promise<void> {
  if (!("locks" in navigator)) return;
  own = sessionStorage.getItem(NAME) ?? nanoid();
  while (!(await hold(lockOf(own)))) own = nanoid();
  sessionStorage.setItem(NAME, own);
  await lookAtWindows();
}

/** The page before this one in the same window may take a moment to let go of its name. */
const LET_GO_MS = 1000;

/** Holds a lock for as long as the window is open; false where another has it. */
const hold = (name: string): Promise<boolean> =>
  new Promise((resolve) => {
    navigator.locks
      .request(name, { signal: AbortSignal.timeout(LET_GO_MS) }, () => {
        resolve(true);
        return new Promise(() => undefined);
      })
      .catch(() => resolve(false));
  });
