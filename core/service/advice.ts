import { fanFactor, USUAL_COOLING } from "../compare/index.ts";
import { type Advice, advise, expectedGain, type SimilarGain } from "../decide/index.ts";
import {
  type Diagnosis,
  diagnoseSymptoms,
  type History,
  type Opened,
  reachOf,
  type Symptoms,
} from "../diagnose/index.ts";
import { CARD_SENSORS } from "../runfile/index.ts";
import { type Analysis, temperatureOf } from "../soak/index.ts";
import { SLOW_PART_AIR_SHARE } from "../trade/index.ts";
import type { RunFacts } from "./facts.ts";

/** Runs after a service on other cards of the same board model: what healthy ones show here. */
export interface HealthySet {
  symptoms: readonly Symptoms[];
  /** Cards they come from. */
  cards: number;
}

/** What healthy cards of a board model show in this shop, K. */
export interface ModelFigures {
  meanK: number;
  sdK: number;
  cards: number;
}

/** Ranks the causes of a run (`analysis` says whether it was long enough) against the shop's own healthy runs of its board model, or usual cards where there are none; `history` is what is known of the card besides. */
export const diagnoseAgainst = (
  symptoms: Symptoms,
  healthy: HealthySet,
  analysis?: Analysis,
  history?: History,
  opened?: Opened,
): Diagnosis =>
  diagnoseSymptoms(symptoms, {
    history,
    opened,
    healthy: [...healthy.symptoms],
    healthySource: "board model",
    ...(analysis ? { reach: reachOf(analysis) } : {}),
  });

export interface AdviceFacts {
  /** The baseline run that it rests on. */
  run: Pick<RunFacts, "analysis">;
  symptoms: Symptoms;
  healthy: HealthySet;
  limits: Readonly<Record<`${(typeof CARD_SENSORS)[number]}C`, number | null>>;
  /** What services of other cards that began with the same leading cause brought. */
  similar: SimilarGain | null;
  card: { worth: number | null; ageYears: number | null; useKind: string; warranty: string };
}

/** Open it or leave it: diagnosis, the shop's own figures, limits, money and warranty brought together. */
export function adviceOf(
  { run, symptoms, healthy, limits, similar, card }: AdviceFacts,
  diagnosis: Diagnosis = diagnoseAgainst(symptoms, healthy, run.analysis),
) {
  const model = healthy.symptoms.length > 0 ? modelFigures(diagnosis, healthy.cards) : null;
  const roles = CARD_SENSORS.flatMap((role) => {
    const found = temperatureOf(run.analysis, role);
    if (!found || found.finalC === null) return [];
    return [{ role, valueC: found.finalC, riseK: found.riseK, riseU95K: found.riseU95K, limitC: limits[`${role}C`] }];
  });
  const advice: Advice = advise({
    riseK: symptoms.edgeRiseK ?? null,
    causes: diagnosis.findings,
    model: symptoms.edgeRiseK === undefined ? null : model,
    overLimit: roles.flatMap(({ role, valueC, limitC }) =>
      limitC !== null && valueC > limitC ? [{ role, valueC, limitC }] : [],
    ),
    expected: expectedGain(similar, physicsGainK(diagnosis)),
    ...card,
  });
  const { findings, known, minutesNeeded, notJudged, limits: untold } = diagnosis;
  return { advice, findings, known, minutesNeeded, notJudged, limits: untold, roles, model };
}

function modelFigures({ healthy }: Diagnosis, cards: number): ModelFigures {
  const { fast, slow } = healthy.symptoms;
  return {
    meanK: fast.median + slow.median,
    sdK: Math.hypot(fast.median * fast.spread, slow.median * slow.spread),
    cards,
  };
}

/** What the run shows beyond healthy figures at the place of its leading cause, K. */
function physicsGainK({ findings, symptoms, healthy }: Diagnosis): number {
  const over = (found: { value: number } | undefined, key: "fast" | "slow" | "memory" | "vrm"): number =>
    found ? Math.max(0, found.value - healthy.symptoms[key].median) : 0;
  switch (findings[0]?.cause) {
    case "memory-pads":
      return over(symptoms.memoryK, "memory");
    case "vrm-pads":
      return over(symptoms.vrmK, "vrm");
    case "fan-fault": {
      // What the air carries would fall with the speed that the duty should give.
      const { slowK, fanRpm, fanPct } = symptoms;
      if (!slowK || !fanRpm || !fanPct) return 0;
      const soundRpm = Math.exp(healthy.rpmPerPctLn.mean) * fanPct;
      return soundRpm > fanRpm
        ? slowK.value * (1 - fanFactor(USUAL_COOLING, SLOW_PART_AIR_SHARE, fanRpm, soundRpm).factor)
        : 0;
    }
    case "dust-or-airflow":
      return over(symptoms.slowK, "slow");
    case "dry-paste":
    case "cooler-held-off":
      return over(symptoms.fastK, "fast");
    default:
      return 0;
  }
}
