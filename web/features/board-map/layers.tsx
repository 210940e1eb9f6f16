import { ArrowDown, ArrowUp } from "lucide-react";
import { layerKnown } from "#core/boardmap/index.ts";
import { LAYER_WORDS } from "#core/handwork/index.ts";
import { SelectField } from "../../ui/field.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { MapEditor } from "./use-map-editor.ts";

const THERE = { yes: true, no: false, unknown: null } as const;

/** What the card is taken apart into, the outermost first: their order is the order of Strip. */
export function LayersPanel({ editor: { map, change } }: { editor: MapEditor }) {
  const { layers } = map;
  const swap = (at: number, by: 1 | -1): void => {
    const [one, other] = [layers[at], layers[at + by]];
    if (one && other) change({ ...map, layers: layers.with(at, other).with(at + by, one) }, "Order of layers");
  };
  return (
    <Sheet title="Layers, from outside in">
      <ol className="space-y-1">
        {layers.map(({ id, there }, index) => (
          <li key={id} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 first-letter:uppercase">{LAYER_WORDS[id]}</span>
            {layerKnown({ ...map, layers: [] }, id) ? (
              <span className="text-sm text-soft">has screws or plugs</span>
            ) : (
              <SelectField
                hideLabel
                label={`A layer of its own: ${LAYER_WORDS[id]}`}
                className="w-40"
                value={there === null ? "unknown" : there ? "yes" : "no"}
                onChange={(event) =>
                  change(
                    {
                      ...map,
                      layers: layers.with(index, { id, there: THERE[event.target.value as keyof typeof THERE] }),
                    },
                    "Layers",
                  )
                }
              >
                <option value="unknown">not known yet</option>
                <option value="yes">there</option>
                <option value="no">not there</option>
              </SelectField>
            )}
            {(
              [
                [-1, "Further out", ArrowUp],
                [1, "Further in", ArrowDown],
              ] as const
            ).map(([by, words, Icon]) => (
              <button
                key={words}
                type="button"
                aria-label={`${LAYER_WORDS[id]}: ${words.toLowerCase()}`}
                disabled={!layers[index + by]}
                className="flex size-11 shrink-0 items-center justify-center rounded-lg border border-edge bg-sheet hover:border-ice disabled:opacity-55"
                onClick={() => swap(index, by)}
              >
                <Icon aria-hidden className="size-4" />
              </button>
            ))}
          </li>
        ))}
      </ol>
    </Sheet>
  );
}
