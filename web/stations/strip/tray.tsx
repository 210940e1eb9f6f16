import { useState } from "react";
import { useParams } from "react-router";
import { screwWords } from "#core/boardmap/index.ts";
import { LAYER_WORDS, TRAY_R_MM, traySheets } from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Waiting } from "../../ui/page.tsx";
import { PAPER_MM, type Paper, usePaper } from "../../ui/paper.ts";
import { Ruler } from "../../ui/ruler.tsx";

const MARGIN_MM = 10;

/** A sheet a layer, at true size: every screw is laid on its numbered circle. */
export function TrayPage() {
  const { cardId = "" } = useParams();
  const { data: card, error } = api.useCardQuery(cardId);
  const { data: view, error: mapError } = api.useBoardMapQuery(card?.boardModelId ?? "", {
    skip: !card?.boardModelId,
  });
  const [paper, setPaper] = useState<Paper>("A4");
  usePaper(paper, { marginMm: MARGIN_MM, landscape: true });
  if (!card || (card.boardModelId && !view))
    return (
      <Page title="Tray sheet">
        {error || mapError ? <FaultNote error={error ?? mapError} /> : <Waiting what="the map" />}
      </Page>
    );
  const sheets = view ? traySheets(view.map) : [];
  const widthMm = view?.map.board.widthMm ?? 0;
  const roomMm = PAPER_MM[paper][0] - 2 * MARGIN_MM;
  const scale = Math.min(1, roomMm / Math.max(1, widthMm));
  const total = sheets.reduce((sum, { places }) => sum + places.length, 0);
  return (
    <Page
      title="Tray sheet"
      lead={`${card.maker} ${card.model}${view ? `, ${view.boardName}` : ""} · ${total} ${total === 1 ? "screw" : "screws"}`}
      action={
        <span className="no-print flex flex-wrap items-end gap-2">
          <LinkButton to={`/cards/${cardId}/strip`}>Back to Strip</LinkButton>
          <Choice
            label="Paper"
            hideLabel
            value={paper}
            options={[
              { value: "A4", label: "A4" },
              { value: "letter", label: "Letter" },
            ]}
            onChange={setPaper}
          />
          <Button look="main" onClick={() => print()}>
            Print
          </Button>
        </span>
      }
    >
      {sheets.length === 0 ? (
        <Note title="No screw of this board is known yet">
          Strip the first card with a cup for each layer: what is learnt then is on the sheet of the next one.
        </Note>
      ) : (
        <>
          <div className="no-print mb-4">
            <Note
              title={
                scale < 1
                  ? `The board is wider than the paper: drawn at ${Math.floor(100 * scale)} %`
                  : "Print at 100 %, without “fit to page”"
              }
            >
              {scale < 1
                ? "Circles stay in their order."
                : "Lay a real ruler on the printed one: its 100 mm must be 100 mm."}
            </Note>
          </div>
          {sheets.map(({ layer, map, places }) => (
            <section
              key={layer}
              className="mb-6 break-after-page last:break-after-auto"
              aria-label={LAYER_WORDS[layer]}
            >
              <h2 className="text-xl font-bold first-letter:uppercase">
                {LAYER_WORDS[layer]}: {places.length} {places.length === 1 ? "screw" : "screws"}
              </h2>
              <div className="relative overflow-x-auto print:overflow-visible">
                <svg
                  role="img"
                  aria-label={`Tray for the ${LAYER_WORDS[layer]} at true size`}
                  width={`${map.board.widthMm * scale}mm`}
                  height={`${map.board.heightMm * scale}mm`}
                  viewBox={`0 0 ${map.board.widthMm} ${map.board.heightMm}`}
                  className="block max-w-none"
                >
                  <rect
                    x={0.2}
                    y={0.2}
                    width={map.board.widthMm - 0.4}
                    height={map.board.heightMm - 0.4}
                    fill="none"
                    stroke="var(--edge)"
                    strokeWidth={0.4}
                  />
                  {map.die && (
                    <rect
                      x={map.die.xMm - map.die.widthMm / 2}
                      y={map.board.heightMm - map.die.yMm - map.die.heightMm / 2}
                      width={map.die.widthMm}
                      height={map.die.heightMm}
                      fill="none"
                      stroke="var(--edge)"
                      strokeWidth={0.3}
                      strokeDasharray="2 1"
                    />
                  )}
                  {places.map(({ screw, xMm, yMm, fromXMm, fromYMm }) => (
                    <g key={screw.id}>
                      <path
                        d={`M${fromXMm} ${map.board.heightMm - fromYMm}L${xMm} ${map.board.heightMm - yMm}`}
                        stroke="var(--edge)"
                        strokeWidth={0.3}
                      />
                      <circle
                        cx={xMm}
                        cy={map.board.heightMm - yMm}
                        r={TRAY_R_MM}
                        fill="var(--sheet)"
                        stroke="var(--ink)"
                        strokeWidth={0.4}
                      />
                      <text
                        x={xMm}
                        y={map.board.heightMm - yMm + 1.4}
                        fontSize={4}
                        fontWeight={700}
                        textAnchor="middle"
                        fill="var(--ink)"
                      >
                        {screw.id}
                      </text>
                    </g>
                  ))}
                </svg>
              </div>
              <ul className="mt-2 grid grid-cols-2 gap-x-6 text-sm sm:grid-cols-3 print:grid-cols-3">
                {places.map(({ screw }) => (
                  <li key={screw.id}>
                    <strong>{screw.id}</strong> {screwWords(screw)}
                  </li>
                ))}
              </ul>
              <div className="relative mt-2 overflow-x-auto print:overflow-visible">
                <Ruler />
              </div>
            </section>
          ))}
        </>
      )}
    </Page>
  );
}
