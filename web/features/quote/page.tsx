import { useState } from "react";
import { Link, useParams } from "react-router";
import { CHOICES, type Quote, type QuoteView } from "#contract";
import { earned, type OfferedWork, priceTask, quieterBy } from "#core/quote/index.ts";
import { api } from "../../app/api.ts";
import type { Change, Kept } from "../../app/document.ts";
import { Button } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { figure, momentFormat, widthOf } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { asAmount, asUnits, moneyWords } from "./money.ts";
import { storedQuote, useKeptQuote } from "./use-quote.ts";

const labelOf = (work: OfferedWork): string => CHOICES.find(({ id }) => id === work)?.label ?? work;

/** What work on a card costs and brings, option by option; what its owner accepted; what it came to. */
export function QuotePage() {
  const { cardId = "" } = useParams();
  const { data: card, error } = api.useCardQuery(cardId);
  const serviceId = card?.serviceId ?? "";
  const { data: view, error: quoteError } = api.useQuoteQuery(serviceId, { skip: serviceId === "" });
  if (!card || !view)
    return (
      <Page title="Quote">
        {error || quoteError ? <FaultNote error={error ?? quoteError} /> : <Waiting what="the quote" />}
      </Page>
    );
  const { worthUnits, quote } = view;
  return (
    <Page
      wide
      title={`Quote · ${card.maker} ${card.model}`}
      lead={
        <>
          {card.serial}
          {card.ownerName && ` · ${card.ownerName}`}
          {worthUnits !== null && ` · worth ${moneyWords(worthUnits, quote)}`}
        </>
      }
      action={
        <div className="no-print flex flex-wrap items-center gap-2">
          <Link
            to={`/cards/${cardId}/decide`}
            className="min-h-11 content-center px-2 font-medium text-ice hover:underline"
          >
            To Decide
          </Link>
          <Button onClick={() => print()}>Print it</Button>
        </div>
      }
    >
      <Options view={view} />
    </Page>
  );
}

function Options({ view: stored }: { view: QuoteView }) {
  const { value: quote, change: keep, ...kept } = useKeptQuote(stored);
  const view = { ...stored, quote };
  const { serviceId, accepted, brings, worthUnits } = view;
  const { refetch } = api.useQuoteQuery(serviceId);
  const withStored = (use: Kept<Quote>["adopt"]): void =>
    void refetch().then(({ data }) => data && use(storedQuote(data)));
  const setOption = (work: OfferedWork, more: Partial<Quote["options"][number]>): void =>
    keep(({ options }) => ({ options: options.map((one) => (one.work === work ? { ...one, ...more } : one)) }));
  return (
    <div className="space-y-4">
      <FaultNote fault={kept.fault}>
        {kept.refused && (
          <Button look="quiet" onClick={() => withStored(kept.adopt)}>
            Leave my change out
          </Button>
        )}
      </FaultNote>
      <ConflictDialog
        open={kept.conflict}
        what="quote"
        onKeep={() => withStored(kept.adopt)}
        onTakeOver={() => withStored(kept.takeOver)}
      />
      {brings === null && (
        <Note title="No baseline yet">
          What each option brings follows from a run before the work; prices stand already.
        </Note>
      )}
      <Accepted view={view} settled={kept.settled} />
      <div className="grid gap-3 sm:grid-cols-2 xl:grid-cols-3 print:grid-cols-3 print:gap-2 print:text-sm">
        {quote.options
          .filter(({ offered }) => offered)
          .map((option) => (
            <Option
              key={option.work}
              view={view}
              option={option}
              onOption={accepted ? undefined : (more) => setOption(option.work, more)}
            />
          ))}
      </div>
      <p className="text-sm text-soft">
        Expected of the die at the same fan speed and power, with 95 % limits; quieter is what the same gain is worth at
        the same warmth. {quote.terms.taxPct > 0 ? `Prices hold ${quote.terms.taxPct} % tax.` : "No tax is added."}{" "}
        {worthUnits !== null &&
          `Work is called rarely sensible on a card worth less than ${quote.terms.worthTimes} times its price.`}
      </p>
      {!accepted && <NotOffered quote={quote} onOffer={(work) => setOption(work, { offered: true })} />}
      <div className="no-print grid items-start gap-4 lg:grid-cols-2">
        <Terms quote={quote} locked={accepted !== null} onQuote={keep} />
        <CameTo view={view} onQuote={keep} />
      </div>
    </div>
  );
}

function Option({
  view: { quote, brings, now, efforts, worthUnits, accepted },
  option,
  onOption,
}: {
  view: QuoteView;
  option: Quote["options"][number];
  onOption: ((more: Partial<Quote["options"][number]>) => void) | undefined;
}) {
  const { work, materialUnits, minutes, benchMinutes } = option;
  const sum = priceTask(option, quote.terms, worthUnits);
  const gain = brings?.[work];
  const db = gain && now ? quieterBy(now.riseK, gain.gainK, now.fanRpm) : null;
  const isChosen = accepted?.work === work;
  const mendsPct = Math.round(100 * (gain?.mends ?? 0));
  return (
    <section
      aria-label={labelOf(work)}
      className={`break-inside-avoid rounded-xl border bg-sheet p-4 print:p-2 ${isChosen ? "border-2 border-ice" : "border-line"}`}
    >
      <h2 className="text-lg font-semibold">
        {isChosen && "✓ "}
        {labelOf(work)}
      </h2>
      <p className="mt-1 text-3xl font-bold print:text-xl">{moneyWords(sum.gross, quote)}</p>
      {sum.isSensible === false && (
        <p className="font-medium text-amber">Rarely sensible: the card is worth {figure(sum.times, 2)} times that</p>
      )}
      {gain && work !== "leave" && mendsPct === 0 && <p className="mt-2">Mends nothing of what was found</p>}
      {gain && work !== "leave" && mendsPct > 0 && (
        <p className="mt-2">
          <strong>
            {gain.gainK < 0.05 ? "0" : `−${figure(gain.gainK)}`} ± {widthOf(gain.u95K)} K
          </strong>
          {db !== null && db < -0.2 && `, or ${figure(-db)} dB quieter`}
          <span className="block text-sm text-soft">mends what is wrong with {mendsPct} %</span>
        </p>
      )}
      <p className="mt-2 text-sm text-soft">
        {work === "leave" ? "" : `${figure(minutes, 0)} min of hands, ${figure(benchMinutes, 0)} min of bench. `}
        {efforts[work].riskWords}
      </p>
      <dl className="mt-2 grid grid-cols-[1fr_auto] gap-x-3 text-sm">
        {sum.lines.map(({ what, units }) => (
          <div key={what} className="contents">
            <dt className="text-soft">{LINES[what]}</dt>
            <dd className="text-right">{moneyWords(units, quote)}</dd>
          </div>
        ))}
        {sum.tax > 0 && (
          <div className="contents">
            <dt className="text-soft">Tax</dt>
            <dd className="text-right">{moneyWords(sum.tax, quote)}</dd>
          </div>
        )}
      </dl>
      {onOption && (
        <details className="no-print mt-2">
          <summary className="min-h-11 cursor-pointer content-center font-medium text-ice">Change its figures</summary>
          <div className="grid grid-cols-3 items-end gap-2">
            <NumberField
              label="Material"
              unit={quote}
              value={asAmount(materialUnits, quote)}
              least={0}
              onValue={(amount) => onOption({ materialUnits: asUnits(amount, quote) ?? 0 })}
            />
            <NumberField
              label="Hands"
              unit="min"
              value={minutes}
              least={0}
              most={10_000}
              onValue={(value) => onOption({ minutes: value ?? 0 })}
            />
            <NumberField
              label="Bench"
              unit="min"
              value={benchMinutes}
              least={0}
              most={10_000}
              onValue={(value) => onOption({ benchMinutes: value ?? 0 })}
            />
          </div>
          <Button look="quiet" onClick={() => onOption({ offered: false })}>
            Do not offer it
          </Button>
        </details>
      )}
    </section>
  );
}

const LINES = { material: "Material", hands: "Hands", bench: "Test bench" } as const;

function NotOffered({ quote, onOffer }: { quote: Quote; onOffer: (work: OfferedWork) => void }) {
  const others = quote.options.filter(({ offered }) => !offered);
  if (others.length === 0) return null;
  return (
    <p className="no-print flex flex-wrap items-center gap-2">
      <span className="text-soft">Not offered:</span>
      {others.map(({ work }) => (
        <Button key={work} onClick={() => onOffer(work)}>
          {labelOf(work)}
        </Button>
      ))}
    </p>
  );
}

/** The owner's word: which option, who, when, for how much. */
function Accepted({
  view: { accepted, quote, serviceId, version, ownerName },
  settled,
}: {
  view: QuoteView;
  settled: Kept<Quote>["settled"];
}) {
  const [accept, { error, isLoading }] = api.useAcceptQuoteMutation();
  const [reopen, { error: reopenError }] = api.useReopenQuoteMutation();
  const offered = quote.options.filter((one) => one.offered);
  const [work, setWork] = useState<OfferedWork>("repaste");
  const [by, setBy] = useState(ownerName);
  const chosen = offered.some((one) => one.work === work) ? work : offered[0]?.work;
  if (accepted)
    return (
      <Note title={`${labelOf(accepted.work)} accepted for ${moneyWords(accepted.grossUnits, quote)}`}>
        By {accepted.by} on {dayAndTime(Date.parse(accepted.at))}.
        <span className="no-print">
          {" "}
          <Button look="quiet" onClick={() => void reopen({ serviceId, body: { version } })}>
            Take the acceptance back
          </Button>
        </span>
        <FaultNote error={reopenError} />
      </Note>
    );
  return (
    <div className="no-print flex flex-wrap items-end gap-3 rounded-xl border border-line bg-frost p-4">
      <div className="w-64">
        <SelectField
          label="The owner accepts"
          value={chosen ?? ""}
          onChange={(event) => setWork(event.target.value as OfferedWork)}
        >
          {offered.map((one) => (
            <option key={one.work} value={one.work}>
              {labelOf(one.work)}
            </option>
          ))}
        </SelectField>
      </div>
      <div className="w-64">
        <TextField label="Who accepted" value={by} maxLength={120} onChange={(event) => setBy(event.target.value)} />
      </div>
      <Button
        look="main"
        disabled={isLoading || by.trim() === "" || !chosen}
        onClick={async () => {
          // The owner's word is for the prices that are saved.
          const saved = await settled();
          if (chosen && saved !== undefined) await accept({ serviceId, body: { work: chosen, by, version: saved } });
        }}
      >
        Accepted
      </Button>
      <FaultNote error={error} />
    </div>
  );
}
const dayAndTime = momentFormat({ dateStyle: "medium", timeStyle: "short" });

function Terms({
  quote,
  locked,
  onQuote,
}: {
  quote: Quote;
  locked: boolean;
  onQuote: (change: Change<Quote>) => void;
}) {
  const set = (more: Partial<Quote["terms"]>): void => onQuote(({ terms }) => ({ terms: { ...terms, ...more } }));
  if (locked) return null;
  return (
    <Sheet title="What it is reckoned with">
      <div className="grid grid-cols-2 items-end gap-3">
        <NumberField
          label="An hour of hands"
          unit={quote}
          value={asAmount(quote.terms.ratePerHour, quote)}
          least={0}
          onValue={(amount) => set({ ratePerHour: asUnits(amount, quote) ?? 0 })}
        />
        <NumberField
          label="An hour of bench"
          unit={quote}
          value={asAmount(quote.terms.benchPerHour, quote)}
          least={0}
          onValue={(amount) => set({ benchPerHour: asUnits(amount, quote) ?? 0 })}
        />
        <NumberField
          label="Tax"
          unit="%"
          value={quote.terms.taxPct}
          least={0}
          most={100}
          onValue={(value) => set({ taxPct: value ?? 0 })}
        />
        <NumberField
          label="Card worth at least"
          unit="times"
          value={quote.terms.worthTimes}
          least={0}
          most={100}
          onValue={(value) => set({ worthTimes: value ?? 0 })}
        />
      </div>
      <p className="mt-2 text-sm text-soft">Quotes begin with the figures under Workshop.</p>
    </Sheet>
  );
}

/** Quote against what it came to; of a card of one's own also what it earned. */
function CameTo({ view, onQuote }: { view: QuoteView; onQuote: (change: Change<Quote>) => void }) {
  const { quote, accepted, actual, holder } = view;
  const option = quote.options.find(({ work }) => work === accepted?.work);
  const [was, is] = [option && priceTask(option, quote.terms, null), priceTask(actual, quote.terms, null)];
  const gain = earned(quote, actual);
  return (
    <Sheet title="What it came to">
      <table className="w-full text-left">
        <thead className="text-sm text-soft">
          <tr>
            <th className="py-1 font-normal">Until now</th>
            <th className="text-right font-normal">Quoted</th>
            <th className="text-right font-normal">Actual</th>
          </tr>
        </thead>
        <tbody>
          {(
            [
              ["Hands (min)", option?.minutes, actual.minutes],
              ["Bench (min)", option?.benchMinutes, actual.benchMinutes],
            ] as const
          ).map(([label, quoted, real]) => (
            <tr key={label} className="border-t border-line">
              <th scope="row" className="py-1.5 font-normal">
                {label}
              </th>
              <td className="text-right">{quoted === undefined ? "–" : figure(quoted, 0)}</td>
              <td className="text-right">{figure(real, 0)}</td>
            </tr>
          ))}
          <tr className="border-t border-line">
            <th scope="row" className="py-1.5 font-normal">
              Material
            </th>
            <td className="text-right">{option ? moneyWords(option.materialUnits, quote) : "–"}</td>
            <td className="text-right">{moneyWords(actual.materialUnits, quote)}</td>
          </tr>
          <tr className="border-t border-line font-semibold">
            <th scope="row" className="py-1.5">
              In all, with tax
            </th>
            <td className="text-right">{was ? moneyWords(was.gross, quote) : "–"}</td>
            <td className="text-right">{moneyWords(is.gross, quote)}</td>
          </tr>
        </tbody>
      </table>
      {holder === "stock" && (
        <>
          <div className="mt-3 grid grid-cols-2 items-end gap-3">
            <NumberField
              label="Bought for"
              unit={quote}
              value={asAmount(quote.boughtUnits, quote)}
              optional
              least={0}
              onValue={(amount) => onQuote(() => ({ boughtUnits: asUnits(amount, quote) }))}
            />
            <NumberField
              label="Sold for"
              unit={quote}
              value={asAmount(quote.soldUnits, quote)}
              optional
              least={0}
              onValue={(amount) => onQuote(() => ({ soldUnits: asUnits(amount, quote) }))}
            />
          </div>
          {gain && (
            <p className="mt-2">
              It earned <strong>{moneyWords(gain.units, quote)}</strong>
              {gain.perHour !== null && `, or ${moneyWords(gain.perHour, quote)} an hour of hands`}.
            </p>
          )}
        </>
      )}
    </Sheet>
  );
}
