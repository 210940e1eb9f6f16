import { useEffect, useRef, useState } from "react";
import {
  type Bead,
  beadWidthMm,
  type Moment,
  PATTERNS,
  type Pattern,
  patternOf,
  usualDoseUl,
} from "#core/compound/index.ts";
import { type CompoundPlan, doseWords } from "#core/handwork/index.ts";
import { Button } from "../../ui/button.tsx";
import { SelectField } from "../../ui/field.tsx";
import { figure } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import { Working } from "../../ui/working.tsx";
import { DiePicture } from "./die-picture.tsx";
import type { Compound } from "./use-compound.ts";

const OWN = "own beads";
const MOMENTS = 24;
const FRAME_MS = 90;
const CELL_MM = 0.5;

/** How it is put on: a school or own beads, the dose, and where it goes when the cooler comes down. */
export function PutOn({ compound }: { compound: Compound }) {
  const { plan, die, pressed, doseUl, change, keep } = compound;
  const play = usePlay(compound);
  if (!plan || !die) return null;
  const pattern = (Object.keys(PATTERNS) as Pattern[]).find((one) => PATTERNS[one] === plan.pattern);
  const setBeads = (beads: readonly Bead[], done = true): void => {
    play.stop();
    const next = { ...plan, beads, pattern: OWN };
    if (done) keep(next);
    else change(next);
  };
  const setDose = (ul: number | null): void => {
    if (ul === null || ul <= 0 || doseUl <= 0) return;
    const times = ul / doseUl;
    keep({
      ...plan,
      beads: plan.beads.map((bead) => ({ ...bead, volumeUl: bead.volumeUl * times })),
      filmUm: plan.filmUm * times,
    });
  };
  const shown = play.moment ?? pressed.found;
  return (
    <Sheet title={`Put ${plan.name} on`}>
      <div className="mb-3 grid grid-cols-2 gap-3 sm:grid-cols-4">
        <SelectField
          label="How"
          value={pattern ?? OWN}
          onChange={(event) => {
            const chosen = event.target.value;
            const one = (Object.keys(PATTERNS) as Pattern[]).find((name) => name === chosen);
            play.stop();
            if (one)
              keep({
                ...plan,
                pattern: PATTERNS[one],
                ...patternOf(one, die, usualDoseUl(one, die, plan.bondLineUm, doseUl)),
              });
            else keep({ ...plan, pattern: OWN });
          }}
        >
          {(Object.keys(PATTERNS) as Pattern[]).map((one) => (
            <option key={one} value={one}>
              {PATTERNS[one]}
            </option>
          ))}
          <option>{OWN}</option>
        </SelectField>
        <NumberField label="Dose" unit="µL" value={tenth(doseUl)} least={0.1} most={1000} onValue={setDose} />
        <NumberField
          label="Bond line"
          unit="µm"
          value={tenth(plan.bondLineUm)}
          least={5}
          most={500}
          onValue={(um) => um !== null && keep({ ...plan, bondLineUm: um })}
        />
        <NumberField
          label="Nozzle"
          unit="mm"
          value={plan.nozzleMm}
          least={0.2}
          most={6}
          onValue={(mm) => mm !== null && keep({ ...plan, nozzleMm: mm })}
        />
      </div>
      {pressed.problem && (
        <Note kind="fault" live title={pressed.problem.what}>
          {pressed.problem.remedy}
        </Note>
      )}
      <DiePicture
        die={die}
        beads={plan.beads}
        film={plan.filmUm > 0}
        outline={shown?.outline ?? []}
        label={`The die, ${figure(die.widthMm, 1)} × ${figure(die.heightMm, 1)} mm, with the compound`}
        onBead={(index, bead, done) => setBeads(plan.beads.with(index, bead), done)}
        onRemove={(index) => setBeads(plan.beads.filter((_bead, at) => at !== index))}
      />
      <div className="mt-2 flex flex-wrap items-center justify-center gap-2">
        <Button onClick={() => (play.isOn ? play.stop() : void play.start())}>
          {play.isOn ? "Stop" : "Play the closing"}
        </Button>
        <Button onClick={() => play.step(-1)} aria-label="A moment back">
          ‹
        </Button>
        <Button onClick={() => play.step(1)} aria-label="A moment on">
          ›
        </Button>
        <Button
          onClick={() => setBeads([...plan.beads, dotAt(die.widthMm / 2, die.heightMm / 2, Math.max(1, doseUl / 5))])}
        >
          Add a dot
        </Button>
        <Button
          onClick={() =>
            setBeads([
              ...plan.beads,
              {
                x1Mm: die.widthMm * 0.3,
                y1Mm: die.heightMm / 2,
                x2Mm: die.widthMm * 0.7,
                y2Mm: die.heightMm / 2,
                volumeUl: Math.max(1, doseUl / 4),
              },
            ])
          }
        >
          Add a line
        </Button>
      </div>
      {play.moment && (
        <p className="mt-1 text-center" role="status">
          Gap {figure(1000 * play.moment.gapMm, 0)} µm: {figure(play.moment.coveragePct, 0)} % covered
        </p>
      )}
      {pressed.found && !pressed.problem && <Comes compound={compound} plan={plan} />}
    </Sheet>
  );
}

const hundredth = (_key: string, value: unknown): unknown =>
  typeof value === "number" ? Math.round(value * 100) / 100 : value;
const tenth = (value: number): number => Math.round(value * 10) / 10;
const dotAt = (x: number, y: number, volumeUl: number): Bead => ({ x1Mm: x, y1Mm: y, x2Mm: x, y2Mm: y, volumeUl });

/** What it comes to, in figures a hand can use. */
function Comes({ compound, plan }: { compound: Compound; plan: CompoundPlan }) {
  const { pressed, doseUl } = compound;
  const { found, leastDoseUl } = pressed;
  if (!found) return null;
  const isShort = found.coveragePct < 99;
  return (
    <div className="mt-3 space-y-1">
      <p className="text-xl font-semibold" role="status">
        {figure(found.coveragePct, 1)} % of the die covered
        {isShort && <span className="text-amber"> · {figure(found.uncoveredMm2, 1)} mm² bare</span>}
      </p>
      <p>
        {figure(found.squeezedOutUl, 1)} µL squeezed out
        {found.enclosedAirMm2 > 0 && (
          <strong className="text-amber"> · air closed in over {figure(found.enclosedAirMm2, 0)} mm²</strong>
        )}
        {leastDoseUl !== undefined &&
          (leastDoseUl === null
            ? " · no dose of this pattern covers 99 %"
            : ` · least dose of this pattern: ${figure(leastDoseUl, 1)} µL`)}
      </p>
      <p>{doseWords(plan, doseUl)}</p>
      <TrueSize plan={plan} doseUl={doseUl} />
      <Working>
        <p>
          Two flat faces close slowly; the compound flows with the pressure that ∇²p = −1 gives within its outline, p =
          0 at every front and at the die’s edge (Reynolds; solved as an obstacle problem). Bond line of a paste: 131 µm
          × (yield stress / pressure)^0.166 (Prasher). A tilted or bowed die leaves more at one side.
        </p>
      </Working>
    </div>
  );
}

/** A dot of the whole dose, and the bead, as large as they are. */
function TrueSize({ plan, doseUl }: { plan: CompoundPlan; doseUl: number }) {
  const dotMm = beadWidthMm(0, doseUl);
  const beadMm = doseUl / ((Math.PI * plan.nozzleMm ** 2) / 4);
  const wide = Math.max(dotMm, Math.min(60, beadMm), 10) + 2;
  const high = Math.max(dotMm, plan.nozzleMm) + 6;
  return (
    <figure>
      <svg
        role="img"
        aria-label={`A dot of ${figure(dotMm, 1)} mm and a bead of ${figure(beadMm, 1)} mm, as large as they are`}
        width={`${wide + dotMm + 4}mm`}
        height={`${high}mm`}
        viewBox={`0 0 ${wide + dotMm + 4} ${high}`}
        className="max-w-full"
      >
        <circle cx={dotMm / 2 + 1} cy={high / 2 - 2} r={dotMm / 2} fill="var(--soft)" />
        <line
          x1={dotMm + 4 + plan.nozzleMm / 2}
          x2={dotMm + 4 + plan.nozzleMm / 2 + Math.min(60, beadMm)}
          y1={high / 2 - 2}
          y2={high / 2 - 2}
          stroke="var(--soft)"
          strokeWidth={plan.nozzleMm}
          strokeLinecap="round"
        />
        <path
          d={`M1 ${high - 1}h10M1 ${high - 2}v2M11 ${high - 2}v2`}
          stroke="var(--ink)"
          strokeWidth={0.2}
          fill="none"
        />
      </svg>
      <figcaption className="text-sm text-soft">
        Hold it beside the die: a dot of the whole dose ({figure(dotMm, 1)} mm wide and high), or {figure(beadMm, 0)} mm
        of bead. True where the line below is 10 mm on your screen.
      </figcaption>
    </figure>
  );
}

/** The closing, played or stepped through. */
function usePlay({ remote, input }: Compound) {
  const [moments, setMoments] = useState<Moment[] | null>(null);
  const [at, setAt] = useState<number | null>(null);
  const [isOn, setOn] = useState(false);
  // By what it says: what is kept comes back as another object, a little rounded.
  const question = input && JSON.stringify(input, hundredth);
  const asked = useRef<string | null>(null);
  const load = async (): Promise<Moment[] | null> => {
    if (!remote || !input) return null;
    if (moments && asked.current === question) return moments;
    const answer = await remote.closing(input, MOMENTS, CELL_MM).catch(() => null);
    if (!answer || !("ok" in answer)) return null;
    asked.current = question;
    setMoments(answer.ok);
    return answer.ok;
  };
  useEffect(() => {
    if (!isOn) return undefined;
    const timer = setInterval(() => {
      setAt((now) => {
        const next = (now ?? -1) + 1;
        if (next < MOMENTS) return next;
        setOn(false);
        return MOMENTS - 1;
      });
    }, FRAME_MS);
    return () => clearInterval(timer);
  }, [isOn]);
  const isFresh = asked.current === question;
  return {
    isOn,
    moment: at !== null && isFresh ? (moments?.[at] ?? null) : null,
    start: async (): Promise<void> => {
      if (!(await load())) return;
      // Who wants nothing to move sees it pressed, and steps back through it.
      if (matchMedia("(prefers-reduced-motion: reduce)").matches) return setAt(MOMENTS - 1);
      setAt(0);
      setOn(true);
    },
    stop: (): void => {
      setOn(false);
      setAt(null);
    },
    step: (by: 1 | -1): void => {
      void load().then((found) => {
        setOn(false);
        if (found) setAt((now) => Math.min(MOMENTS - 1, Math.max(0, (now ?? (by > 0 ? -1 : MOMENTS)) + by)));
      });
    },
  };
}
