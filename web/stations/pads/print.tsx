import { useParams } from "react-router";
import { cutLines } from "#core/cutting/index.ts";
import { api } from "../../app/api.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Waiting } from "../../ui/page.tsx";
import { Ruler } from "../../ui/ruler.tsx";
import { SheetView } from "./sheet-view.tsx";

/** A4 less its margins. */
const PAPER_MM = 190;

/** Cutting sheets at their true size on paper, with a ruler that shows whether the printer kept it. */
export function PadSheetsPage() {
  const { cardId = "" } = useParams();
  const { data: card, error } = api.useCardQuery(cardId);
  const { data: job, error: jobError } = api.usePadsQuery(card?.serviceId ?? "", { skip: !card });
  const { data: stores } = api.useStoresQuery();
  if (!card || !job || !stores)
    return (
      <Page title="Cutting sheets">
        {error || jobError ? <FaultNote error={error ?? jobError} /> : <Waiting what="the sheets" />}
      </Page>
    );
  const sheets = job.plan.cutting?.sheets ?? [];
  return (
    <Page
      title="Cutting sheets"
      lead={`${card.maker} ${card.model}, ${job.boardName}`}
      action={
        <span className="no-print flex gap-2">
          <LinkButton to={`/cards/${cardId}/pads?do=cut`}>Back to the plan</LinkButton>
          <Button look="main" onClick={() => print()}>
            Print
          </Button>
        </span>
      }
    >
      <div className="no-print mb-4">
        <Note title="Print at 100 %, without “fit to page”">
          Lay a real ruler on the printed one first. If its 100 mm are not 100 mm, the pieces will be wrong by as much.
        </Note>
      </div>
      <div className="relative overflow-x-auto print:overflow-visible">
        <Ruler />
      </div>
      {sheets.length === 0 && <p>No cutting plan yet.</p>}
      {sheets.map((sheet, index) => (
        <section
          key={`${sheet.sourceId} ${sheet.pieces[0]?.pieceId} ${sheet.pieces.length}`}
          className="mt-4 break-inside-avoid"
        >
          <h2 className="font-semibold">
            Sheet {index + 1}: {sheet.thicknessMm} mm,{" "}
            {stores.materials.find((one) => one.id === sheet.materialId)?.name ?? "pad"}, {sheet.widthMm} ×{" "}
            {sheet.heightMm} mm
          </h2>
          {sheet.widthMm > PAPER_MM && (
            <p className="no-print text-amber">
              Wider than A4: print it sideways or on larger paper, or take the SVG file.
            </p>
          )}
          <div className="relative overflow-x-auto print:overflow-visible">
            <SheetView
              sheet={sheet}
              cuts={cutLines(sheet, sheet.pieces).cuts}
              label={`Sheet ${index + 1} at true size`}
              trueSize
            />
          </div>
        </section>
      ))}
    </Page>
  );
}
