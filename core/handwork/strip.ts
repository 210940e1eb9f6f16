import {
  type BoardMap,
  type Layer,
  layerKnown,
  layerOf,
  type MapPlug,
  type MapScrew,
  pullingScrews,
  screwWords,
} from "../boardmap/index.ts";
import { countOf } from "../service/index.ts";
import { type Folded, isDone, valueOf } from "./marks.ts";
import { type HandStep, handStep, type PlannedTurn } from "./step.ts";
import { tensionSteps } from "./turns.ts";
import { type Warmth, warmthWords } from "./warmth.ts";

export interface StripInput {
  map: BoardMap;
  folded: Folded;
  /** The loosening plan; null where it can't be computed, or is not yet. */
  turns: readonly PlannedTurn[] | null;
  /** How warm the compound still is; null where nobody knows. */
  warmth: Warmth | null;
}

export const LAYER_WORDS: Readonly<Record<Layer, string>> = {
  bracket: "bracket",
  fan: "fans",
  shroud: "shroud",
  backplate: "backplate",
  cooler: "cooler",
  "mid-plate": "mid-plate",
};

const SEALS = [
  { value: "whole", label: "Whole" },
  { value: "damaged", label: "Damaged" },
  { value: "none", label: "None" },
] as const;
export const OLD_COMPOUND = [
  { value: "moist", label: "Moist" },
  { value: "dry", label: "Dry" },
  { value: "cracked", label: "Cracked" },
  { value: "gone", label: "Gone" },
] as const;

/** Steps that others read by name. */
export const STEP = { seal: "seal", compound: "compound", imprint: "imprint", plan: "plan", count: "count" } as const;

const FIRST = "Before the first screw";
const LAST = "What lies open";

export const outId = (screwId: string): string => `out:${screwId}`;
export const layerId = (layer: Layer): string => `layer:${layer}`;
export const learnId = (layer: Layer): string => `learn:${layer}`;
const TWIST = "twist:cooler";
const RAISE = "raise:cooler";

/** A layer is taken off unless somebody said that it stays on or is not there. */
const comesOff = (layer: Layer, folded: Folded): boolean => {
  const said = valueOf(folded, layerId(layer));
  return said !== "on" && said !== "none";
};

/**
 * All steps of taking a card apart, in order: what comes before the first screw, layer by layer from the outermost, what the old compound
 * tells. What is not on the map yet is learnt on the way; a map that knows it leads.
 */
export function stripSteps({ map, folded, turns, warmth }: StripInput): HandStep[] {
  return [
    ...before(map, folded, warmth),
    ...map.layers.flatMap(({ id }) => layerSteps(id, map, folded, turns)),
    ...opened(map, folded),
  ];
}

/** What loosens something: after any of these a load would run on a card that is not whole. */
const OPENS = /^(out|plug|loosen|learn|learn-plugs|twist|raise|lift):/;
const isOpened = (folded: Folded): boolean => [...folded].some(([id, { done }]) => OPENS.test(id) && done);

function before(map: BoardMap, folded: Folded, warmth: Warmth | null): HandStep[] {
  const sizes = isBlank(map) || folded.has("board:width");
  return [
    handStep("off", "check", FIRST, "Switch the supply off, unplug the card, wait a minute, ground yourself", {
      cautions: ["open"],
    }),
    handStep(STEP.seal, "choice", FIRST, "Look at the seal over a cooler screw: how is it?", {
      detail: "Its answer goes on the record. What a seal means for a warranty differs by country.",
      choices: SEALS,
      side: "back",
      photo: true,
    }),
    handStep("warm", "check", FIRST, warmthWords(warmth, isOpened(folded)), { cautions: ["hotSurface"] }),
    handStep("tray", "check", FIRST, "Lay out the tray sheet: every screw gets its own place", {
      detail: "Without a sheet: a cup for each layer.",
    }),
    ...(sizes
      ? [
          sizeStep("board:width", "Measure the board’s length along the slot", 10, 1000),
          sizeStep("board:height", "Measure the board’s height", 10, 1000),
        ]
      : []),
  ];
}

const isBlank = (map: BoardMap): boolean =>
  !map.die && map.parts.length === 0 && map.screws.length === 0 && map.plugs.length === 0;

const sizeStep = (id: string, text: string, least: number, most: number, group = FIRST): HandStep =>
  handStep(id, "figure", group, text, {
    figure: { label: "Millimetres", unit: "mm", least, most, optional: false },
  });

function layerSteps(layer: Layer, map: BoardMap, folded: Folded, turns: readonly PlannedTurn[] | null): HandStep[] {
  const known = layerKnown(map, layer);
  const learns = folded.has(learnId(layer)) || (known !== true && layer === "cooler") || known === null;
  if (known === false && !folded.has(layerId(layer))) return [];
  const words = LAYER_WORDS[layer];
  const group = words.charAt(0).toUpperCase() + words.slice(1);
  const screws = map.screws.filter((screw) => layerOf(screw) === layer && !screw.leaveAlone);
  const plugs = map.plugs.filter((plug) => plug.layer === layer);
  const count = learns
    ? ""
    : [countOf(screws.length, "screw"), ...(plugs.length > 0 ? [countOf(plugs.length, "plug")] : [])].join(", ");
  const kept = map.screws.filter(({ leaveAlone }) => leaveAlone).map(({ id }) => id);
  const off = { value: "off", label: "Take it off", usual: true } as const;
  const choices =
    layer === "cooler"
      ? []
      : learns
        ? [{ value: "off", label: "There is one: take it off" }, { value: "none", label: "There is none" }, LEAVE]
        : [off, LEAVE];
  const first = handStep(
    layerId(layer),
    choices.length > 0 ? "choice" : "check",
    group,
    layer === "cooler"
      ? `Now the cooler${count ? `: ${count}` : ""}`
      : learns
        ? `${layer === "fan" ? "Are there fans of their own" : `Is there a ${words}`} to take off?`
        : `The ${words}: ${count}`,
    {
      layer,
      things: [...screws, ...plugs].map(({ id }) => id),
      side: layer === "backplate" || layer === "cooler" ? "back" : "front",
      choices,
      detail: [
        layer === "cooler" && kept.length > 0 ? `Leave ${kept.join(", ")} alone.` : "",
        hiddenWords(screws),
        learns ? "This board is not known here yet: what you do now is learnt for the next one." : "",
      ]
        .filter(Boolean)
        .join(" "),
      photo: true,
    },
  );
  if (!comesOff(layer, folded)) return [first];
  return [
    first,
    ...(learns && layer === "cooler"
      ? [
          handStep(
            "loosen:all",
            "check",
            group,
            "Loosen the screws around the die crosswise, a quarter turn each, round after round",
            {
              side: "back",
              layer,
            },
          ),
        ]
      : []),
    ...(learns
      ? [
          handStep(
            learnId(layer),
            "learn",
            group,
            `Take out a screw of the ${words}, tap where it sat, measure its length`,
            {
              layer,
              side: first.side,
              detail:
                layer === "cooler"
                  ? "Screws only: its plugs come once it has given way. Go on when the last one is out."
                  : "Plugs too. Go on when the last one is out.",
              learns: layer === "cooler" ? ["screw"] : ["screw", "plug"],
            },
          ),
        ]
      : []),
    ...(layer === "cooler" && !learns ? dieSteps(map, turns, valueOf(folded, STEP.plan) !== null, group) : []),
    ...inReach(screws).map((screw) => outStep(screw, group)),
    ...(layer === "cooler" ? freeSteps(learns || plugs.length > 0, folded, group) : []),
    ...plugs.map((plug) => plugStep(plug, group, "out")),
    ...(learns && layer === "cooler"
      ? [
          handStep("learn-plugs:cooler", "learn", group, "Undo each plug of the cooler and tap where it sat", {
            layer,
            side: first.side,
            cautions: ["cables"],
            detail: "Light, fans, other cables. Go on when none holds the cooler any more.",
            learns: ["plug"],
          }),
        ]
      : []),
    handStep(`lift:${layer}`, "lift", group, liftWords(layer, plugs), {
      layer,
      side: first.side,
      things: screws.map(({ id }) => id),
      photo: true,
      cautions: layer === "cooler" ? ["twoHands"] : [],
      detail: screws.some(({ spring }) => spring === "leaf")
        ? "A leaf spring sits behind it: mind where it goes. Photograph what lies open."
        : "Photograph what lies open.",
    }),
  ];
}

const LEAVE = { value: "on", label: "Leave it on" };

const hiddenWords = (screws: readonly MapScrew[]): string =>
  screws
    .filter(({ hiddenBy }) => hiddenBy !== "nothing")
    .map(({ id, hiddenBy }) => `${id} is under a ${hiddenBy}.`)
    .join(" ");

const liftWords = (layer: Layer, plugs: readonly MapPlug[]): string =>
  plugs.length > 0 ? `Lift the ${LAYER_WORDS[layer]} off, its cables are free` : `Lift the ${LAYER_WORDS[layer]} off`;

/**
 * A cooler whose screws are out still sticks, and its cables still hold it: twisted until it gives, then a finger's width, then the plugs.
 * A card that was taken apart before these were steps of their own is not asked for them.
 */
function freeSteps(mayBePlugged: boolean, folded: Folded, group: string): HandStep[] {
  if (isDone(folded, "lift:cooler") && !folded.has(TWIST)) return [];
  const more = { layer: "cooler", side: "back" } as const;
  return [
    handStep(TWIST, "check", group, "Twist the cooler gently to and fro until it gives", {
      ...more,
      detail: "Never lever, never pull straight.",
      cautions: ["levering", "twoHands"],
    }),
    ...(mayBePlugged
      ? [
          handStep(RAISE, "check", group, "Lift it a finger’s width, no more: its cables are still plugged in", {
            ...more,
            detail: "Hold it there with one hand, or lay something soft between.",
            cautions: ["twoHands"],
          }),
        ]
      : []),
  ];
}

function dieSteps(map: BoardMap, turns: readonly PlannedTurn[] | null, isBegun: boolean, group: string): HandStep[] {
  const ready = pullingScrews(map);
  if (ready.length === 0) return [];
  return tensionSteps("loosen", turns, isBegun, map, group);
}

/** From one end of the board to the other, so that a hand does not wander. */
const inReach = (screws: readonly MapScrew[]): MapScrew[] => [...screws].sort((a, b) => a.xMm - b.xMm || a.yMm - b.yMm);

const outStep = (screw: MapScrew, group: string): HandStep =>
  handStep(outId(screw.id), "screw", group, `Take out ${screw.id} and lay it on its circle`, {
    detail: [screwWords(screw), screw.hiddenBy === "nothing" ? "" : `under a ${screw.hiddenBy}`]
      .filter(Boolean)
      .join(", "),
    things: [screw.id],
    side: screw.side,
    layer: layerOf(screw),
    figure:
      screw.lengthMm === null ? { label: "Its length (mm)", unit: "mm", least: 0.5, most: 60, optional: true } : null,
  });

/** A plug on its way out or back in. */
export function plugStep(plug: MapPlug, group: string, way: "out" | "in"): HandStep {
  const words = `${plug.feeds} ${plug.kind === "ribbon" ? "ribbon" : "plug"} ${plug.id}`;
  return handStep(
    `${way === "out" ? "plug" : "plug-in"}:${plug.id}`,
    "plug",
    group,
    way === "out" ? `Undo the ${words}: ${plug.release}, never yank` : `Plug in the ${words}, until it is fully home`,
    {
      things: [plug.id],
      side: plug.side,
      layer: plug.layer,
      cautions: [plug.kind === "ribbon" ? "ribbons" : "cables"],
      detail:
        way === "out"
          ? plug.layer === "cooler"
            ? "The cooler stays at a finger’s width until it is out."
            : ""
          : plug.feeds === "fan"
            ? "The commonest fault is to forget this one."
            : "",
    },
  );
}

function opened(map: BoardMap, folded: Folded): HandStep[] {
  const places = !map.die || folded.has("die:place");
  return [
    handStep("covered", "check", LAST, "Photograph both faces: which place each pad covered, and how far", {
      photo: true,
      layer: "cooler",
    }),
    handStep(STEP.compound, "choice", LAST, "How is the old compound?", { choices: OLD_COMPOUND, things: ["die"] }),
    ...(places
      ? [
          handStep("die:place", "place", LAST, "Tap the middle of the die", { layer: "cooler" }),
          sizeStep("die:width", "Measure the die along the board", 2, 60, LAST),
          sizeStep("die:height", "Measure the die across the board", 2, 60, LAST),
        ]
      : []),
    handStep(STEP.imprint, "imprint", LAST, "Tap where the old compound was thin or the die bare", {
      things: ["die"],
      detail: "Once for thin, twice for bare.",
    }),
    handStep(STEP.count, "figure", LAST, "Count the screws on the tray", {
      figure: { label: "Screws", unit: "", least: 0, most: 200, optional: false },
    }),
  ];
}

/** What came out, what is odd about it, and what was looked at: for Close up and the record. */
export interface StripFound {
  out: string[];
  plugs: string[];
  layers: Layer[];
  odd: Array<{ stepId: string; what: string; kind: string; text: string }>;
  seal: string | null;
  compound: string | null;
  counted: number | null;
}

/** What was taken apart without steps: all of it, as far as anybody knows. */
export const allFound = (map: BoardMap): StripFound => ({
  out: map.screws.flatMap(({ id, leaveAlone }) => (leaveAlone ? [] : [id])),
  plugs: map.plugs.map(({ id }) => id),
  layers: map.layers.flatMap(({ id }) => (layerKnown(map, id) ? [id] : [])),
  odd: [],
  seal: null,
  compound: null,
  counted: null,
});

export function stripFound(map: BoardMap, folded: Folded): StripFound {
  const done = (id: string): boolean => folded.get(id)?.done ?? false;
  const counted = Number(valueOf(folded, STEP.count) ?? Number.NaN);
  return {
    out: map.screws.filter(({ id }) => done(outId(id))).map(({ id }) => id),
    plugs: map.plugs.filter(({ id }) => done(`plug:${id}`)).map(({ id }) => id),
    layers: map.layers.flatMap(({ id }) => (done(`lift:${id}`) && comesOff(id, folded) ? [id] : [])),
    odd: [...folded].flatMap(([stepId, { odd }]) =>
      odd ? [{ stepId, what: stepId.split(":").at(1) ?? stepId, kind: odd.kind, text: odd.text }] : [],
    ),
    seal: valueOf(folded, STEP.seal),
    compound: valueOf(folded, STEP.compound),
    counted: Number.isFinite(counted) ? counted : null,
  };
}
