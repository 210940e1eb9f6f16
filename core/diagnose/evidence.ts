import { CAUSE_WORDS, type Cause, SHOWS, SYMPTOM_KEYS, type SymptomKey } from "./causes.ts";
import { type Healthy, rangeOf, symptomOf } from "./expected.ts";
import type { Symptoms } from "./symptoms.ts";

const one = (value: number): string => value.toFixed(1);
const two = (value: number): string => value.toFixed(value < 0.1 ? 3 : 2);

const LABELS: Record<SymptomKey, string> = {
  fast: "jump through die and compound",
  slow: "rise over plate, fins and air",
  gap: "hotspot gap",
  memory: "memory over the cold plate",
  vrm: "VRM over the cold plate",
};

/** How far a symptom lies from what is healthy, in standard deviations. */
function distance(key: SymptomKey, symptoms: Symptoms, healthy: Healthy): number {
  const found = symptomOf(symptoms, key);
  if (!found) return 0;
  const { median, spread } = healthy.symptoms[key];
  const sd = Math.hypot(spread, found.sd / Math.max(found.value, median));
  return Math.log(Math.max(1.5, found.value) / median) / sd;
}

function sentence(key: SymptomKey, symptoms: Symptoms, healthy: Healthy): string {
  const found = symptomOf(symptoms, key);
  if (!found) return "";
  const expected = healthy.symptoms[key];
  const [low, high] = rangeOf(expected);
  const power = symptoms.powerW;
  const whose = {
    "usual cards": "usual cards",
    "healthy run": "the healthy run, at these conditions",
    "board model": "healthy cards of this board, at these conditions",
  }[healthy.source];
  const perWatt = power ? ` (${two(found.value / power)} K/W; ${whose}: ${two(expected.median / power)})` : "";
  if (key === "fast" && symptoms.step)
    return `Within ${symptoms.step.withinS} s of the load step the edge moved ${one(symptoms.step.seenK)} K; ${one(found.value)} K of the rise is die and compound${perWatt}.`;
  return `The ${LABELS[key]} is ${one(found.value)} K${perWatt}; healthy is ${one(low)} to ${one(high)} K.`;
}

function fanSentences({ fansRpm, twinLn, rpmPerPctLn, fanRpm, fanPct }: Symptoms, healthy: Healthy): string[] {
  const words: string[] = [];
  if (twinLn) {
    const percent = 100 * (1 - Math.exp(twinLn.value));
    words.push(
      `Fans turn at ${fansRpm.map((rpm) => rpm.toFixed(0)).join(" and ")} rpm: the slowest is ${percent.toFixed(0)} % behind.`,
    );
  }
  if (rpmPerPctLn && fanRpm !== undefined && fanPct !== undefined)
    words.push(
      `At ${fanPct.toFixed(0)} % duty the fans turn at ${fanRpm.toFixed(0)} rpm; expected about ${(Math.exp(healthy.rpmPerPctLn.mean) * fanPct).toFixed(0)}.`,
    );
  return words;
}

/** The sentences that speak for (or, for `healthy`, plainly describe) a cause, strongest first. */
export function evidenceFor(cause: Cause, symptoms: Symptoms, healthy: Healthy): string[] {
  if (cause === "fan-fault") {
    const words = fanSentences(symptoms, healthy);
    return words.length > 0 ? words : ["The log has no fan speed: a fault of the fans can't be seen."];
  }
  if (cause === "hot-room")
    return symptoms.roomC
      ? [`The room air is ${one(symptoms.roomC.value)} °C; usual is about ${one(healthy.roomC.mean)} °C.`]
      : ["Room air is missing: whether the room is hot can't be told."];
  const shown = cause === "healthy" ? undefined : SHOWS[cause](0.5);
  const words = SYMPTOM_KEYS.filter((key) => symptomOf(symptoms, key) && (!shown || shown[key] !== 1))
    .sort((a, b) => Math.abs(distance(b, symptoms, healthy)) - Math.abs(distance(a, symptoms, healthy)))
    .map((key) => sentence(key, symptoms, healthy));
  if (words.length > 0) return words;
  return [`The log has none of the readings that would show ${CAUSE_WORDS[cause]}.`];
}

/** What this log can't tell. */
export function limitsOf(symptoms: Symptoms, healthy: Healthy): string[] {
  const limits: string[] = [];
  if (!symptoms.fastK)
    limits.push(
      symptoms.powerW
        ? "No load step inside the log: compound can't be told from fins and air. Log a minute of idle before and after the load."
        : "No power in the log: figures per watt can't be given. Log the board's power.",
    );
  else if (symptoms.fastK.sd / symptoms.fastK.value > 0.2)
    limits.push(
      `The jump at the load step is known to ± ${one(1.96 * symptoms.fastK.sd)} K only, with readings every ${symptoms.intervalS} s in steps of ${symptoms.stepK} K.`,
    );
  if (!symptoms.gapK) limits.push("No hotspot beside the edge: tilted or poor die contact can't be told well.");
  if (!symptoms.memoryK) limits.push("Memory can't be judged from this log: read it with an infrared thermometer.");
  if (!symptoms.vrmK) limits.push("The VRM can't be judged from this log: read it with an infrared thermometer.");
  if (!symptoms.roomC) limits.push("Room air is missing: how well fins and fans work can't be told.");
  if (symptoms.fansRpm.length === 0) limits.push("No fan speed in the log: a weak fan can't be told.");
  if (symptoms.throttled) limits.push("The card throttled: figures hold for the power it was left with.");
  if (healthy.source === "usual cards")
    limits.push("No healthy run to compare with: judged against usual cards, whose figures lie far apart.");
  return limits;
}
