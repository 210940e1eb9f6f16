import { type Quantity, type Unit, unitOf } from "../units/index.ts";
import type { Role } from "./role.ts";

/** What a header says by itself, before the values or the other columns are looked at. */
export interface HeaderGuess {
  role: Role | null;
  unit: Unit | undefined;
  sure: boolean;
  /** Higher wins where a role can be held once. */
  strength: number;
  /** For power columns: the header says that this is the whole board. */
  boardTotal: boolean;
  /** The words could name a clock column of the log itself. */
  timeWords: boolean;
}

const QUANTITY_WORDS: ReadonlyArray<readonly [Quantity, RegExp]> = [
  ["speed", /\brpm\b|drehzahl|tachy|\btach|regime/],
  [
    "share",
    /\bduty\b|\bpwm\b|\bpct\b|percent|prozent|\bload\b|\butil|utili[sz]|usage|auslastung|\blast\b|\bcharge\b|\bbusy\b/,
  ],
  ["temperature", /temp(?!s\b)|celsius|fahrenheit|therm|hot ?spot|junction|point chaud|\bedge\b|ambient|ambiant/],
  ["frequency", /clock|\bclk\b|takt|frequen|freq\b|horloge/],
  ["frames", /frame ?rate|\bfps\b|bildrate|images par/],
  ["sound", /sound|noise|schall|lautst|bruit|\bspl\b/],
  ["voltage", /volt|spannung(?!swandler)|tension|\bvcore\b|\bvddc\b/],
  ["power", /power|watt|leistung|puissance|\btbp\b|\btgp\b|\btdp\b|verbrauch|consommation/],
];

const FAN = /fan|lufter|luefter|ventil/;
const FOREIGN =
  /cpu|processor|prozessor|processeur|\bdrive\b|\bssd\b|\bhdd\b|nvme|\bdisk|festplatte|laufwerk|disque|main ?board|mother ?board|hauptplatine|carte mere|chip ?set|\bpch\b|dimm|\bram\b|arbeitsspeicher|memoire vive|netzteil|\bpsu\b|alimentation|\bigpu\b|\bcore ?#? ?\d|\bcores?\b.*\b(max|average|avg)\b|\bsystem\b|\bboard\b|\bplatine\b/;
const FOREIGN_FAN = /cpu|chassis|\bcase\b|gehause|gehaeuse|boitier|\bsystem\b|pump|\bpsu\b/;
const OWN_CARD = /gpu|graphic|grafik|graphique|video card|\bcard\b|\bkarte\b|\bvga\b/;
const MEMORY = /\bmem|memory|v ?ram|speicher|memoire|gddr|\bhbm/;
/** Places that name a temperature even without a unit or the word for it. */
const PLACES = /\braum|\broom|inlet|intake|zuluft|\bdie\b|\bvrm\d?\b|^tc? ?\d+$|probe|sonde|fuhler|fuehler|thermistor/;
const LIMIT = /limit|\bcap\b|target|grenze|plafond|\btdp\b|begrenzung|\bmax\b|soll|consigne/;
const TIME =
  /\btime\b|timestamp|\bzeit|uhrzeit|\btemps\b|elapsed|\bdate\b|datum|heure|horodat|^seconds?$|^sekunden?$|^secondes?$|epoch|\bclock time\b|vergangen|ecoule|^t$|^ts$|zeitstempel|time ?stamp/;

/** Nobody names a column at such length; patterns are tried on so much of it. */
const LONGEST_NAME = 200;

/** A column's name as it is known by: one of usual length as it stands, a longer one with its blanks drawn together and cut. */
export const nameOf = (header: string): string =>
  header.length <= LONGEST_NAME ? header : header.replace(/\s+/g, " ").trim().slice(0, LONGEST_NAME);

/** Splits camel case, drops accents and case, turns underscores and dots into spaces. */
export function plainWords(header: string): string {
  return header
    .replace(/([a-zäöüéèç0-9])([A-Z])/g, "$1 $2")
    .replace(/ß/g, "ss")
    .normalize("NFD")
    .replace(/[\u0300-\u036f]/g, "")
    .toLowerCase()
    .replace(/[_.:;|/\\"'’-]+/g, " ")
    .replace(/\s+/g, " ")
    .trim();
}

/** The unit written in a header: in brackets, after a comma, or as the last word. */
export function headerUnit(written: string): { unit: Unit | undefined; words: string } {
  const header = written.replace(/db\s?\(a\)/i, "dBA");
  const brackets = [...header.matchAll(/[[({]([^\])}]*)[\])}]/g)].reverse();
  for (const found of brackets) {
    const unit = unitOf(found[1] ?? "");
    if (unit) return { unit, words: plainWords(header.replace(found[0], " ").replace(/[[\](){}]/g, " ")) };
  }
  const open = header.replace(/[[\](){}]/g, " ").trim();
  const tail = /^(.*?)(?:[\s_,;:/-]+in)?[\s_,;:-]+([^\s_,;:]+|deg\s+[cf]|degrees?\s+[cf]|grad\s+[cf]\S*)$/i.exec(open);
  if (tail) {
    const unit = unitOf(tail[2] ?? "");
    if (unit && tail[1]) return { unit, words: plainWords(tail[1]) };
  }
  const per = /^(.*?)[\s_,-]*(U\/min|tr\/min|1\/min|r\/min|rev\/min|dB\(A\)|°C|°F|%)$/i.exec(header.trim());
  if (per) {
    const unit = unitOf(per[2] ?? "");
    if (unit) return { unit, words: plainWords(per[1] ?? "") };
  }
  const camel = /^(.*[a-z0-9])(C|F|W|V|S|Rpm|RPM|Pct|MHz|Mhz|GHz|Ghz|Ms|DbA|Dba|DBA|dBA)$/.exec(open);
  if (camel) {
    const unit = unitOf(camel[2] ?? "");
    if (unit) return { unit, words: plainWords(camel[1] ?? "") };
  }
  return { unit: undefined, words: plainWords(open) };
}

/**
 * Guesses a column's role from its header alone, in English, German or French.
 * A temperature that names no known place is a `probe`; one of another part of the computer always is.
 */
export function guessFromHeader(header: string, fallback?: Unit): HeaderGuess {
  const read = headerUnit(nameOf(header));
  const unit = read.unit ?? fallback;
  const words = read.words;
  const none = { unit, boardTotal: false, timeWords: TIME.test(words) && !/frame/.test(words) };
  const quantity = unit?.quantity ?? QUANTITY_WORDS.find(([, pattern]) => pattern.test(words))?.[0];
  const say = (role: Role | null, sure: boolean, strength = sure ? 2 : 1, boardTotal = false): HeaderGuess => ({
    ...none,
    role,
    sure,
    strength,
    boardTotal,
  });
  const foreign = FOREIGN.test(words) && !(OWN_CARD.test(words) && !/cpu|\bboard\b|\bplatine\b/.test(words));
  const explicit = unit !== undefined;

  if (FAN.test(words) && quantity !== "temperature" && quantity !== "sound" && quantity !== "power") {
    if (FOREIGN_FAN.test(words) || LIMIT.test(words)) return say(null, true);
    if (quantity === "speed") return say("fanRpm", true);
    if (quantity === "share") return say("fanPct", true);
    return quantity === undefined ? say("fanRpm", false) : say(null, false);
  }
  switch (quantity) {
    case "temperature":
      return guessTemperature(words, foreign, explicit, say);
    case "speed":
      return FOREIGN_FAN.test(words) ? say(null, true) : say("fanRpm", explicit && OWN_CARD.test(words));
    case "share":
      if (foreign || MEMORY.test(words) || /video|bus|encod|decod|copy|3d|compute|power|tdp|leistung/.test(words))
        return say(/\b3d\b/.test(words) && !foreign ? "load" : null, false);
      if (/load|util|usage|auslastung|\blast\b|\bcharge\b|busy|occupation/.test(words))
        return say("load", OWN_CARD.test(words) || /^(load|auslastung|last|charge|utili[sz]ation|usage)$/.test(words));
      return say(null, false);
    case "power":
      if (foreign && !/total|\bboard\b|\bplatine\b/.test(words)) return say(null, true);
      if (/cpu|wall|steckdose|prise|\bpsu\b|\bsystem\b/.test(words)) return say(null, true);
      if (LIMIT.test(words)) return say("powerLimit", true);
      return say(
        "power",
        explicit,
        explicit ? 2 : 1,
        /total|\bboard\b|\bcard\b|\bkarte\b|\bcarte\b|\btbp\b|\btgp\b|gesamt|grafikkarte|platine/.test(words),
      );
    case "frequency":
      if (foreign || LIMIT.test(words) || /video|\bbus\b|\bsoc\b|fabric|uncore/.test(words)) return say(null, true);
      if (MEMORY.test(words)) return say("memoryClock", true);
      return say("coreClock", OWN_CARD.test(words) || /core|kern|coeur|\bclock\b|takt/.test(words));
    case "voltage":
      if (foreign || /12 ?v|3 ?3 ?v|5 ?v|pcie|input|eingang|entree/.test(words)) return say(null, true);
      return say(MEMORY.test(words) ? null : "voltage", OWN_CARD.test(words) || /core|kern|vddc/.test(words));
    case "sound":
      return say("sound", explicit);
    case "frames":
      return say("frameRate", true);
    default:
      if (quantity === undefined && PLACES.test(words))
        return { ...guessTemperature(words, foreign, false, say), sure: false };
      return say(null, quantity === "other");
  }
}

function guessTemperature(
  words: string,
  foreign: boolean,
  explicit: boolean,
  say: (role: Role | null, sure: boolean, strength?: number) => HeaderGuess,
): HeaderGuess {
  if (LIMIT.test(words) && /limit|target|throttle|grenze|consigne/.test(words)) return say(null, true);
  if (foreign) return say("probe", true);
  if (/exhaust|abluft|outlet|auslass|sortie|backplate/.test(words)) return say("probe", true);
  if (MEMORY.test(words)) return say("memory", true, 3);
  if (/hot ?spot|junction|\btj\b|\btjunc|point chaud|heissester|heisspunkt|heisste/.test(words))
    return say("hotspot", true, 3);
  if (/\bvrm|mosfet|\bvr\b|spannungswandler|wandler|regulateur|power stage|spannungsregler/.test(words))
    return say("vrm", true, 3);
  if (/coolant|\bwater|liquid|\bloop\b|wasser|kuhlmittel|kuehlmittel|kuhlflussig|\beau\b/.test(words))
    return say("coolant", true, 3);
  if (
    /ambient|\broom|inlet|intake|raum|umgebung|zimmer|zuluft|ansaug|ambian|\bpiece\b|\bsalle\b|entree d|\bair\b|\bluft\b/.test(
      words,
    )
  )
    return say("ambient", true, /inlet|intake|zuluft|ansaug|entree/.test(words) ? 3 : 4);
  if (/\bedge\b|\bdie\b|\brand\b/.test(words)) return say("edge", true, 4);
  if (OWN_CARD.test(words))
    return say(
      "edge",
      true,
      /^(gpu|grafik\w*|carte graphique|graphics card)?\s?(core|kern)?\s?temp\w*$|^gpu( core)?$/.test(words) ? 3 : 2,
    );
  if (/\bcore\b|\bkern|\bpuce\b|\bchip\b|coeur/.test(words)) return say("edge", explicit, 1.5);
  if (/^temp\w*$/.test(words)) return say("edge", false, 0.5);
  return say("probe", explicit);
}
