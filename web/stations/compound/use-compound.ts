import { useEffect, useMemo, useState } from "react";
import type { ServiceView } from "#contract";
import { EMPTY_MAP } from "#core/boardmap/index.ts";
import {
  COMPOUND_KINDS,
  type DieCompound,
  doseUl,
  PATTERNS,
  type Pattern,
  type Pressing,
  patternOf,
  type SpreadInput,
  usualDoseUl,
} from "#core/compound/index.ts";
import { COMPOUND, type CompoundPlan, readCompoundPlan, valueOf } from "#core/handwork/index.ts";
import type { ProblemDetail } from "#core/problem/index.ts";
import { api } from "../../app/api.ts";
import { padJobWith, useFitted } from "../../parts/cooler/fitted.ts";
import { padWorkOf } from "../../parts/pads/pad-work.ts";
import { useMarks } from "../../parts/steps/use-marks.ts";
import { newestOnly } from "../../workers/newest-only.ts";
import { BROKEN, useJudgement, usePadSession } from "../../workers/use-pad-session.ts";

/** Cells while something is dragged, and once it lies still, mm. */
const COARSE_MM = 0.5;
const FINE_MM = 0.25;
const STILL_MS = 250;
const USUAL_DENSITY = 2.5;
const LIQUID_METAL_DENSITY = 6.4;
const USUAL_NOZZLE_MM = 2;

/** On the die, as it usually is: 35 psi (common practice, no source). */
const USUAL_KPA = 241;
const PRESSURE = "pressure";
const DIE = { width: "die-width", height: "die-height" } as const;

/** Everything of the station: die, choice, beads, what they come to when pressed, marks. */
export function useCompound(service: ServiceView, isLooking: boolean) {
  const { data: ownJob, error } = api.usePadsQuery(service.id);
  const { fitted } = useFitted(service.id);
  const job = useMemo(() => ownJob && padJobWith(ownJob, fitted), [ownJob, fitted]);
  const { data: stores } = api.useStoresQuery();
  const { data: facts } = api.useCompoundFactsQuery(service.id);
  const marks = useMarks(service.id, "compound", service.attempts.length, isLooking);
  const map = job?.map ?? EMPTY_MAP;
  const typedDie = dieOf(valueOf(marks.folded, DIE.width), valueOf(marks.folded, DIE.height));
  const die = map.die ? { widthMm: map.die.widthMm, heightMm: map.die.heightMm } : typedDie;
  const kept = useMemo(() => readCompoundPlan(marks.folded), [marks.folded]);
  /** While it is dragged or typed. */
  const [draft, setDraft] = useState<CompoundPlan | null>(null);
  const plan = draft ?? kept;
  const keep = (next: CompoundPlan): void => {
    setDraft(null);
    marks.mark({ stepId: COMPOUND.plan, what: "value", value: next.kind, text: JSON.stringify(next, rounded) });
  };
  const input = useMemo(
    (): SpreadInput | null =>
      plan && die
        ? {
            die: { widthMm: die.widthMm, heightMm: die.heightMm },
            beads: plan.beads,
            filmUm: plan.filmUm,
            bondLineUm: plan.bondLineUm,
            densityGPerMl: plan.densityGPerMl,
          }
        : null,
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- the die by its sizes
    [plan, die?.widthMm, die?.heightMm],
  );
  const remote = usePadSession();
  const work = useMemo(() => padWorkOf(job, stores), [job, stores]);
  const hasPads = Object.values(work?.picks ?? {}).some(Boolean);
  const { judgement } = useJudgement(remote, (hasPads && work) || null);
  const reckonedKPa = judgement?.seated ? judgement.contact.die.meanPressureKPa : null;
  return {
    ready: marks.ready && job !== undefined && stores !== undefined && facts !== undefined,
    error: error ?? marks.error,
    marks,
    map,
    die,
    hasMapDie: map.die !== null,
    pressureKPa: Number(valueOf(marks.folded, PRESSURE) ?? reckonedKPa ?? USUAL_KPA),
    /** By screws, pads and board of this card, where its pads are planned and it seats. */
    reckonedKPa,
    typePressure: (kPa: number) => marks.mark({ stepId: PRESSURE, what: "value", value: String(kPa) }),
    typeDie: (side: keyof typeof DIE, mm: number) =>
      marks.mark({ stepId: DIE[side], what: "value", value: String(mm) }),
    typed: { width: valueOf(marks.folded, DIE.width), height: valueOf(marks.folded, DIE.height) },
    stores,
    facts,
    plan,
    isDraft: draft !== null,
    change: setDraft,
    keep,
    doseUl: plan && die ? doseUl({ die, beads: plan.beads, filmUm: plan.filmUm }) : 0,
    input,
    remote,
    pressed: usePressed(remote, input),
  };
}

export type Compound = ReturnType<typeof useCompound>;

const rounded = (_key: string, value: unknown): unknown =>
  typeof value === "number" ? Math.round(value * 1e4) / 1e4 : value;

function dieOf(width: string | null, height: string | null): { widthMm: number; heightMm: number } | null {
  const [widthMm, heightMm] = [Number(width), Number(height)];
  return widthMm > 0 && heightMm > 0 ? { widthMm, heightMm } : null;
}

/** A plan to begin with, for a compound on this die. */
export function startPlan(
  material: { id: string | null; name: string; kind: DieCompound; densityGPerMl: number | null },
  die: { widthMm: number; heightMm: number },
  bondLineUm: number,
): CompoundPlan {
  const kind = COMPOUND_KINDS[material.kind];
  const pattern: Pattern = kind.conducts ? "spread" : "dot";
  const dose = Math.ceil(usualDoseUl(pattern, die, bondLineUm) * 10) / 10;
  return {
    materialId: material.id,
    name: material.name,
    kind: material.kind,
    pattern: PATTERNS[pattern],
    ...patternOf(pattern, die, dose),
    bondLineUm,
    densityGPerMl: material.densityGPerMl ?? (kind.conducts ? LIQUID_METAL_DENSITY : USUAL_DENSITY),
    nozzleMm: USUAL_NOZZLE_MM,
  };
}

export interface Pressed {
  found: Pressing | null;
  problem: ProblemDetail | null;
  leastDoseUl: number | null | undefined;
}

/** Follows beads while they are dragged, on large cells; once they lie still, on small ones, with the least dose. */
function usePressed(remote: ReturnType<typeof usePadSession>, input: SpreadInput | null): Pressed {
  const [state, setState] = useState<Pressed>({ found: null, problem: null, leastDoseUl: undefined });
  const ask = useMemo(
    () =>
      remote &&
      newestOnly(
        ({ task, cellMm }: { task: SpreadInput; cellMm: number }) =>
          remote.press(task, cellMm).catch(() => ({ problem: BROKEN })),
        (answer) =>
          setState((last) =>
            "ok" in answer
              ? { ...last, found: answer.ok, problem: null }
              : { found: null, problem: answer.problem, leastDoseUl: undefined },
          ),
      ),
    [remote],
  );
  useEffect(() => {
    if (!ask || !remote || !input) return undefined;
    let isGone = false;
    setState((last) => ({ ...last, leastDoseUl: undefined }));
    ask({ task: input, cellMm: COARSE_MM });
    const timer = setTimeout(() => {
      ask({ task: input, cellMm: FINE_MM });
      void remote
        .leastDose(input)
        .catch(() => ({ problem: BROKEN }))
        .then((answer) => {
          if (!isGone && "ok" in answer) setState((last) => ({ ...last, leastDoseUl: answer.ok.leastDoseUl }));
        });
    }, STILL_MS);
    return () => {
      isGone = true;
      clearTimeout(timer);
    };
  }, [ask, remote, input]);
  return state;
}
