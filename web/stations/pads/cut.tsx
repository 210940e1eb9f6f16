import { useMemo, useState } from "react";
import { Link } from "react-router";
import { toast } from "sonner";
import type { PadJob, PadPlanInput } from "#contract";
import type { ProblemDetail } from "#core";
import { cutLines } from "#core/cutting/index.ts";
import { type PadPiece, piecesOf, spreadOf } from "#core/padplan/index.ts";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { cuttingTask, drawingOf, isStale, keptPlan } from "../../parts/pads/cutting.ts";
import { padMaterials } from "../../parts/pads/stock.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { Caution } from "../../ui/caution.tsx";
import { download } from "../../ui/download.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet, Waiting } from "../../ui/page.tsx";
import { Working } from "../../ui/working.tsx";
import { BROKEN, usePadSession } from "../../workers/use-pad-session.ts";
import { BuyList } from "./buy-list.tsx";
import { cutWords } from "./cut-marks.ts";
import { SheetView } from "./sheet-view.tsx";
import { Spread } from "./spread.tsx";
import type { PadStepProps } from "./step-props.ts";

const SEARCH_S = 2;

function PieceTable({ pieces, nameOf }: { pieces: PadPiece[]; nameOf: (materialId: string) => string }) {
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full min-w-[34rem] text-left">
        <thead className="text-sm text-soft">
          <tr>
            <th className="py-1 pr-3 font-medium">Piece</th>
            <th className="pr-3 font-medium">Size (mm)</th>
            <th className="pr-3 font-medium">Pad</th>
            <th className="pr-3 font-medium">How many</th>
            <th className="font-medium">For</th>
          </tr>
        </thead>
        <tbody>
          {pieces.map((piece) => (
            <tr key={piece.id} className="border-t border-line align-baseline">
              <td className="py-1.5 pr-3 font-bold">{piece.id}</td>
              <td className="pr-3">
                {piece.widthMm} × {piece.heightMm}
                {piece.notches.length > 0 && <span className="block text-sm text-soft">notched for a screw</span>}
              </td>
              <td className="pr-3">
                {piece.thicknessMm} mm, {nameOf(piece.materialId)}
              </td>
              <td className="pr-3">
                {piece.quantity}
                {piece.spares > 0 && (
                  <span className="text-sm text-soft">
                    {" "}
                    with {piece.spares} {piece.spares === 1 ? "spare" : "spares"}
                  </span>
                )}
              </td>
              <td className="text-sm">{piece.forParts.join(", ")}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

type Rules = PadPlanInput["rules"];

function CutRules({ rules, onRules }: { rules: Rules; onRules: (rules: Rules) => void }) {
  return (
    <div className="mt-3 grid max-w-2xl grid-cols-1 gap-3 sm:grid-cols-3">
      <NumberField
        label="Larger on every side"
        unit="mm"
        value={rules.marginMm}
        least={-2}
        most={5}
        onValue={(value) => onRules({ ...rules, marginMm: value ?? 0 })}
      />
      <NumberField
        label="Clear of screw holes"
        unit="mm"
        value={rules.clearMm}
        least={0}
        most={5}
        onValue={(value) => onRules({ ...rules, clearMm: value ?? 0 })}
      />
      <NumberField
        label="One spare for every … pieces"
        unit=""
        value={rules.spareEvery}
        least={0}
        most={1000}
        hint="0 for none"
        onValue={(value) => onRules({ ...rules, spareEvery: Math.round(value ?? 0) })}
      />
    </div>
  );
}

/** Pieces of the chosen pads, planned on the sheets there are and can be bought, and ticked off as they are cut. */
export function CutPads({ job, map, plan, cardId }: PadStepProps) {
  const { data: stores } = api.useStoresQuery();
  const { data: settings } = api.useSettingsQuery();
  const remote = usePadSession();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  const { rules, picks, cutting } = plan.plan;
  const pieces = useMemo(
    () => (stores ? piecesOf(map, picks, padMaterials(stores), rules) : []),
    [map, picks, stores, rules],
  );
  if (!stores) return <Waiting what="the stores" />;
  const nameOf = (id: string): string => stores.materials.find((one) => one.id === id)?.name ?? "";
  const begun = cutting?.sheets.some((sheet) => sheet.booked || sheet.pieces.some((piece) => piece.cut)) ?? false;
  const compute = async (): Promise<void> => {
    if (!remote) return;
    setBusy(true);
    const answer = await remote.cut(cuttingTask(pieces, stores), SEARCH_S).catch(() => ({ problem: BROKEN }));
    setBusy(false);
    setProblem("problem" in answer ? answer.problem : null);
    if ("ok" in answer) plan.change({ cutting: keptPlan(answer.ok, pieces, stores) });
  };
  const spread = (
    <Spread amounts={spreadOf(map, picks, padMaterials(stores))} stores={stores} serviceId={job.serviceId} />
  );
  if (pieces.length === 0)
    return (
      <div className="space-y-4">
        <Note title="Nothing to cut yet">
          Choose pads under{" "}
          <Link className="font-semibold text-ice underline" to="?do=choose">
            Will the die seat?
          </Link>{" "}
          first. Putty and paste need no cutting.
        </Note>
        {spread}
      </div>
    );
  return (
    <div className="space-y-4">
      <Sheet
        title={`${pieces.reduce((sum, piece) => sum + piece.quantity, 0)} pieces of ${pieces.length} ${pieces.length === 1 ? "shape" : "shapes"}`}
      >
        <PieceTable pieces={pieces} nameOf={nameOf} />
        <CutRules rules={rules} onRules={(next) => plan.change({ rules: next })} />
        <div className="mt-3 flex flex-wrap items-center gap-3">
          <Button look={cutting ? "plain" : "main"} disabled={busy || !remote || begun} onClick={() => void compute()}>
            {busy ? "Planning…" : cutting ? "Plan again" : "Plan the cutting"}
          </Button>
          {begun && <span className="text-sm text-soft">Pieces are cut already: the plan stays as it is.</span>}
        </div>
        {problem && (
          <Note kind="fault" live title={problem.what}>
            {problem.remedy}
          </Note>
        )}
      </Sheet>
      {spread}
      {cutting && (
        <>
          {isStale(cutting, pieces) && (
            <Note kind="caution" title="The pads were changed after this plan was made">
              {begun ? "Take bookings and ticks back, then plan again." : "Plan again."}
            </Note>
          )}
          <PlanSummary cutting={cutting} pieces={pieces} stores={stores} currency={settings?.currency ?? ""} />
          <Caution of="blade" />
          <div className="grid gap-4 lg:grid-cols-2">
            {cutting.sheets.map((sheet, index) => (
              <CutSheet
                key={`${sheet.sourceId} ${sheet.pieces.map((piece) => `${piece.pieceId}${piece.xMm}`).join()}`}
                job={job}
                plan={plan}
                index={index}
                name={nameOf(sheet.materialId)}
              />
            ))}
          </div>
          {cutting.sheets.length > 0 && (
            <div className="flex flex-wrap gap-2">
              <LinkButton to={`/cards/${cardId}/pad-sheets`} look="main">
                Print at true size
              </LinkButton>
            </div>
          )}
          <BuyList cutting={cutting} pieces={pieces} stores={stores} currency={settings?.currency ?? ""} />
          <Caution of="placePads" />
        </>
      )}
    </div>
  );
}

function PlanSummary({
  cutting,
  pieces,
  stores,
  currency,
}: {
  cutting: NonNullable<PadPlanInput["cutting"]>;
  pieces: PadPiece[];
  stores: { lots: ReadonlyArray<{ widthMm: number | null }>; offers: ReadonlyArray<{ widthMm: number | null }> };
  currency: string;
}) {
  const bought = cutting.sheets.filter((sheet) => sheet.from === "offer").length;
  const over = cutting.cost - cutting.lowerBoundCost;
  const none = stores.lots.every((lot) => lot.widthMm === null) && stores.offers.every((one) => one.widthMm === null);
  return (
    <Sheet title="The plan">
      <p className="text-xl font-bold">
        {cutting.sheets.length} {cutting.sheets.length === 1 ? "sheet" : "sheets"},{" "}
        {bought === 0 ? "nothing to buy" : `${bought} to buy for ${cutting.cost.toFixed(2)} ${currency}`}
      </p>
      {cutting.cost > 0 && (
        <p className="text-soft">
          {over < 0.005
            ? "No plan can be cheaper."
            : `No plan can be cheaper than ${cutting.lowerBoundCost.toFixed(2)} ${currency}; whether one of less than this exists is not proven.`}
        </p>
      )}
      {cutting.unplaced.map(({ pieceId, quantity }) => {
        const piece = pieces.find((one) => one.id === pieceId);
        return (
          <div key={pieceId} className="mt-2">
            <Note
              kind="fault"
              title={`${quantity} of ${pieceId}${piece ? ` (${piece.widthMm} × ${piece.heightMm} mm, ${piece.thicknessMm} mm thick)` : ""} found no sheet`}
            >
              {none
                ? "The stores have no sheet with a size: add one, or a line to the price list."
                : "No sheet of this material and thickness is large enough, or the stock runs out. Add one to the price list, or choose another pad."}
            </Note>
          </div>
        );
      })}
      <Working title="How is this planned">
        <p>
          Pieces are turned and laid so that every cut goes from edge to edge; plans are tried for {SEARCH_S} s.
          Left-overs of earlier cards come first, then whole sheets, then what has to be bought; at equal cost the
          largest left-over is kept whole. The bound is what straight cuts could at best get out of every sheet, raised
          to what whole sheets cost.
        </p>
      </Working>
    </Sheet>
  );
}

function CutSheet({
  job,
  plan,
  index,
  name,
}: {
  job: PadJob;
  plan: PadStepProps["plan"];
  index: number;
  name: string;
}) {
  const { cutting } = plan.plan;
  const sheet = cutting?.sheets[index];
  const [book, { error, isLoading }] = api.useBookSheetMutation();
  const cuts = useMemo(() => (sheet ? cutLines(sheet, sheet.pieces).cuts : []), [sheet]);
  if (!cutting || !sheet) return null;
  const title = `Sheet ${index + 1}: ${sheet.thicknessMm} mm, ${name}`;
  const done = sheet.pieces.filter((piece) => piece.cut).length;
  const tick = (which: (piece: number) => boolean, cut: boolean): void =>
    plan.change({
      cutting: {
        ...cutting,
        sheets: cutting.sheets.map((one, at) =>
          at === index
            ? { ...one, pieces: one.pieces.map((piece, place) => (which(place) ? { ...piece, cut } : piece)) }
            : one,
        ),
      },
    });
  const setBooked = async (booked: boolean): Promise<void> => {
    // What was ticked just now goes first, so that the booking's answer holds it.
    const version = await plan.settled();
    if (version === undefined) return;
    const answer = await book({ serviceId: job.serviceId, body: { sheet: index, booked, version } });
    if ("error" in answer) {
      const code = faultOf(answer.error)?.code;
      if (code === "not-enough") toast("The stock has changed: plan again.");
      if (code === "changed-elsewhere") plan.showConflict();
      return;
    }
    if (answer.data) plan.adopt(answer.data);
    toast(booked ? "Booked; left-overs are in the stock" : "Booking taken back");
  };
  const file = `${job.boardName}-sheet-${index + 1}`.replace(/[^\w-]+/g, "-");
  const save = async (kind: "svg" | "dxf"): Promise<void> => {
    const { sheetToDxf, sheetToSvg } = await import("#core/drawing/index.ts");
    if (kind === "svg") download(`${file}.svg`, sheetToSvg(drawingOf(sheet)), "image/svg+xml");
    else download(`${file}.dxf`, sheetToDxf(drawingOf(sheet)), "image/vnd.dxf");
  };
  const kinds = [...new Set(sheet.pieces.map((piece) => piece.pieceId))];
  return (
    <Sheet
      title={title}
      action={
        <span className="text-sm text-soft">
          {sheet.widthMm} × {sheet.heightMm} mm, {sheet.from === "lot" ? "from stock" : "to buy"}
        </span>
      }
    >
      <SheetView sheet={sheet} cuts={cuts} label={`${title}, ${sheet.pieces.length} pieces`} />
      <div className="mt-2 flex flex-wrap gap-1">
        {kinds.map((id) => {
          const places = sheet.pieces.flatMap((piece, at) => (piece.pieceId === id ? [at] : []));
          const cut = places.filter((at) => sheet.pieces[at]?.cut).length;
          const next = places.find((at) => !sheet.pieces[at]?.cut);
          return (
            <Button
              key={id}
              aria-label={`Tick one ${id}, ${cut} of ${places.length} cut`}
              disabled={next === undefined || sheet.booked}
              onClick={() => tick((at) => at === next, true)}
            >
              {id}: {cut} of {places.length} cut
            </Button>
          );
        })}
        {done < sheet.pieces.length && !sheet.booked && (
          <Button look="quiet" onClick={() => tick(() => true, true)}>
            Tick all
          </Button>
        )}
        {done > 0 && !sheet.booked && (
          <Button look="quiet" onClick={() => tick(() => true, false)}>
            Untick all
          </Button>
        )}
      </div>
      <p className="mt-2 text-sm text-soft">
        {cuts.length} cuts in the order of their numbers.{" "}
        {sheet.leftOvers[0]
          ? `Largest left-over ${sheet.leftOvers[0].widthMm.toFixed(0)} × ${sheet.leftOvers[0].heightMm.toFixed(0)} mm.`
          : "Nothing is left over."}
      </p>
      <Working title="Cut by cut">
        <ol className="list-decimal pl-6">
          {cuts.map((cut) => (
            <li key={`${cut.x0Mm} ${cut.y0Mm} ${cut.x1Mm} ${cut.y1Mm}`}>{cutWords(cut)}</li>
          ))}
        </ol>
        <p>
          Lay the ruler on the whole sheet before each cut, or mark all lines first: parts move once they are cut off.
        </p>
      </Working>
      <FaultNote error={error} />
      <div className="mt-2 flex flex-wrap gap-2">
        {sheet.booked ? (
          <Button disabled={isLoading} onClick={() => void setBooked(false)}>
            Take the booking back
          </Button>
        ) : (
          <Button
            look={done === sheet.pieces.length ? "main" : "plain"}
            disabled={isLoading || done === 0}
            onClick={() => void setBooked(true)}
          >
            Cut: book it, keep the left-overs
          </Button>
        )}
        <Button onClick={() => void save("svg")}>SVG</Button>
        <Button onClick={() => void save("dxf")}>DXF</Button>
      </div>
    </Sheet>
  );
}
