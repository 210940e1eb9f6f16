import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import type { BoardMapView } from "#contract";
import {
  addPlug,
  addScrew,
  checkMap,
  DIE_ID,
  moveThings,
  type Package,
  snapped,
  stampPart,
  thingsOf,
} from "#core/boardmap/index.ts";
import { api } from "../../app/api.ts";
import { usePlanKeys } from "../../parts/board/use-plan-keys.ts";
import { BoardPlan, nextPicked, type PlanDrag, type PlanMarks } from "../../ui/board-plan.tsx";
import { Button } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { MapFiles } from "./files.tsx";
import { LayersPanel } from "./layers.tsx";
import { Palette } from "./palette.tsx";
import { ProposalsOverlay, ProposalsSheet, useProposals } from "./proposals.tsx";
import { Selection } from "./selection.tsx";
import { UnderlayImage, UnderlayPanel } from "./underlay.tsx";
import { type MapEditor, useMapEditor } from "./use-map-editor.ts";

/** The plan of a board model: drawn, corrected, and saved after every step. */
export function BoardMapPage() {
  const { boardId = "" } = useParams();
  const { data, error } = api.useBoardMapQuery(boardId);
  if (!data) return <Page title="Board map">{error ? <FaultNote error={error} /> : <Waiting what="the map" />}</Page>;
  return <Editor key={data.boardModelId} view={data} />;
}

const GRID_MM = 0.5;
const REACH_MM = 0.7;
function Editor({ view }: { view: BoardMapView }) {
  const editor = useMapEditor(view);
  const { map, picked, pick, change } = editor;
  const [side, setSide] = useState<"front" | "back">("front");
  const [armed, setArmed] = useState<Package | null>(null);
  const { refetch } = api.useBoardMapQuery(view.boardModelId);
  const faults = useMemo(() => checkMap(map), [map]);
  const marks = useMemo<PlanMarks>(
    () => Object.fromEntries(faults.map((fault) => [fault.id, { tone: fault.hinders ? "danger" : "amber" }])),
    [faults],
  );
  const drag = useMemo<PlanDrag>(
    () => ({
      snap: (ids, dxMm, dyMm) => snapped(map, ids, dxMm, dyMm, GRID_MM, REACH_MM),
      onDrop: (ids, dxMm, dyMm) => change(moveThings(map, ids, dxMm, dyMm), "Move"),
    }),
    [map, change],
  );
  const proposals = useProposals(editor, view);
  usePlanKeys(editor, side, () => setArmed(null));
  const stamp = (pack: Package, at?: { xMm: number; yMm: number }): void => {
    const added = stampPart(map, pack, at ?? freePlace(editor, pack), side);
    change(added.map, `Stamp ${pack.name}`, { picked: added.ids });
  };
  const empty = thingsOf(map).length === 0;
  return (
    <Page
      wide
      title={`Board map: ${view.boardName}`}
      lead={
        <>
          {map.board.widthMm} × {map.board.heightMm} mm · {map.parts.length} {map.parts.length === 1 ? "part" : "parts"}{" "}
          · {map.screws.length} {map.screws.length === 1 ? "screw" : "screws"} ·{" "}
          <span role="status">{editor.unsaved ? "saving…" : view.version === 0 ? "nothing drawn yet" : "saved"}</span>
        </>
      }
      action={
        <Link to="/boards" className="min-h-11 content-center font-medium text-ice hover:underline">
          All boards
        </Link>
      }
    >
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="min-w-0 space-y-3">
          <div className="flex flex-wrap items-center gap-2">
            <Choice
              label="Side"
              hideLabel
              value={side}
              options={[
                { value: "front", label: "Front" },
                { value: "back", label: "Back, seen through" },
              ]}
              onChange={setSide}
            />
            <Button onClick={editor.undo} disabled={editor.past.length === 0}>
              Undo
            </Button>
            <Button onClick={editor.redo} disabled={editor.future.length === 0}>
              Redo
            </Button>
            <MapFiles editor={editor} view={view} />
          </div>
          <FaultNote fault={editor.fault} />
          {armed && (
            <Note title={`Click on the board to place ${armed.name}`}>
              <button type="button" className="min-h-9 font-semibold text-ice underline" onClick={() => setArmed(null)}>
                Done placing (Escape)
              </button>
            </Note>
          )}
          <BoardPlan
            map={map}
            side={side}
            label={`Plan of ${view.boardName}, ${side}, ${map.parts.length} parts`}
            marks={marks}
            picked={picked}
            drag={drag}
            onPick={(id, add, at) => {
              if (id === null && armed) stamp(armed, at);
              else pick(nextPicked(picked, id, add));
            }}
            underlay={<UnderlayImage view={view} />}
            overlay={<ProposalsOverlay proposals={proposals} heightMm={map.board.heightMm} />}
          />
          <p className="text-sm text-soft" aria-live="polite">
            {picked.length === 0
              ? "Click a part, or step with . and , — arrows move by 0.5 mm (Shift 5, Alt 0.1), R turns, Delete removes, Ctrl+Z takes back."
              : `Picked: ${picked.join(", ")}`}
          </p>
          {empty && (
            <Note title="Draw it in this order">
              Set the board’s size, place the die, the screws around it, then stamp one memory package, make a row of it
              and mirror it. Positions come from a ruler or a photo under the map. Nothing needs to be exact beyond half
              a millimetre.
            </Note>
          )}
          <Faults editor={editor} faults={faults} empty={empty} />
          <UnderlayPanel view={view} />
        </div>
        <div className="space-y-4">
          {view.underlay && <ProposalsSheet proposals={proposals} />}
          <Palette
            editor={editor}
            armed={armed}
            onStamp={(pack) => {
              stamp(pack);
              setArmed(pack);
            }}
            onScrew={() => {
              const added = addScrew(map, { xMm: map.board.widthMm / 2, yMm: map.board.heightMm / 2 });
              change(added.map, "Add a screw", { picked: added.ids });
            }}
            onPlug={() => {
              const added = addPlug(map, { xMm: map.board.widthMm / 2, yMm: 6 });
              change(added.map, "Add a plug", { picked: added.ids });
            }}
          />
          <Selection editor={editor} />
          <LayersPanel editor={editor} />
        </div>
      </div>
      <ConflictDialog
        open={editor.conflict}
        what="board map"
        onKeep={() =>
          void refetch().then(({ data }) => data && editor.resolve({ version: data.version, stored: data.map }, false))
        }
        onTakeOver={() =>
          void refetch().then(({ data }) => data && editor.resolve({ version: data.version, stored: data.map }, true))
        }
      />
    </Page>
  );
}

/** Beside what is picked when that is of the same kind, else left of the die. */
function freePlace({ map, picked }: MapEditor, pack: Package): { xMm: number; yMm: number } {
  const last = map.parts.find((part) => part.id === picked.at(-1));
  if (last && last.kind === pack.kind) return { xMm: last.xMm, yMm: last.yMm - last.heightMm - 2 };
  const centre = map.die ?? { xMm: map.board.widthMm / 2, yMm: map.board.heightMm / 2, widthMm: 0 };
  return { xMm: Math.max(pack.widthMm, centre.xMm - centre.widthMm / 2 - 20 - pack.widthMm / 2), yMm: centre.yMm };
}

const MOST_FAULTS = 6;

function Faults({ editor, faults, empty }: { editor: MapEditor; faults: ReturnType<typeof checkMap>; empty: boolean }) {
  if (empty || faults.length === 0) return null;
  return (
    <Sheet title={faults.length === 1 ? "One thing to mend" : `${faults.length} things to mend`}>
      <ul className="space-y-1">
        {faults.slice(0, MOST_FAULTS).map((fault) => (
          <li key={`${fault.code} ${fault.id}`} className="flex flex-wrap items-center justify-between gap-2">
            <span className={fault.hinders ? "text-danger" : "text-amber"}>{fault.text}</span>
            {thingsOf(editor.map).some((thing) => thing.id === fault.id) && (
              <Button look="quiet" onClick={() => editor.pick([fault.id])}>
                Show {fault.id === DIE_ID ? "the die" : fault.id}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {faults.length > MOST_FAULTS && <p className="text-sm text-soft">and {faults.length - MOST_FAULTS} more</p>}
    </Sheet>
  );
}
