import { FileJson, FileText, Printer, QrCode } from "lucide-react";
import { startTransition, useEffect, useRef, useState } from "react";
import { API, urlOf } from "#contract";
import { handSummary } from "#core/handwork/index.ts";
import { headlineOf, needsReason } from "#core/outcome/index.ts";
import { leadingPair, mountAgain } from "#core/service/index.ts";
import { api } from "../../app/api.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { download } from "../../ui/download.ts";
import { TextField } from "../../ui/field.tsx";
import { Note } from "../../ui/note.tsx";
import { type Paper, usePaper } from "../../ui/paper.ts";
import type { StationProps } from "../station.ts";
import { Choices } from "./choices.tsx";
import { NextSheet } from "./next-sheet.tsx";
import { OwnerPage } from "./owner-page.tsx";
import { Price } from "./price.tsx";
import { standAlone } from "./stand-alone.ts";
import { TechnicianPage } from "./technician-page.tsx";

const PAPERS = [
  { value: "A4", label: "A4" },
  { value: "letter", label: "Letter" },
] as const;
/** As many as leave the record on one page. */
const MOST_PHOTOS = 4;

/** Hand over: a page for the owner, one for the technician, what leaves with the card, and when it is due again. */
export function RecordStation({ cardId, service }: StationProps) {
  const { data: card } = api.useCardQuery(cardId);
  const { data: settings } = api.useSettingsQuery();
  const { data: boards, ...ofBoards } = api.useBoardsQuery();
  const { data: steps, ...ofSteps } = api.useStepsQuery(service.id);
  const { data: handOver, ...ofHandOver } = api.useHandOverQuery(service.id);
  const { data: next, ...ofNext } = api.useNextQuery(service.id);
  const [close, { isLoading }] = api.useCloseMutation();
  const [paper, setPaper] = useState<Paper>("A4");
  const [reason, setReason] = useState("");
  const pages = useRef<HTMLDivElement>(null);
  usePaper(paper);
  // The owner's page is looked at first: the second is drawn when that stands.
  const [isSecond, setSecond] = useState(false);
  useEffect(() => startTransition(() => setSecond(true)), []);
  // What is printed or saved is the whole record, not what of it has come by then.
  const isWhole = isSecond && ![ofBoards, ofSteps, ofHandOver, ofNext].some((one) => one.isLoading);
  if (!card || !settings) return null;
  const limits = boards?.find((board) => board.id === card.boardModelId)?.limits ?? null;
  const judged = leadingPair(service.comparisons);
  const isOpen = service.closedAt === null;
  const asksWhy = isOpen && judged !== undefined && needsReason(judged.outcome);
  const hands = handSummary(steps?.marks ?? [], Date.parse);
  const name = `record-${card.serial || card.model}`.replace(/[^\w-]+/g, "-");
  const photos = handOver?.photos
    ? handOver.photos.flatMap((id) => card.photos.find((photo) => photo.id === id) ?? [])
    : card.photos.slice(0, MOST_PHOTOS);
  const saveHtml = async (): Promise<void> => {
    if (pages.current)
      download(`${name}.html`, await standAlone(pages.current, `${card.maker} ${card.model}`), "text/html");
  };
  return (
    <div className="space-y-4">
      <div className="no-print flex flex-wrap items-end justify-between gap-3">
        <div className="flex flex-wrap items-end gap-4">
          <Choice label="Paper" value={paper} onChange={setPaper} options={PAPERS} />
          <Price key={service.id} id={service.id} price={service.workPrice} currency={settings.currency} />
        </div>
        <div className="flex flex-wrap gap-2">
          <Button disabled={!isWhole} onClick={() => print()}>
            <Printer aria-hidden className="size-5" />
            Print
          </Button>
          <Button disabled={!isWhole} onClick={() => void saveHtml()}>
            <FileText aria-hidden className="size-5" />
            Save as HTML
          </Button>
          <a
            className="inline-flex min-h-11 items-center gap-2 rounded-lg border border-edge bg-sheet px-4 py-2 font-semibold hover:border-ice"
            href={urlOf(API.recordFile, { serviceId: service.id })}
            download={`${name}.json`}
          >
            <FileJson aria-hidden className="size-5" />
            Save as JSON
          </a>
          <LinkButton to={`/labels?cards=${cardId}`}>
            <QrCode aria-hidden className="size-5" />
            Label
          </LinkButton>
          <Button
            look="main"
            disabled={isLoading || (asksWhy && reason.trim().length < 3)}
            onClick={() => {
              void withUndo(isOpen ? "Handed over" : "Opened again", (forth) =>
                close({
                  serviceId: service.id,
                  body: { closed: forth === isOpen, reason: isOpen ? reason : service.closedReason },
                }),
              );
            }}
          >
            {isOpen ? "Hand it over" : "Open it again"}
          </Button>
        </div>
      </div>
      {asksWhy && (
        <div className="no-print space-y-3">
          <Note kind="caution" title={mountAgain(judged.outcome) ?? headlineOf(judged.outcome)}>
            It can go out like this with a reason that stays with the service.
          </Note>
          <TextField
            label="Why it goes out like this"
            value={reason}
            maxLength={500}
            onChange={(event) => setReason(event.target.value)}
          />
        </div>
      )}
      <div className="no-print grid items-start gap-4 lg:grid-cols-2">
        {handOver && <Choices key={service.id} service={service} card={card} handOver={handOver} />}
        {next && <NextSheet key={service.id} serviceId={service.id} next={next} />}
      </div>
      <div ref={pages} className="space-y-4">
        <OwnerPage
          card={card}
          service={service}
          settings={settings}
          limits={limits}
          hands={hands}
          next={next}
          handOver={handOver}
          photos={photos}
        />
        {isSecond && <TechnicianPage card={card} service={service} hands={hands} marks={steps?.marks ?? []} />}
      </div>
    </div>
  );
}
