import { useEffect, useEffectEvent } from "react";
import { type BoardMap, moveThings, removeThings, thingsOf, turnThings } from "#core/boardmap/index.ts";
import { isTyping } from "../../app/keys.ts";
import type { PlanEditor } from "./use-plan-editor.ts";

/** What keys need of an editor. */
export type PlanKeysEditor = Pick<PlanEditor<BoardMap>, "map" | "picked" | "pick" | "change" | "undo" | "redo">;

const NUDGE_MM = 0.5;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** Arrows move what is picked, . and , step, R turns, Delete removes, Ctrl+Z takes back. */
export function usePlanKeys(editor: PlanKeysEditor, side: "front" | "back", onEscape: () => void): void {
  const { map, picked, pick, change } = editor;
  // An event and no closure: a key pressed right after a map came must not act on the one before.
  const onKey = useEffectEvent((event: KeyboardEvent): void => {
    if (isTyping(event.target)) return;
    const arrow = ARROWS[event.key];
    if ((event.ctrlKey || event.metaKey) && /^[zy]$/i.test(event.key)) {
      event.preventDefault();
      if (event.key.toLowerCase() === "y" || event.shiftKey) editor.redo();
      else editor.undo();
    } else if ((event.ctrlKey || event.metaKey) && event.key === "a") {
      event.preventDefault();
      pick(map.parts.filter((part) => part.side === side).map((part) => part.id));
    } else if (arrow && picked.length > 0) {
      if (event.target instanceof Element && event.target.closest("[role=radiogroup]")) return;
      event.preventDefault();
      const step = NUDGE_MM * (event.shiftKey ? 10 : event.altKey ? 0.2 : 1);
      change(moveThings(map, picked, arrow[0] * step, arrow[1] * step), `Nudge ${picked.join(" ")}`, { merge: true });
    } else if (event.key === "." || event.key === ",") {
      const ids = thingsOf(map)
        .filter((thing) => thing.side === side || thing.side === "both")
        .map((thing) => thing.id);
      const at = ids.indexOf(picked.at(-1) ?? "");
      const next = ids.at((at + (event.key === "." ? 1 : at < 0 ? 0 : -1)) % Math.max(1, ids.length));
      if (next) pick([next]);
    } else if (event.key === "r" && picked.length > 0) change(turnThings(map, picked), "Turn");
    else if ((event.key === "Delete" || event.key === "Backspace") && picked.length > 0)
      change(removeThings(map, picked), "Remove", { picked: [] });
    else if (event.key === "Escape") {
      onEscape();
      pick([]);
    }
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => onKey(event);
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, []);
}
