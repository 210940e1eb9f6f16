import { useEffectEvent, useLayoutEffect } from "react";

/** Keys work anywhere but where something is typed. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** The keys of the application, for the help as for the handler. */
export const KEYS: ReadonlyArray<readonly [keys: string, meaning: string]> = [
  ["g b", "Go to the Bench"],
  ["g c", "Go to the cards"],
  ["g o", "Go to the boards"],
  ["g f", "Go to the findings"],
  ["g s", "Go to the stores"],
  ["g w", "Go to the workshop"],
  ["a", "On the Bench: to the list of all cards in work"],
  [". and , on a plan", "Next and previous step"],
  ["arrows, Delete", "On a step of the plan: hold it 15 min earlier or later (with Shift an hour), let it go"],
  ["n", "Take in a card"],
  ["g t", "Go to the test bench"],
  ["m", "On a card, at any station, or a live run: take a reading"],
  ["[ and ]", "Previous and next station"],
  ["/", "Find a card; Enter opens the first that is found"],
  ["Escape", "Leave a field"],
  ["?", "Show these keys"],
  ["space, a pedal, Backspace", "In steps: done, and back"],
  ["p, x, l, 1 to 9", "In steps: photo, this one is different, all steps, choose"],
  ["arrows, + and −, 0", "In a chart: move, zoom, show all"],
  ["arrows on a board map", "Move what is picked by 0.5 mm; with Shift 5, with Alt 0.1"],
  [". and ,", "On a board map: next and previous part"],
  ["R, Delete, Ctrl+Z", "On a board map: turn, remove, take back"],
  ["arrows on a window edge", "Move the edge of the steady window; with Shift ten times as far"],
];

/** Escape leaves a field, so that keys work again; what is typed in it stays. */
function leaveOn(event: KeyboardEvent): void {
  if (event.key !== "Escape" || !(event.target instanceof HTMLElement)) return;
  // A field for searching would be emptied.
  if (event.target.getAttribute("type") === "search") event.preventDefault();
  event.target.blur();
}

/** What lies over the page and takes all keys. */
const MODAL = "[role=dialog][aria-modal=true]";

/**
 * Calls `onKey` for every key pressed outside of fields and without a modifier.
 * @param where of the page: not while a dialog lies over it; of a dialog: while it is there
 */
export function useKeys(onKey: (key: string, event: KeyboardEvent) => void, where: "page" | "dialog" = "page"): void {
  const press = useEffectEvent(onKey);
  // With the page itself, not after it was painted: a quick hand is there by then.
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (isTyping(event.target)) return leaveOn(event);
      if (where === "page" && document.querySelector(MODAL)) return;
      press(event.key, event);
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, [where]);
}
