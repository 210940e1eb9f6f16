import { type BoardMap, layerOf, type MapScrew, pullingScrews, screwWords } from "../boardmap/index.ts";
import { countOf } from "../service/index.ts";
import { type Folded, valueOf } from "./marks.ts";
import { type HandStep, handStep, type PlannedTurn } from "./step.ts";
import { LAYER_WORDS, plugStep, STEP, type StripFound } from "./strip.ts";
import { tensionSteps } from "./turns.ts";

export interface CloseUpInput {
  map: BoardMap;
  folded: Folded;
  found: StripFound;
  /** The tightening plan; null where it can't be computed, or is not yet. */
  turns: readonly PlannedTurn[] | null;
  /** Pads that are planned: how many, and their films (two a pad and layer). */
  pads: { places: number; films: number };
  /** What the compound is, as it was noted or taken from the stock. */
  compound: CompoundOn | null;
  /** Where the board will bow most, and by how much; null where nobody can tell. */
  bow: { mm: number; xMm: number; yMm: number } | null;
  /** Pads that will not touch. */
  apart: readonly string[];
  /** What the imprint speaks for. */
  imprint: string;
  /** Minutes since the compound was ticked as put on; undefined where it was not ticked here. */
  putOnMin?: number | undefined;
  /** Another cooler that goes on in place of the original; null where that one goes back. */
  other: OtherCooler | null;
}

export interface OtherCooler {
  name: string;
  /** Water runs through it. */
  wet: boolean;
  /** Its screws by kind, such as “4 × short (M2.5 × 8)”. */
  screws: string;
  /** Screws of the original that stay off. */
  keptOff: readonly string[];
}

export interface CompoundOn {
  name: string;
  kind: "paste" | "phase-change" | "liquid metal" | "putty" | "adhesive" | "other";
}

/**
 * How long a compound may lie open before it is closed, minutes (common practice, no source: what its maker states comes first); null for
 * what does not set or skin over.
 */
const OPEN_MIN: Readonly<Record<CompoundOn["kind"], number | null>> = {
  paste: 60,
  "phase-change": null,
  "liquid metal": null,
  putty: 240,
  adhesive: 5,
  other: 30,
};

export const CLOSE = { films: "films", age: "age", bow: "bow", count: "back", leak: "leak" } as const;
const READY = "Nothing forgotten";
const DOWN = "Lower it";
const TURN = "Tighten";
const END = "Before power";

export const backId = (screwId: string): string => `back:${screwId}`;

/** All steps of closing a card, in order: what must not be forgotten, plugs first, screws by the plan, layers back on, the count. */
export function closeUpSteps(input: CloseUpInput): HandStep[] {
  const { map, found, turns, bow, apart, other } = input;
  const pulling = pullingScrews(map);
  const ids = new Set(pulling.map(({ id }) => id));
  const outer = found.layers.filter((layer) => layer !== "cooler").reverse();
  const inner = outer.filter((layer) => isInside(layer, map));
  const outside = outer.filter((layer) => !isInside(layer, map));
  const coolerPlugs = map.plugs.filter(({ layer }) => layer === "cooler");
  const odd = found.odd.filter(({ kind }) => kind !== "different");
  const loose = map.screws.filter((screw) => layerOf(screw) === "cooler" && !screw.leaveAlone && !ids.has(screw.id));
  return [
    ...ready(input),
    ...odd.map(({ stepId, what, kind, text }) =>
      handStep(`dealt:${stepId}`, "check", READY, `${what} was ${kind}${text ? ` (${text})` : ""}: put it right now`, {
        things: [what],
        detail: "A new screw of the same thread and length, or none and the reason noted.",
      }),
    ),
    ...inner.flatMap((layer) => layerBack(layer, input)),
    ...coolerPlugs
      .toSorted((a, b) => Number(b.feeds === "fan") - Number(a.feeds === "fan"))
      .map((plug) => plugStep(plug, DOWN, "in")),
    ...(coolerPlugs.length === 0
      ? [
          handStep("plug-in:fan", "check", DOWN, "Plug in the fans first", {
            cautions: ["cables"],
            detail: "The commonest fault is to forget this one.",
          }),
        ]
      : []),
    ...(other ? otherSteps(other) : []),
    handStep(
      "lower",
      "check",
      DOWN,
      other
        ? `Lower the card onto ${other.name}, posts in their holes, with a tiny wiggle`
        : "Lower the board onto the cooler, holes aligned, with a tiny wiggle",
      { photo: true, cautions: ["twoHands"] },
    ),
    handStep("bite", "check", TURN, "Turn all its screws to first bite, none further", {
      detail: [
        pulling.some(({ spring }) => spring === "leaf")
          ? "The leaf spring lies behind the board, an arm at each screw."
          : "",
        washerWords(pulling),
      ]
        .filter(Boolean)
        .join(" "),
      things: [...ids],
      side: "back",
      layer: "cooler",
    }),
    ...tensionSteps("tighten", turns, valueOf(input.folded, STEP.plan) !== null, map, TURN),
    ...loose.map((screw) => backStep(screw, TURN)),
    handStep(CLOSE.bow, "figure", TURN, bowText(bow), {
      figure: { label: "Gap under a straight edge (mm)", unit: "mm", least: 0, most: 5, optional: true },
      detail: "Lay a ruler on the board’s back and try a feeler, or take a photo along the edge.",
      side: "back",
      photo: true,
    }),
    handStep(
      "touch",
      "check",
      TURN,
      apart.length > 0
        ? `Look along the edge: ${apart.join(", ")} may not touch`
        : "Look along the edge: every pad touches",
      {
        things: apart,
        detail: [
          input.imprint,
          other &&
            "Hold a light behind it: where it shows under a face, back its screws off crosswise, set it anew and tighten again.",
        ]
          .filter(Boolean)
          .join(" "),
      },
    ),
    ...outside.flatMap((layer) => layerBack(layer, input)),
    handStep("badge", "check", END, "The badge is the right way up, cables lie in their channels"),
    handStep(CLOSE.count, "figure", END, "Count the screws left on the tray", {
      figure: { label: "Left over", unit: "", least: 0, most: 200, optional: false },
      detail: other
        ? `${countOf(other.keptOff.length, "screw")} of the original cooler stay off: into its bag with it.`
        : `${countOf(found.out.length, "screw")} came out.`,
      cautions: ["switchOnAgain"],
    }),
    ...(other?.wet
      ? [
          handStep(CLOSE.leak, "check", END, "Test the loop under pressure before any power", {
            detail: "Readings and verdict stand on the page of its cooler; the run after the work waits for them.",
            cautions: ["coolant"],
          }),
        ]
      : []),
  ];
}

const otherSteps = ({ name, screws }: OtherCooler): HandStep[] => [
  handStep("kit", "check", DOWN, `Lay out the screws of ${name}: ${screws || "by its mount sheet"}`, {
    detail: "Short and long ones go into their own holes: the mount sheet says which.",
  }),
  handStep("on-box", "check", DOWN, `Lay ${name} on its box, plate up, pads and compound on it`, { photo: true }),
];

const washerWords = (screws: readonly MapScrew[]): string => {
  const under = screws.filter(({ washerMm }) => washerMm > 0);
  return under.length > 0 ? `Washers again under ${under.map(({ id }) => id).join(", ")}.` : "";
};

/** A layer that lies between board and cooler goes back on before the cooler. */
const isInside = (layer: StripFound["layers"][number], map: BoardMap): boolean =>
  map.layers.findIndex(({ id }) => id === layer) > map.layers.findIndex(({ id }) => id === "cooler");

/** Beyond this a board stands askew rather than bent: the map is wrong, or its pads. */
const MOST_BOW_MM = 1.5;

function bowText(bow: CloseUpInput["bow"]): string {
  if (!bow) return "Look along the edge: is the board flat?";
  if (bow.mm > MOST_BOW_MM) return "By its map the die does not sit level between its screws: look along the edge";
  if (bow.mm < 0.05) return "The board should stay flat: measure the bow behind the die";
  return `The board should bow by ${bow.mm.toFixed(2)} mm near x ${Math.round(bow.xMm)}, y ${Math.round(bow.yMm)} mm: measure it there`;
}

function ready({ pads, compound, folded, putOnMin }: CloseUpInput): HandStep[] {
  const most = compound ? OPEN_MIN[compound.kind] : OPEN_MIN.paste;
  return [
    handStep("clean", "check", READY, "Die and plate are clean to a mirror, no fluff, nothing is still drying"),
    ...(pads.places > 0
      ? [
          handStep("padded", "check", READY, `All ${pads.places} places have their pads, as on the plan`, {
            photo: true,
          }),
          handStep(CLOSE.films, "figure", READY, "Count the films you peeled", {
            figure: { label: "Films", unit: "", least: 0, most: 1000, optional: false },
            detail: `Two a pad: ${pads.films}.`,
          }),
        ]
      : [handStep("padded", "check", READY, "Every place has its pad again, no film on it", { photo: true })]),
    handStep(CLOSE.age, "figure", READY, `How long has ${compound ? compound.name : "the compound"} been on?`, {
      figure: { label: "Minutes", unit: "min", least: 0, most: 100_000, optional: false, known: putOnMin },
      detail: [
        putOnMin === undefined ? "" : `${putOnMin} min by when its step was ticked.`,
        most === null
          ? "It does not set: what its maker states comes first."
          : `Close it within ${most} min; what its maker states comes first.`,
      ]
        .filter(Boolean)
        .join(" "),
    }),
    ...(compound?.kind === "adhesive" && (folded.get(CLOSE.age)?.done ?? false)
      ? [handStep("not-set", "check", READY, "The adhesive is still soft, and the cooler closed over it on trial")]
      : []),
  ];
}

function layerBack(layer: StripFound["layers"][number], { map, found }: CloseUpInput): HandStep[] {
  const words = LAYER_WORDS[layer];
  const group = words.charAt(0).toUpperCase() + words.slice(1);
  const screws = map.screws.filter((screw) => layerOf(screw) === layer && found.out.includes(screw.id));
  return [
    ...map.plugs.filter((plug) => plug.layer === layer).map((plug) => plugStep(plug, group, "in")),
    handStep(`on:${layer}`, "lift", group, `Put the ${words} back`, { layer, things: screws.map(({ id }) => id) }),
    ...screws.map((screw) => backStep(screw, group)),
  ];
}

const backStep = (screw: MapScrew, group: string): HandStep =>
  handStep(backId(screw.id), "screw", group, `Put ${screw.id} back: ${screwWords(screw)}`, {
    things: [screw.id],
    side: screw.side,
    layer: layerOf(screw),
  });

/** Something that does not add up at a step, in words; empty where it does. */
export function closeUpFault(stepId: string, { pads, compound, folded, found, bow, other }: CloseUpInput): string {
  const typed = valueOf(folded, stepId);
  if (typed === null) return "";
  const value = Number(typed);
  switch (stepId) {
    case CLOSE.films:
      return value === pads.films
        ? ""
        : value < pads.films
          ? `${value} of ${pads.films}: ${countOf(pads.films - value, "film")} may still be on a pad. Look at every pad again.`
          : `${value} are more than the ${pads.films} of the plan: a pad more than planned, or counted twice?`;
    case CLOSE.age: {
      const most = compound ? OPEN_MIN[compound.kind] : OPEN_MIN.paste;
      return most === null || value <= most
        ? ""
        : `${value} min is over ${most}: wipe it off and put on fresh, unless its maker states more.`;
    }
    case CLOSE.count:
      return value === (other?.keptOff.length ?? 0)
        ? ""
        : value > found.out.length
          ? `${value} are left over and only ${found.out.length} came out: more than came out can't be left. Count again, or note what is extra.`
          : other
            ? `${value} left over, ${other.keptOff.length} belong to the original cooler: ${value > other.keptOff.length ? "find the hole before you power it" : "look for the others"}.`
            : `${countOf(value, "screw")} left over: find the hole before you power it.`;
    case CLOSE.bow:
      return bow && value > Math.max(0.3, 2 * bow.mm)
        ? `${value} mm is more than the ${bow.mm.toFixed(2)} mm to be expected: a pad too thick, or a screw too tight. Loosen and look before power.`
        : "";
    default:
      return "";
  }
}

/** The same for taking apart: the count of the tray against what was ticked. */
export function stripFault(stepId: string, found: StripFound): string {
  if (stepId !== "count" || found.counted === null) return "";
  const { counted, out } = found;
  if (counted === out.length) return "";
  return counted > out.length
    ? `${counted} lie there and ${out.length} were ticked off: ${countOf(counted - out.length, "screw")} more. Note where they came from.`
    : `${counted} of ${out.length} lie there: ${countOf(out.length - counted, "screw")} missing. Look on the bench and in the shroud now.`;
}
