import * as v from "valibot";
import { BoardMapFile, type BoardMapView } from "#contract";
import { Problem } from "#core";
import { type BoardMap, MAP_FORMAT, mapToSvg } from "#core/boardmap/index.ts";
import { api } from "../../app/api.ts";
import { fromSvg } from "../../parts/board/read-svg.ts";
import { Button } from "../../ui/button.tsx";
import { download } from "../../ui/download.ts";
import { ImportFile } from "../../ui/import-file.tsx";
import type { MapEditor } from "./use-map-editor.ts";

/** In and out: JSON and SVG files, and the map of a similar board. */
export function MapFiles({ editor, view }: { editor: MapEditor; view: BoardMapView }) {
  const { data: boards = [] } = api.useBoardsQuery();
  const [read] = api.useLazyBoardMapQuery();
  const name = view.boardName.replace(/[^\w-]+/g, "-");
  const take = (map: BoardMap, what: string): void => {
    editor.change(map, what, { picked: [] });
  };
  const others = boards.filter((board) => board.id !== view.boardModelId);
  return (
    <>
      <Button onClick={() => download(`${name}.json`, JSON.stringify(editor.map, null, 2), "application/json")}>
        Save as JSON
      </Button>
      <Button onClick={() => download(`${name}.svg`, mapToSvg(editor.map), "image/svg+xml")}>Save as SVG</Button>
      <ImportFile
        accept=".json,.svg,application/json,image/svg+xml"
        label="Map file"
        kept="The map is as it was."
        onText={(file, text) =>
          editor.change(file.toLowerCase().endsWith(".svg") ? fromSvg(text) : fromJson(text), `Import ${file}`, {
            picked: [],
          })
        }
      />
      {others.length > 0 && (
        <select
          aria-label="Copy the map of another board"
          className="min-h-11 rounded-lg border border-edge bg-sheet px-3"
          value=""
          onChange={(event) => {
            const id = event.target.value;
            void read(id).then(({ data }) => data && take(data.map, `Copy of ${data.boardName}`));
          }}
        >
          <option value="">Copy from a similar board…</option>
          {others.map((board) => (
            <option key={board.id} value={board.id}>
              {board.name}
            </option>
          ))}
        </select>
      )}
    </>
  );
}

/** @throws Problem `not-a-map`, also for one of a newer version */
export function fromJson(text: string): BoardMap {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new Problem({ code: "not-a-map", what: "This is not JSON.", remedy: "Choose a map saved as JSON or SVG." });
  }
  const found = v.safeParse(BoardMapFile, value);
  if (found.success) return found.output;
  const remedy = "Correct the file and import it again.";
  if ((value as { format?: unknown } | null)?.format !== MAP_FORMAT)
    throw new Problem({ code: "not-a-map", what: "This is not a board map.", remedy: "Choose a map saved here." });
  const [issue] = found.issues;
  const path = v.getDotPath(issue);
  throw new Problem({
    code: "not-a-map",
    what: path && path !== "version" ? `${path}: ${issue.message}` : issue.message,
    remedy,
  });
}
