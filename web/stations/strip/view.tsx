import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import type { ServiceView } from "#contract";
import { type BoardMap, checkMap, freeId, layerOf } from "#core/boardmap/index.ts";
import { currentStep, type HandStep, handTime, LAYER_WORDS, outId, STEP, valueOf } from "#core/handwork/index.ts";
import { IMPRINT_SIZE, type Imprint, imprintFound, readImprint, writeImprint } from "#core/imprint/index.ts";
import { api } from "../../app/api.ts";
import { NextLink } from "../../parts/service/next-link.tsx";
import { OpeningCautions } from "../../parts/service/opening-cautions.tsx";
import { Skip } from "../../parts/service/skip.tsx";
import { DieCore } from "../../parts/steps/die-core.tsx";
import { PauseQuestion } from "../../parts/steps/pauses.tsx";
import { StepMode } from "../../parts/steps/step-mode.tsx";
import { pastOut, StepPlan } from "../../parts/steps/step-plan.tsx";
import { StepsSheet } from "../../parts/steps/steps-sheet.tsx";
import { TurnsProblem, turnsWaiting } from "../../parts/steps/turns-waiting.tsx";
import { Button, LinkButton } from "../../ui/button.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet, Waiting } from "../../ui/page.tsx";
import type { StationProps } from "../station.ts";
import { ImprintGrid, ImprintPicture } from "./imprint-grid.tsx";
import { ImprintPhoto } from "./imprint-photo.tsx";
import { LearnPanel } from "./learn-panel.tsx";
import { type Strip, useStrip } from "./use-strip.ts";

/** Taking a card apart: every screw by its place, the old compound read, the next card of the board led. */
export function StripStation({ cardId, service }: StationProps) {
  const { data: card } = api.useCardQuery(cardId);
  if (!card) return <Waiting what="the card" />;
  if (card.boardModelId === null)
    return (
      <div className="space-y-4">
        <OpeningCautions service={service} />
        <Note kind="caution" title="This card has no board model yet">
          What is learnt while it is stripped belongs to the model. Name the model under{" "}
          <Link className="font-semibold text-ice underline" to={`/cards/${cardId}/take-in`}>
            Take in
          </Link>
          , then come back.
        </Note>
        <Skip service={service} station="strip" />
      </div>
    );
  return (
    <Opening
      key={`${service.id} ${service.attempts.length}`}
      cardId={cardId}
      service={service}
      boardModelId={card.boardModelId}
      name={`${card.maker} ${card.model}`}
    />
  );
}

function Opening({
  cardId,
  service,
  boardModelId,
  name,
}: {
  cardId: string;
  service: ServiceView;
  boardModelId: string;
  name: string;
}) {
  const [search] = useSearchParams();
  const go = useNavigate();
  const isOpen = search.get("do") === "steps";
  const strip = useStrip(service, boardModelId, isOpen);
  const { marks, steps, found, map } = strip;
  const here = service.stations.find(({ id }) => id === "strip");
  const baseline = service.stations.find(({ id }) => id === "baseline");
  const mayOpen = baseline?.state === "done" || baseline?.state === "skipped";
  if (!strip.ready) return strip.error ? <FaultNote error={strip.error} /> : <Waiting what="the steps" />;
  const next = currentStep(steps, marks.folded);
  const isBegun = marks.marks.length > 0;
  return (
    <div className="space-y-4">
      {!isBegun && service.closedAt === null && <OpeningCautions service={service} />}
      <FaultNote fault={marks.fault} />
      <FaultNote fault={strip.fault} />
      <PauseQuestion time={handTime(marks.marks, Date.parse)} mark={marks.mark} />
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
        <StepsSheet
          steps={steps}
          marks={marks}
          ended="Taken apart"
          mayBegin={mayOpen}
          action={
            <LinkButton to={`/cards/${cardId}/tray`} look="quiet">
              Tray sheet
            </LinkButton>
          }
        >
          <PlanOrLayers map={map} step={null} strip={strip} />
        </StepsSheet>
        <div className="space-y-4">
          <MapFaults map={map} boardModelId={boardModelId} />
          {isBegun && <Found map={map} strip={strip} minutes={handTime(marks.marks, Date.parse).minutes} />}
          {!isBegun && <Known map={map} />}
        </div>
      </div>
      {found.counted !== null && !next && <NextLink cardId={cardId} service={service} from="strip" />}
      {!isBegun && here?.state !== "done" && <Skip service={service} station="strip" />}
      {isOpen && <Steps name={name} cardId={cardId} strip={strip} onClose={() => void go(`/cards/${cardId}/strip`)} />}
    </div>
  );
}

function Steps({ name, cardId, strip, onClose }: { name: string; cardId: string; strip: Strip; onClose: () => void }) {
  const { map, marks, turning, learn } = strip;
  const [chosen, setChosen] = useState<"screw" | "plug">("screw");
  const step = currentStep(strip.steps, marks.folded);
  const learns = step?.learns ?? [];
  const tapped = learns.includes(chosen) ? chosen : (learns[0] ?? "screw");
  const seen = readImprint(valueOf(marks.folded, STEP.imprint));
  const isSeen = seen !== null && seen !== undefined;
  const cells = seen ?? ALL_COVERED;
  const setCells = (next: Imprint): void =>
    marks.mark({ stepId: STEP.imprint, what: "value", value: writeImprint(next) });
  const tap = (here: HandStep, at: { xMm: number; yMm: number }): void => {
    if (here.kind === "place") {
      learn({ edit: "die", more: at });
      return marks.mark({ stepId: here.id, what: "value", value: `${at.xMm} ${at.yMm}` });
    }
    if (here.kind !== "learn" || !here.layer) return undefined;
    const id = freeId(map, tapped);
    const { layer } = here;
    if (tapped === "plug") {
      learn({ edit: "plug", id, more: { ...at, layer, side: here.side } });
      return marks.mark({ stepId: `plug:${id}`, what: "done" });
    }
    // Only the cooler's screws pull on the die.
    const pull = layer === "cooler" ? {} : { forceN: 0, springNPerMm: 0 };
    learn({ edit: "screw", id, more: { ...at, layer, side: here.side, ...pull } });
    return marks.mark({ stepId: outId(id), what: "done" });
  };
  return (
    <StepMode
      title={`Strip · ${name}`}
      cardId={cardId}
      steps={strip.steps}
      marks={marks}
      faultAt={strip.faultAt}
      onDone={strip.onDone}
      waiting={step?.kind === "turn" ? turnsWaiting(turning, marks.mark) : null}
      onClose={onClose}
      picture={
        step?.kind === "imprint" ? (
          <>
            <ImprintGrid cells={cells} aspect={map.die ? map.die.heightMm / map.die.widthMm : 1} onCells={setCells} />
            <p className="mt-2 text-center text-soft">The die as it looks at you. Filled: covered.</p>
          </>
        ) : (
          <PlanOrLayers
            map={map}
            step={step ?? null}
            strip={strip}
            onTap={(at) => step && tap(step, { xMm: tenths(at.xMm), yMm: tenths(at.yMm) })}
          />
        )
      }
      body={
        step?.kind === "learn" && step.layer ? (
          <LearnPanel
            map={map}
            layer={step.layer}
            tapped={tapped}
            onTapped={learns.length > 1 ? setChosen : null}
            learn={learn}
            mark={marks.mark}
          />
        ) : step?.kind === "imprint" ? (
          <>
            <Button
              look={isSeen && cells.every((one) => one === "covered") ? "main" : "plain"}
              className="min-h-16 w-full text-xl"
              onClick={() => setCells(ALL_COVERED)}
            >
              It covered the whole die
            </Button>
            <p className="text-soft">
              {isSeen ? "Kept as it is shown." : "Nothing is marked yet: going on leaves it as not looked at."}
            </p>
            {map.die && <ImprintPhoto remote={strip.remote} die={map.die} onCells={setCells} />}
          </>
        ) : step?.kind === "turn" ? (
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

/** As fine as a finger points. */
const tenths = (mm: number): number => Math.round(mm * 10) / 10;

const ALL_COVERED: Imprint = Array.from({ length: IMPRINT_SIZE ** 2 }, () => "covered" as const);

/** The plan where a step is about something on it; before that what the card is made of, from outside in. */
function PlanOrLayers({
  map,
  step,
  strip,
  onTap,
}: {
  map: BoardMap;
  step: HandStep | null;
  strip: Strip;
  onTap?: (at: { xMm: number; yMm: number }) => void;
}) {
  const taps = step?.kind === "learn" || step?.kind === "place";
  const isDrawn = map.screws.length + map.plugs.length > 0 || map.die !== null;
  if (taps || (step ? step.things.length > 0 || step.layer !== null : isDrawn))
    return (
      <StepPlan
        map={map}
        step={step ?? { side: "back", things: [], text: "what is out and what is left" }}
        isPast={pastOut(strip.marks.folded)}
        {...(taps && onTap ? { onTap } : {})}
      />
    );
  return <Layers map={map} />;
}

/** What the card is made of, the outermost first. */
function Layers({ map }: { map: BoardMap }) {
  return (
    <ol className="space-y-2" aria-label="Layers from outside in">
      {map.layers.map(({ id, there }, index) => {
        const screws = map.screws.filter((screw) => layerOf(screw) === id && !screw.leaveAlone).length;
        const plugs = map.plugs.filter(({ layer }) => layer === id).length;
        const known = screws + plugs > 0 || there === true;
        return (
          <li
            key={id}
            className={`flex items-center justify-between gap-3 rounded-lg border px-4 py-3 text-lg ${known ? "border-edge bg-sheet" : "border-dashed border-line text-soft"}`}
          >
            <span>
              <span className="mr-3 text-soft">{index + 1}</span>
              <strong>{LAYER_WORDS[id]}</strong>
            </span>
            <span>
              {there === false && !known
                ? "not a layer of its own"
                : known
                  ? [
                      `${screws} ${screws === 1 ? "screw" : "screws"}`,
                      plugs > 0 ? `${plugs} ${plugs === 1 ? "plug" : "plugs"}` : "",
                    ]
                      .filter(Boolean)
                      .join(", ")
                  : "not known yet"}
            </span>
          </li>
        );
      })}
    </ol>
  );
}

/** What of the map's screws does not hold together; the rest of it is no matter here. */
function MapFaults({ map, boardModelId }: { map: BoardMap; boardModelId: string }) {
  const faults = map.die ? checkMap(map).filter(({ code }) => OF_SCREWS.has(code)) : [];
  if (faults.length === 0) return null;
  return (
    <Note kind="caution" title={faults.length === 1 ? "One screw of the map" : "Screws of the map"}>
      <ul>
        {faults.map(({ code, id, text }) => (
          <li key={`${code} ${id}`}>{text}</li>
        ))}
      </ul>
      <Link className="font-semibold text-ice underline" to={`/boards/${boardModelId}/map`}>
        Mend it on the board map
      </Link>
    </Note>
  );
}

const OF_SCREWS: ReadonlySet<string> = new Set(["same-place", "no-travel", "no-screws", "no-pull"]);

/** What the map knows before the first screw. */
function Known({ map }: { map: BoardMap }) {
  const screws = map.screws.filter(({ leaveAlone }) => !leaveAlone).length;
  const sized = map.screws.filter(({ lengthMm, leaveAlone }) => lengthMm !== null && !leaveAlone).length;
  return (
    <Sheet title={screws === 0 ? "This board is not known yet" : "What the map knows"}>
      {screws === 0 ? (
        <p>
          It is learnt while you strip it: tap where each screw came out and measure its length. The next card of this
          board is led.
        </p>
      ) : (
        <p>
          {screws} {screws === 1 ? "screw" : "screws"}, {sized} with their length; {map.plugs.length}{" "}
          {map.plugs.length === 1 ? "plug" : "plugs"}.
        </p>
      )}
      <div className="mt-3">
        <Layers map={map} />
      </div>
    </Sheet>
  );
}

/** What was found on the way in: for Close up and the record. */
function Found({ map, strip, minutes }: { map: BoardMap; strip: Strip; minutes: number }) {
  const { found, marks, turning } = strip;
  const cells = readImprint(valueOf(marks.folded, STEP.imprint));
  const final = turning.fastening?.final;
  const pressed =
    final && map.die ? { x: (2 * final.exMm) / map.die.widthMm, y: (2 * final.eyMm) / map.die.heightMm } : null;
  const words = cells ? imprintFound(cells, pressed).words : "";
  return (
    <Sheet title="Found">
      <dl className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-4 gap-y-2">
        <dt className="text-soft">Screws out</dt>
        <dd className="font-semibold">
          {found.out.length}
          {found.counted !== null && found.counted !== found.out.length && (
            <span className="text-amber"> · {found.counted} counted on the tray</span>
          )}
        </dd>
        <dt className="text-soft">Seal</dt>
        <dd>{found.seal ?? "not looked at"}</dd>
        <dt className="text-soft">Old compound</dt>
        <dd>{found.compound ?? "not looked at"}</dd>
        <dt className="text-soft">Hands</dt>
        <dd>{Math.round(minutes)} min</dd>
      </dl>
      {cells && (
        <div className="mt-3 flex gap-4">
          <ImprintPicture cells={cells} aspect={map.die ? map.die.heightMm / map.die.widthMm : 1} />
          <p className="min-w-0 flex-1">{words || "The compound covered the whole die."}</p>
        </div>
      )}
      {found.odd.length > 0 && (
        <>
          <h3 className="mt-3 font-semibold">Different</h3>
          <ul>
            {found.odd.map(({ stepId, what, kind, text }) => (
              <li key={stepId} className="text-amber">
                {what}: {kind}
                {text && `, ${text}`}
              </li>
            ))}
          </ul>
        </>
      )}
    </Sheet>
  );
}
