import { useNavigate, useSearchParams } from "react-router";
import { pullingScrews } from "#core/boardmap/index.ts";
import type { School } from "#core/fasteners/index.ts";
import {
  assumedWords,
  backId,
  currentStep,
  guessedScrews,
  type HandStep,
  handTime,
  isDone,
} from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import { BowOverlay } from "../../parts/board/bow-overlay.tsx";
import { NextLink } from "../../parts/service/next-link.tsx";
import { Skip } from "../../parts/service/skip.tsx";
import { DieCore } from "../../parts/steps/die-core.tsx";
import { PauseQuestion } from "../../parts/steps/pauses.tsx";
import { StepMode } from "../../parts/steps/step-mode.tsx";
import { StepPlan } from "../../parts/steps/step-plan.tsx";
import { StepsSheet } from "../../parts/steps/steps-sheet.tsx";
import { TurnsProblem, turnsWaiting } from "../../parts/steps/turns-waiting.tsx";
import type { PlanMarks } from "../../ui/board-plan.tsx";
import { LinkButton } from "../../ui/button.tsx";
import { ClockLine } from "../../ui/clock.tsx";
import { figure } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet, Waiting } from "../../ui/page.tsx";
import type { StationProps } from "../station.ts";
import { type CloseUp, useCloseUp } from "./use-close-up.ts";

/** Closing a card: nothing forgotten, every screw turned by a plan, every one back. */
export function CloseUpStation(props: StationProps) {
  return <Closing key={`${props.service.id} ${props.service.attempts.length}`} {...props} />;
}

function Closing({ cardId, service }: StationProps) {
  const [search] = useSearchParams();
  const go = useNavigate();
  const isOpen = search.get("do") === "steps";
  const { data: card } = api.useCardQuery(cardId);
  const closing = useCloseUp(service, isOpen);
  const { marks, steps } = closing;
  if (!closing.ready || !card)
    return closing.error ? <FaultNote error={closing.error} /> : <Waiting what="the steps" />;
  const next = currentStep(steps, marks.folded);
  const isBegun = marks.marks.length > 0;
  return (
    <div className="space-y-4">
      <FaultNote fault={marks.fault} />
      <PauseQuestion time={handTime(marks.marks, Date.parse)} mark={marks.mark} />
      {!closing.stripBegun && (
        <Note title="This card was not taken apart by steps">
          Nobody knows which screws came out: all of the map are led back, and the count is yours.
        </Note>
      )}
      {closing.drying.length > 0 && (
        <Note kind="caution" title="Something still dries or sets">
          {closing.drying.map((clock) => (
            <ClockLine key={clock.id} clock={clock} />
          ))}
          Closing it earlier has to be accepted where it was begun.{" "}
          <LinkButton to={`/cards/${cardId}/clean`} look="quiet">
            To Clean
          </LinkButton>
          <LinkButton to={`/cards/${cardId}/compound`} look="quiet">
            To Compound
          </LinkButton>
        </Note>
      )}
      {closing.stripBegun && closing.found.counted === null && (
        <Note kind="caution" title="It is still being taken apart">
          The screws on the tray were not counted yet.{" "}
          <LinkButton to={`/cards/${cardId}/strip`} look="quiet">
            Back to Strip
          </LinkButton>
        </Note>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
        <StepsSheet steps={steps} marks={marks} ended="Closed" mayBegin={closing.drying.length === 0}>
          {closing.hasMap && <ClosePlan closing={closing} step={null} />}
        </StepsSheet>
        <div className="space-y-4">
          <Turning closing={closing} />
          <Odd closing={closing} />
        </div>
      </div>
      {!next && <NextLink cardId={cardId} service={service} from="closeUp" />}
      {!isBegun && <Skip service={service} station="closeUp" />}
      {isOpen && closing.drying.length === 0 && (
        <Steps
          name={`${card.maker} ${card.model}`}
          cardId={cardId}
          closing={closing}
          onClose={() => void go(`/cards/${cardId}/close-up`)}
        />
      )}
    </div>
  );
}

function Steps({
  name,
  cardId,
  closing,
  onClose,
}: {
  name: string;
  cardId: string;
  closing: CloseUp;
  onClose: () => void;
}) {
  const { marks, turning, map } = closing;
  const step = currentStep(closing.steps, marks.folded);
  return (
    <StepMode
      title={`Close up · ${name}`}
      cardId={cardId}
      steps={closing.steps}
      marks={marks}
      faultAt={closing.faultAt}
      onDone={closing.onDone}
      waiting={step?.kind === "turn" ? turnsWaiting(turning, marks.mark) : null}
      onClose={onClose}
      picture={<ClosePlan closing={closing} step={step ?? null} />}
      body={
        step?.kind === "turn" ? (
          <>
            <TurnsProblem turning={turning} />
            {step.turn && map.die && turning.turns && (
              <DieCore die={map.die} turns={turning.turns} at={step.turn} back />
            )}
          </>
        ) : null
      }
    />
  );
}

/** Steps at which the plan shows the pads. */
const PADS: ReadonlySet<string> = new Set(["padded", "films", "touch"]);

function ClosePlan({ closing, step }: { closing: CloseUp; step: HandStep | null }) {
  const { map, marks, input, judgement } = closing;
  const tightened = new Set(
    closing.steps
      .filter(({ kind, id }) => kind === "turn" && !isDone(marks.folded, id))
      .flatMap(({ things }) => things),
  );
  const turned = new Set(closing.steps.filter(({ kind }) => kind === "turn").flatMap(({ things }) => things));
  const isPast = (id: string): boolean =>
    isDone(marks.folded, backId(id)) || isDone(marks.folded, `plug-in:${id}`) || (turned.has(id) && !tightened.has(id));
  const pads: PlanMarks = step && PADS.has(step.id) ? padMarks(closing) : {};
  return (
    <>
      <StepPlan
        map={map}
        step={step ?? { side: "back", things: [], text: "what is back and what is left" }}
        isPast={isPast}
        marks={pads}
        underlay={
          step?.id === "bow" && judgement ? (
            <BowOverlay bow={judgement.bow} heightMm={map.board.heightMm} turned={map.board.widthMm} />
          ) : undefined
        }
      />
      {step?.id === "bow" && input.bow && (
        <p className="mt-1 text-sm text-soft">Strong blue: bent toward the cooler; faint: away from it.</p>
      )}
    </>
  );
}

const padMarks = ({ work }: CloseUp): PlanMarks =>
  Object.fromEntries(
    Object.entries(work?.picks ?? {}).flatMap(([id, pick]) =>
      pick
        ? [[id, { text: `${pick.thicknessMm}${pick.layers > 1 ? `×${pick.layers}` : ""}`, hatchMm: pick.thicknessMm }]]
        : [],
    ),
  );

/** Die pressure that is usually aimed at: 30 to 40 psi (common practice), in kPa. */
const TARGET_KPA = { low: 207, high: 276 };

/** What the plan does to the die, and what other ways would have done. */
function Turning({ closing: { turning, map } }: { closing: CloseUp }) {
  const { fastening, problem, progress } = turning;
  if (problem) return <TurnsProblem turning={turning} />;
  if (!fastening)
    return progress === null ? null : (
      <Sheet title="How to turn the screws">
        <p role="status" className="text-soft">
          Working out the turns: {Math.round(100 * progress)} %
        </p>
      </Sheet>
    );
  const { final, peakCornerKPa, schools } = fastening;
  const meanKPa = map.die ? (1000 * final.dieForceN) / (map.die.widthMm * map.die.heightMm) : 0;
  const most = Math.max(peakCornerKPa, ...schools.map((one) => one.peakCornerKPa));
  const rows = [
    { name: "By this plan", moves: fastening.tighten.length, kPa: peakCornerKPa, isPlan: true },
    ...schools.map((one) => ({
      name: SCHOOL_WORDS[one.name],
      moves: one.moves,
      kPa: one.peakCornerKPa,
      isPlan: false,
    })),
  ];
  return (
    <Sheet title="How to turn the screws">
      <p className="mb-3">
        All tight: <strong>{figure(meanKPa, 0)} kPa</strong> on the die (
        {meanKPa < TARGET_KPA.low
          ? `less than the usual ${TARGET_KPA.low} to ${TARGET_KPA.high}: look at springs and washers`
          : meanKPa > TARGET_KPA.high
            ? `more than the usual ${TARGET_KPA.low} to ${TARGET_KPA.high}: no washer more, no turn further`
            : `usual are ${TARGET_KPA.low} to ${TARGET_KPA.high}`}
        ), {figure(final.cornerKPa, 0)} kPa at its worst corner.
      </p>
      {meanKPa < TARGET_KPA.low && <p className="mb-3">{washersTell(map)}</p>}
      {assumedWords(map) && (
        <Note kind="caution" title="This rests on a guess">
          {assumedWords(map)}
          {guessedScrews(map).length > 0 &&
            " The steps lead by quarter turns, crosswise, until each screw stops. Type spring or thread on the board map for a plan of turns."}
        </Note>
      )}
      <p className="my-3 text-sm text-soft">{crossWords(schools)}</p>
      <table className="w-full text-left">
        <caption className="mb-1 text-left text-sm text-soft">The worst corner on the way, kPa</caption>
        <tbody>
          {rows.map(({ name, moves, kPa, isPlan }) => (
            <tr key={name} className={isPlan ? "font-semibold" : ""}>
              <th scope="row" className="py-1 pr-2 font-[inherit]">
                {name}
                <span className="block text-xs font-normal text-soft">{moves} moves</span>
              </th>
              <td className="w-2/5 py-1">
                <div
                  aria-hidden
                  className={`h-4 rounded-sm ${isPlan ? "bg-ice" : "border border-edge bg-frost"}`}
                  style={{ width: `${(100 * kPa) / Math.max(1, most)}%` }}
                />
              </td>
              <td className="py-1 pl-2 text-right">{figure(kPa, 0)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Sheet>
  );
}

/** What washers would bring, at most: pads and board take their share. */
function washersTell(map: CloseUp["map"]): string {
  const newtons = pullingScrews(map).reduce((sum, { springNPerMm }) => sum + springNPerMm * WASHER_MM, 0);
  const kPa = map.die ? (1000 * newtons) / (map.die.widthMm * map.die.heightMm) : 0;
  return `Washers are a last resort: ${WASHER_MM} mm under every screw would add at most ${figure(kPa, 0)} kPa.`;
}
const WASHER_MM = 0.5;

/** The trade says that several passes across are gentler than one around: whether they are here. */
function crossWords(schools: readonly School[]): string {
  const peak = (name: School["name"]): number => schools.find((one) => one.name === name)?.peakCornerKPa ?? 0;
  const times = peak("around-1") / Math.max(1e-9, peak("cross-3"));
  return times > 1.02
    ? `On this die three rounds across load a corner ${times.toFixed(1)} times less than one round around.`
    : "On this die three rounds across are no gentler than one round around.";
}

const SCHOOL_WORDS = {
  "around-1": "Around, one round",
  "cross-1": "Cross, one round",
  "cross-2": "Cross, two rounds",
  "cross-3": "Cross, three rounds",
} as const;

/** What was different on the way in and is to be dealt with now. */
function Odd({ closing: { found, marks } }: { closing: CloseUp }) {
  if (found.odd.length === 0) return null;
  return (
    <Sheet title="Different on the way in">
      <ul className="space-y-1">
        {found.odd.map(({ stepId, what, kind, text }) => (
          <li key={stepId}>
            {isDone(marks.folded, `dealt:${stepId}`) ? "✓ dealt with: " : ""}
            <strong>{what}</strong>: {kind}
            {text && `, ${text}`}
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
