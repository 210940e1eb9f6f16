import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import type { CoolerView } from "#contract";
import { moveThings, snapped } from "#core/boardmap/index.ts";
import { type Cooler, coolerToSvg, turnedOverCooler, withPlan } from "#core/coolers/index.ts";
import { api } from "../../app/api.ts";
import { usePlanKeys } from "../../parts/board/use-plan-keys.ts";
import { FinFields } from "../../parts/cooler/fin-fields.tsx";
import { coolerMarks } from "../../parts/cooler/marks.ts";
import { BoardPlan, nextPicked, type PlanDrag } from "../../ui/board-plan.tsx";
import { Button } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { download } from "../../ui/download.ts";
import { ImportFile } from "../../ui/import-file.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { CoolerFigures } from "./figures.tsx";
import { coolerFromFile } from "./files.ts";
import { FinsOverlay } from "./fins-overlay.tsx";
import { CoolerPalette } from "./palette.tsx";
import { CoolerSelection } from "./selection.tsx";
import { TryOnBoard } from "./try-on-board.tsx";
import { planSide, useCoolerEditor } from "./use-cooler-editor.ts";

/** One cooler: drawn, measured, and saved after every step. */
export function CoolerPage() {
  const { coolerId = "" } = useParams();
  const { data, error } = api.useCoolerQuery(coolerId);
  if (!data) return <Page title="Cooler">{error ? <FaultNote error={error} /> : <Waiting what="the cooler" />}</Page>;
  return <Editor key={data.id} view={data} />;
}

const GRID_MM = 0.5;
const REACH_MM = 0.7;

function Editor({ view }: { view: CoolerView }) {
  const editor = useCoolerEditor(view);
  const { map: cooler, picked, pick, change } = editor;
  const plan = planSide(editor);
  const { refetch } = api.useCoolerQuery(view.id);
  const marks = useMemo(() => coolerMarks(cooler), [cooler]);
  /** While something is dragged: the board it is tried on answers at once. */
  const [moved, setMoved] = useState<Cooler | null>(null);
  const drag: PlanDrag = {
    snap: (ids, dxMm, dyMm) => snapped(plan.map, ids, dxMm, dyMm, GRID_MM, REACH_MM),
    onMove: (ids, dxMm, dyMm) => setMoved(withPlan(cooler, moveThings(plan.map, ids, dxMm, dyMm))),
    onDrop: (ids, dxMm, dyMm) => {
      setMoved(null);
      plan.change(moveThings(plan.map, ids, dxMm, dyMm), "Move");
    },
    onCancel: () => setMoved(null),
  };
  usePlanKeys(plan, "front", () => undefined);
  const file = cooler.name.replace(/[^\w-]+/g, "-");
  const resolve = (keepMine: boolean) =>
    void refetch().then(({ data }) => data && editor.resolve({ version: data.version, stored: data.cooler }, keepMine));
  return (
    <Page
      wide
      title={cooler.name}
      lead={
        <>
          {count(cooler)} · <span role="status">{editor.unsaved ? "saving…" : "saved"}</span>
        </>
      }
      action={
        <Link to="/coolers" className="min-h-11 content-center font-medium text-ice hover:underline">
          All coolers
        </Link>
      }
    >
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="min-w-0 space-y-3">
          <div className="flex flex-wrap items-center gap-2">
            <Button onClick={editor.undo} disabled={editor.past.length === 0}>
              Undo
            </Button>
            <Button onClick={editor.redo} disabled={editor.future.length === 0}>
              Redo
            </Button>
            {!cooler.fins && <Button onClick={() => change(turnedOverCooler(cooler), "Turn over")}>Turn over</Button>}
            <Button onClick={() => download(`${file}.json`, JSON.stringify(cooler, null, 2), "application/json")}>
              Save as JSON
            </Button>
            <Button onClick={() => download(`${file}.svg`, coolerToSvg(cooler), "image/svg+xml")}>Save as SVG</Button>
            <ImportFile
              accept=".json,.svg,application/json,image/svg+xml"
              label="Cooler file"
              kept="The cooler is as it was."
              onText={(name, text) =>
                change({ ...coolerFromFile(name, text), name: cooler.name }, `Import ${name}`, { picked: [] })
              }
            />
          </div>
          <FaultNote fault={editor.fault} />
          <BoardPlan
            map={plan.map}
            side="front"
            label={`Plan of ${cooler.name}, seen through it from above, ${count(cooler)}`}
            marks={marks}
            picked={picked}
            drag={drag}
            overlay={<FinsOverlay cooler={cooler} plan={plan.map} />}
            onPick={(id, add) => pick(nextPicked(picked, id, add))}
          />
          <p className="text-sm text-soft" aria-live="polite">
            {cooler.fins
              ? "To scale: from above, and from the ends of its fins."
              : picked.length === 0
                ? "Seen through it from above: it lies on the board as it is drawn. Click a part, or step with . and , — arrows move by 0.5 mm (Shift 5, Alt 0.1), R turns, Delete removes, Ctrl+Z takes back."
                : `Picked: ${picked.map((id) => (id === "die" ? "plate" : id)).join(", ")}`}
          </p>
          {!cooler.fins && !cooler.plate && (
            <Note kind="caution" title="It has no plate yet">
              Without the face that lies on the die it can’t be fitted to a board: add the plate first.
            </Note>
          )}
          {!cooler.fins && <TryOnBoard cooler={moved ?? cooler} />}
          <CoolerFigures editor={editor} coolerId={view.id} />
        </div>
        <div className="space-y-4">
          {cooler.fins ? (
            <Sheet title="The heatsink">
              <div className="grid grid-cols-2 items-end gap-2">
                <FinFields fins={cooler.fins} onFins={(fins) => change({ ...cooler, fins }, "Change the fins")} />
              </div>
              <p className="mt-2 text-sm text-soft">
                Put on a chip, with its joint and its air, on the page of a card’s cooler.
              </p>
            </Sheet>
          ) : (
            <>
              <CoolerPalette editor={editor} />
              <CoolerSelection editor={editor} />
            </>
          )}
        </div>
      </div>
      <ConflictDialog
        open={editor.conflict}
        what="cooler"
        onKeep={() => resolve(false)}
        onTakeOver={() => resolve(true)}
      />
    </Page>
  );
}

const many = (count: number, what: string): string => `${count} ${count === 1 ? what : `${what}s`}`;
const count = ({ faces, posts, fans, fins }: Cooler): string =>
  (fins
    ? [many(fins.count, "fin")]
    : [many(posts.length, "post"), many(faces.length, "face"), many(fans.length, "fan")]
  ).join(" · ");
