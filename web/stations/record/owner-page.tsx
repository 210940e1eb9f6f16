import { format, parseISO } from "date-fns";
import {
  API,
  type Card,
  type HandOverInput,
  type Limits,
  LOOK_OVER_ITEMS,
  type NextView,
  ranAt,
  type ServiceView,
  type Settings,
  urlOf,
} from "#contract";
import { differenceOf } from "#core/compare/index.ts";
import type { HandSummary } from "#core/handwork/index.ts";
import { imprintForOwner } from "#core/imprint/index.ts";
import { headlineOf, nameFor, type Outcome } from "#core/outcome/index.ts";
import { padsThatWentIn } from "#core/padplan/index.ts";
import { meaningOf } from "#core/quote/index.ts";
import { leadingPair } from "#core/service/index.ts";
import { api } from "../../app/api.ts";
import { CoolerLine } from "../../parts/cooler/cooler-line.tsx";
import { QuietLine } from "../../parts/quiet/quiet-steps.tsx";
import { ladderColumns } from "../../parts/run/comparison.tsx";
import { runName } from "../../parts/run/run-name.ts";
import { verdictSentence } from "../../parts/run/verdict.ts";
import { plural } from "../../parts/stores/size.ts";
import { day, figure, roleName, signed, widthOf } from "../../ui/format.ts";
import { RiseLadder } from "../../ui/rise-ladder.tsx";
import type { StationProps } from "../station.ts";
import { leadOf, type RunPair } from "./pairs.ts";

const monthOf = (iso: string): string => format(parseISO(iso), "MMMM yyyy");

/** The page for the owner or the sale: found, done, used, before and after with conditions, what it means, and what comes next. */
export function OwnerPage({
  card,
  service,
  settings,
  limits,
  hands,
  next,
  handOver,
  photos,
}: Pick<StationProps, "service"> & {
  card: Card;
  settings: Settings;
  limits: Limits | null;
  hands: HandSummary | null;
  next: NextView | undefined;
  handOver: HandOverInput | undefined;
  photos: Card["photos"];
}) {
  const { pairs, lead } = leadOf(service);
  return (
    <article className="record-sheet mx-auto max-w-[50rem] rounded-xl border border-line bg-sheet p-6 text-[0.92rem]">
      <OwnerHead card={card} service={service} settings={settings} />
      <p className="my-3 text-xl font-bold break-words">
        {lead
          ? sentence(verdictSentence(lead, "owner"))
          : "No comparison: " +
            (service.stations.find((one) => one.id === "prove")?.skipReason ?? "a run before or after is missing")}
      </p>
      {lead?.comparison.comparable && <Meaning lead={lead} pairs={pairs} />}
      {service.closedReason && <p className="mb-3">Handed over all the same: {service.closedReason}</p>}
      {lead?.comparison.comparable && (
        <div className="grid items-start gap-4 sm:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)] print:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)]">
          <RiseLadder
            label="How much warmer than the room"
            nameOf={(role) => COLUMN[role] ?? roleName(role)}
            columns={ladderColumns(lead.comparison, lead.before, lead.after, limits)}
          />
          <ByPart outcome={lead.outcome} />
        </div>
      )}
      {pairs.length > 0 && <RunPairs pairs={pairs} />}
      <div className="mt-3 grid gap-4 sm:grid-cols-2">
        <Found card={card} service={service} hands={hands} />
        <Done service={service} hands={hands} limits={limits} />
      </div>
      <div className="mt-3 grid gap-4 sm:grid-cols-2 print:grid-cols-2">
        <Photos photos={photos} />
        <ComesNext next={next} handOver={handOver} />
      </div>
      {handOver && handOver.leaves.length > 0 && (
        <p className="mt-2 text-sm">
          <span className="font-semibold">Goes with the card:</span>{" "}
          {handOver.leaves.map(({ what, packed }) => `${packed ? "☑" : "☐"} ${what}`).join("   ")}
        </p>
      )}
      <footer className="mt-4 border-t border-line pt-2 text-xs text-soft">
        Rises are kelvin over room air under the conditions shown; ± holds 95 % and counts readings, corrections,
        mounting and run scatter.
      </footer>
    </article>
  );
}

interface OwnCard {
  card: Card;
  service: StationProps["service"];
  hands: HandSummary | null;
}

function OwnerHead({ card, service, settings }: Omit<OwnCard, "hands"> & { settings: Settings }) {
  return (
    <header className="flex flex-wrap justify-between gap-2 border-b-2 border-ink pb-2">
      <div className="min-w-0">
        <h2 className="text-xl font-bold">Service record</h2>
        <p className="font-semibold">
          {card.maker} {card.model}
        </p>
        <p className="text-sm">
          Serial {card.serial || "unknown"}
          {card.boardModelName ? ` · board ${card.boardModelName}` : ""}
        </p>
      </div>
      <div className="min-w-0 text-sm">
        <p className="font-semibold">{settings.workshop}</p>
        {settings.address && <p className="max-w-60 whitespace-pre-line">{settings.address}</p>}
      </div>
      <div className="min-w-0 text-right text-sm">
        <p>{card.holder === "stock" ? "From stock" : card.ownerName}</p>
        <p>In: {day(service.openedAt)}</p>
        <p>Out: {service.closedAt ? day(service.closedAt) : "not yet"}</p>
        {service.workPrice !== null && (
          <p className="font-semibold">
            Price: {figure(service.workPrice, 2)} {settings.currency}
          </p>
        )}
      </div>
    </header>
  );
}

/** Every pair of runs with its conditions, a line each. */
function RunPairs({ pairs }: { pairs: readonly RunPair[] }) {
  return (
    <div className="relative overflow-x-auto">
      <table className="mt-2 w-full text-left text-sm">
        <caption className="sr-only">Runs before and after with their conditions</caption>
        <thead>
          <tr className="border-b border-line">
            <th className="py-1 pr-2 font-medium">Runs</th>
            <th className="py-1 pr-2 text-right font-medium">Room °C</th>
            <th className="py-1 pr-2 text-right font-medium">Fan rpm</th>
            <th className="py-1 pr-2 text-right font-medium">Power W</th>
            <th className="py-1 pr-2 text-right font-medium">Chip warmer than the room by K</th>
            <th className="py-1 text-right font-medium">At equal conditions</th>
          </tr>
        </thead>
        <tbody>
          {pairs.map(({ before, after, comparison }) => {
            const span = (what: Parameters<typeof differenceOf>[1], digits: number): string => {
              const of = differenceOf(comparison.differences, what);
              return `${figure(of?.before, digits)} → ${figure(of?.after, digits)}`;
            };
            const { edge } = comparison.roles;
            const equal = comparison.atEqualConditions?.roles.edge;
            return (
              <tr key={before.id + after.id} className="border-b border-line">
                <td className="long py-1 pr-2">
                  {runName(before)}
                  {(before.typed || after.typed) && " (typed from paper)"}
                  <span className="block text-xs text-soft">
                    {day(ranAt(before.analysis, before.createdAt))} → {day(ranAt(after.analysis, after.createdAt))}
                  </span>
                </td>
                <td className="py-1 pr-2 text-right whitespace-nowrap">
                  {figure(before.analysis.ambient?.valueC)} → {figure(after.analysis.ambient?.valueC)}
                </td>
                <td className="py-1 pr-2 text-right whitespace-nowrap">{span("fan", 0)}</td>
                <td className="py-1 pr-2 text-right whitespace-nowrap">{span("power", 0)}</td>
                <td className="py-1 pr-2 text-right whitespace-nowrap">
                  {edge ? `${figure(edge.beforeRiseK)} → ${figure(edge.afterRiseK)}` : "–"}
                  {edge && comparison.air === "intake" && (
                    <span className="block text-xs text-soft">than the air at its intake</span>
                  )}
                </td>
                <td className="py-1 text-right font-semibold whitespace-nowrap">
                  {equal ? `${signed(equal.changeK)} ± ${widthOf(equal.u95K)} K` : "–"}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function Found({ card, service, hands }: OwnCard) {
  const findings = card.lookOver.filter((entry) => entry.state === "noted");
  return (
    <section>
      <h3 className="font-semibold">Found</h3>
      <ul className="list-disc pl-4">
        {card.complaint && <li>Complaint: {card.complaint}</li>}
        <li>
          Seal {card.seal}; warranty: {card.warranty}
        </li>
        {hands?.seal && <li>Seal when it was opened: {hands.seal}</li>}
        {hands?.compound && (
          <li>
            Old compound {hands.compound}. {hands.imprint && imprintForOwner(hands.imprint)}
          </li>
        )}
        {findings.map((entry) => (
          <li key={entry.id}>{entry.text || LOOK_OVER_ITEMS.find((item) => item.id === entry.id)?.label}</li>
        ))}
        {service.stations.flatMap((one) =>
          one.skipReason
            ? [
                <li key={one.id}>
                  {one.title} skipped: {one.skipReason}
                </li>,
              ]
            : [],
        )}
      </ul>
    </section>
  );
}

function Done({ service, hands, limits }: Omit<OwnCard, "card"> & { limits: Limits | null }) {
  return (
    <section>
      <h3 className="font-semibold">Done</h3>
      <ul className="list-disc pl-4">
        {service.attempts.length > 1 && (
          <li>
            Mounted {service.attempts.length} times until this result:{" "}
            {service.attempts.slice(1).map(attemptWords(service.attempts)).join("; ")}.
          </li>
        )}
        {service.notes.map((note) => (
          <li key={note.id} className="break-words">
            {[day(note.doneOn), note.person].filter(Boolean).join(", ")}: {note.work.join(", ")}
            {note.compound ? ` (${note.compound})` : ""}. {note.text}
          </li>
        ))}
        {hands?.done.map((words) => (
          <li key={words}>{words}</li>
        ))}
        {hands && <ByHand hands={hands} />}
        {service.notes.length === 0 && !hands && <li>Nothing was done to the card in this service.</li>}
        <Used service={service} />
        <CoolerLine serviceId={service.id} />
        {limits && <QuietLine service={service} limits={limits} />}
      </ul>
    </section>
  );
}

function Photos({ photos }: { photos: Card["photos"] }) {
  if (photos.length === 0) return null;
  return (
    <ul className="flex flex-wrap gap-2" aria-label="Photos">
      {photos.map(({ id, caption }) => (
        <li key={id} className="max-w-40">
          <img
            src={urlOf(API.photo, { photoId: id })}
            alt={caption || "The card"}
            className="h-24 w-full rounded-md border border-line object-cover"
          />
          {caption && <p className="text-xs text-soft">{caption}</p>}
        </li>
      ))}
    </ul>
  );
}

function ComesNext({ next, handOver }: { next: NextView | undefined; handOver: HandOverInput | undefined }) {
  return (
    <div className="space-y-2">
      {next?.foretold && (
        <section>
          <h3 className="font-semibold">
            Next service: {monthOf(next.dueOn)}
            <span className="font-normal">
              {" "}
              ({monthOf(next.lowOn)} to {next.highOn ? monthOf(next.highOn) : "later than five years"})
            </span>
          </h3>
          <p className="text-sm">{next.reason}</p>
        </section>
      )}
      {handOver?.watch && (
        <section>
          <h3 className="font-semibold">What to watch</h3>
          <p className="text-sm whitespace-pre-line">{handOver.watch}</p>
        </section>
      )}
    </div>
  );
}

/** What the gain means to somebody who knows nothing of kelvins. */
function Meaning({ lead, pairs }: { lead: RunPair; pairs: readonly RunPair[] }) {
  const equal = lead.comparison.atEqualConditions?.roles;
  const change = equal?.edge ?? equal?.hotspot;
  if (!change) return null;
  const { analysis } = lead.after;
  const own = pairs.find(({ before, after }) => before.fanMode === "automatic" && after.fanMode === "automatic");
  const [was, is] = [own?.before.analysis.roles.fanRpm?.mean, own?.after.analysis.roles.fanRpm?.mean];
  const words = meaningOf({
    changeK: change.changeK,
    u95K: change.u95K,
    riseK: analysis.roles.edge?.riseK ?? null,
    fanRpm: analysis.roles.fanRpm?.mean ?? null,
    ownCurve: was && is ? { before: was, after: is } : null,
  });
  return <p className="mb-3">{words.join(" ")}</p>;
}

/** What an owner calls it, in two words. */
const COLUMN: Partial<Record<string, string>> = { edge: "Chip", hotspot: "Hottest point", vrm: "Power parts" };
const sentence = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Every part with what came of it, in a line each. */
function ByPart({ outcome: { sensors, gap } }: { outcome: Outcome }) {
  const cells = [
    ...sensors.map(({ role, changeK, u95K, verdict, known }) => ({
      name: nameFor("owner", role),
      text:
        verdict === "no-real-change"
          ? known
            ? "no real change"
            : "not known yet"
          : `${figure(Math.abs(changeK))} ± ${widthOf(u95K)} K ${verdict}`,
    })),
    ...(gap
      ? [
          {
            name: nameFor("owner", "gap"),
            text:
              gap.verdict === "no-real-change"
                ? "no real change"
                : `${figure(Math.abs(gap.changeK))} ± ${widthOf(gap.u95K)} K ${gap.verdict}`,
          },
        ]
      : []),
  ];
  return (
    <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-1 print:grid-cols-1">
      {cells.map(({ name, text }) => (
        <div key={name}>
          <dt className="text-xs text-soft">{name}</dt>
          <dd className="font-semibold">{text}</dd>
        </div>
      ))}
    </dl>
  );
}

/** Why it was mounted again, and what was changed for it. */
const attemptWords =
  (all: ServiceView["attempts"]) =>
  ({ number, changed }: ServiceView["attempts"][number]): string => {
    const before = all.find((one) => one.number === number - 1);
    const lead = before && leadingPair(before.comparisons);
    const why = lead && headlineOf(lead.outcome, "", "owner");
    return `${why ? `the one before came to “${why}”; ` : ""}${changed || "mounted again"}`;
  };

/** What the steps tell: screws out and back, what was odd, minutes of hands. */
function ByHand({ hands: { screwsOut, leftOver, odd, minutes } }: { hands: HandSummary }) {
  return (
    <>
      <li>
        {screwsOut} {screwsOut === 1 ? "screw" : "screws"} out
        {leftOver === null ? "" : leftOver === 0 ? ", none left over" : `, ${leftOver} left over`};{" "}
        {Math.round(minutes)} min of hands.
      </li>
      {odd.map(({ what, kind, text, dealt }) => (
        <li key={what + kind}>
          {what}: {kind}
          {text && `, ${text}`}
          {dealt && " (put right)"}
        </li>
      ))}
    </>
  );
}

/** Pads that went on and what was taken from the stock. */
function Used({ service }: Pick<StationProps, "service">) {
  const { data: job } = api.usePadsQuery(service.id);
  const { data: stores } = api.useStoresQuery();
  const { data: uses = [] } = api.useUsesQuery(service.id);
  const replaced = service.notes.some((note) => note.work.includes("pads replaced") || note.work.includes("putty"));
  const pads = padsThatWentIn(job?.plan.picks ?? {}, job?.plan.cutting ?? null).map(
    ({ materialId, thicknessMm, count }) =>
      `${count} × ${thicknessMm} mm ${stores?.materials.find((one) => one.id === materialId)?.name ?? "pad"}`,
  );
  const used = uses
    .filter((use) => use.what === "")
    .map((use) => `${use.amount} ${plural(use.amount, use.unit)} ${use.materialName}`);
  return (
    <>
      {replaced && pads.length > 0 && <li>Pads: {pads.join(", ")}</li>}
      {used.length > 0 && <li>Used: {used.join(", ")}</li>}
    </>
  );
}
