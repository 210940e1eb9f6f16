import { useRef, useState } from "react";
import * as v from "valibot";
import { BoardMapFile, type BoardMapView } from "#contract";
import { Problem, type ProblemDetail } from "#core";
import { type BoardMap, MAP_FORMAT, mapFromShapes, mapToSvg, type Shape } from "#core/boardmap/index.ts";
import { parseLengthMm } from "#core/units/index.ts";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { download } from "../../ui/download.ts";
import { FileInput } from "../../ui/file-input.tsx";
import { Note } from "../../ui/note.tsx";
import type { MapEditor } from "./use-map-editor.ts";

/** In and out: JSON and SVG files, and the map of a similar board. */
export function MapFiles({ editor, view }: { editor: MapEditor; view: BoardMapView }) {
  const input = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  const { data: boards = [] } = api.useBoardsQuery();
  const [read] = api.useLazyBoardMapQuery();
  const name = view.boardName.replace(/[^\w-]+/g, "-");
  const take = (map: BoardMap, what: string): void => {
    setProblem(null);
    editor.change(map, what, { picked: [] });
  };
  const others = boards.filter((board) => board.id !== view.boardModelId);
  return (
    <>
      <Button onClick={() => download(`${name}.json`, JSON.stringify(editor.map, null, 2), "application/json")}>
        Save as JSON
      </Button>
      <Button onClick={() => download(`${name}.svg`, mapToSvg(editor.map), "image/svg+xml")}>Save as SVG</Button>
      <Button onClick={() => input.current?.click()}>Import</Button>
      <FileInput
        ref={input}
        accept=".json,.svg,application/json,image/svg+xml"
        label="Map file"
        onFile={(file) =>
          void file.text().then((text) => {
            try {
              take(file.name.toLowerCase().endsWith(".svg") ? fromSvg(text) : fromJson(text), `Import ${file.name}`);
            } catch (error) {
              if (!(error instanceof Problem)) throw error;
              setProblem({ ...error.detail(), where: file.name });
            }
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
      {problem && (
        <div className="w-full">
          <Note kind="fault" live title={`${problem.where}: ${problem.what}`}>
            {problem.remedy} The map is as it was.
          </Note>
        </div>
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

/** @throws Problem `not-a-map`, `empty-drawing` */
export function fromSvg(text: string): BoardMap {
  const root = new DOMParser().parseFromString(text, "image/svg+xml").documentElement;
  const box = (root.getAttribute("viewBox") ?? "").split(/[\s,]+/).map(Number);
  const width = parseLengthMm(root.getAttribute("width") ?? "");
  if (root.tagName !== "svg" || (box.length !== 4 && width === undefined))
    throw new Problem({
      code: "not-a-map",
      what: "This is not a drawing in SVG with a size.",
      remedy: "Save it with width and height in millimetres.",
    });
  const [, , unitsWide = width ?? 0, unitsHigh = parseLengthMm(root.getAttribute("height") ?? "") ?? 0] = box;
  const shapes = [...root.querySelectorAll("rect, circle")].map(
    (element): Shape => ({
      element: element.tagName === "circle" ? "circle" : "rect",
      attributes: Object.fromEntries(
        element.getAttributeNames().map((name) => [name, element.getAttribute(name) ?? ""]),
      ),
    }),
  );
  const thickness = Number(root.getAttribute("data-thickness-mm"));
  return mapFromShapes(shapes, {
    width: unitsWide,
    height: unitsHigh,
    mmPerUnit: width !== undefined && unitsWide > 0 ? width / unitsWide : 1,
    thicknessMm: thickness > 0 ? thickness : null,
  });
}
