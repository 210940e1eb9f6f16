import { type Folded, foldMarks, isDone, type StepMark, valueOf } from "./marks.ts";
import { type HandStep, handStep } from "./step.ts";

const FANS = { count: "fan-count", end: "clearance" } as const;

/** What a finger tells of a fan. */
const FINGER = [
  { value: "free", label: "Turns free and runs on" },
  { value: "rough", label: "Rough, it grinds" },
  { value: "stiff", label: "Stiff, it stops at once" },
  { value: "wobbles", label: "Wobbles on its shaft" },
] as const;
const FINGER_WORDS: Readonly<Record<string, string>> = {
  free: "turns free",
  rough: "rough",
  stiff: "stiff",
  wobbles: "wobbles",
};
/** What a finger told, in a word or two. */
export const fanWord = (value: string | null): string =>
  value === null ? "not turned yet" : (FINGER_WORDS[value] ?? value);

const BEARINGS = [
  { value: "sleeve", label: "Sleeve: a plug or a rubber cap under the label" },
  { value: "ball", label: "Ball: sealed, a ring of metal around the shaft" },
  { value: "fluid", label: "Fluid: closed, marked so, no cap to lift" },
  { value: "unknown", label: "Can’t be told without breaking it" },
] as const;

const partId = (what: string, fan: number): string => `${what}:${fan}`;
const fanId = { finger: (fan: number) => partId("finger", fan), deed: (fan: number) => partId("deed", fan) };

const MOST_FANS = 6;

export function fanCount(folded: Folded, known: number): number {
  const typed = Number(valueOf(folded, FANS.count) ?? known);
  return Number.isInteger(typed) && typed >= 1 ? Math.min(MOST_FANS, typed) : 1;
}

/** Light machine oil for a sleeve bearing of a card's fan, µL (common practice, no source): two small drops. */
const OIL_UL = 20;
/** A drop from a needle oiler, µL (common practice, no source). */
const DROP_UL = 10;

/** The steps of looking at fans and mending them. `known`: how many fans runs or plugs speak of. */
export function fanSteps({ folded, known }: { folded: Folded; known: number }): HandStep[] {
  const fans = Array.from({ length: fanCount(folded, known) }, (_, index) => index + 1);
  return [
    handStep(FANS.count, "figure", "Fans", "How many fans has it?", {
      figure: { label: "Fans", unit: "", least: 1, most: MOST_FANS, optional: true },
      detail: `Left empty: ${known}.`,
      cautions: ["fans"],
    }),
    ...fans.flatMap((fan) => oneFan(fan, folded)),
    handStep(FANS.end, "check", "All fans", "Turn each once around: no blade touches fins, shroud or cable", {
      detail: "A tick once per turn is a blade that touches. Cables lie in their channels and are tied.",
      photo: true,
    }),
  ];
}

function oneFan(fan: number, folded: Folded): HandStep[] {
  const group = `Fan ${fan}`;
  const finger = valueOf(folded, fanId.finger(fan));
  const bearing = valueOf(folded, partId("bearing", fan));
  const deed = valueOf(folded, fanId.deed(fan));
  const isBad = finger !== null && finger !== "free";
  return [
    handStep(fanId.finger(fan), "choice", group, `Turn fan ${fan} by finger: how does it run?`, {
      choices: FINGER,
      detail: "Push it gently and let go; then move its hub sideways and along the shaft.",
    }),
    handStep(partId("blades", fan), "choice", group, `Look at the blades of fan ${fan}`, {
      choices: [
        { value: "whole", label: "Whole", usual: true },
        { value: "cracked", label: "Cracked or chipped" },
        { value: "rubbing", label: "Marks where it rubbed" },
      ],
    }),
    handStep(partId("hub", fan), "check", group, `Free the hub of fan ${fan} from hair, its blades from dust`, {
      detail: "Small scissors and tweezers; hold the rotor.",
    }),
    handStep(partId("cable", fan), "choice", group, `The cable of fan ${fan}`, {
      choices: [
        { value: "fine", label: "Whole, in its channel", usual: true },
        { value: "loose", label: "Loose: tie it" },
        { value: "damaged", label: "Damaged" },
      ],
    }),
    handStep(partId("bearing", fan), "choice", group, `Which bearing has fan ${fan}?`, {
      choices: BEARINGS,
      detail: "Lift the label a little and look. Its part number says it as well.",
    }),
    handStep(fanId.deed(fan), "choice", group, `What is done with fan ${fan}?`, {
      choices: deeds(isBad, bearing),
      detail:
        bearing === "sleeve" || !isBad
          ? ""
          : "Only a sleeve bearing can be oiled; any other that is rough or stiff is replaced.",
    }),
    ...(deed === "oil"
      ? [
          handStep(
            partId("oil", fan),
            "check",
            group,
            `${OIL_UL / DROP_UL} drops (${OIL_UL} µL) of light machine oil into the bearing of fan ${fan}`,
            {
              detail: "Label up, cap off, drop by drop, turn it between them; wipe what runs over, close it again.",
              cautions: ["fans"],
            },
          ),
        ]
      : []),
    ...(deed === "replace"
      ? [
          handStep(partId("replace", fan), "check", group, `Fit the new fan ${fan}: holes, thickness, plug, current`, {
            detail: "Same current or less, same plug and order of its wires; its label faces as before.",
          }),
        ]
      : []),
  ];
}

function deeds(isBad: boolean, bearing: string | null): HandStep["choices"] {
  const leave = { value: "leave", label: "It stays as it is", ...(isBad ? {} : { usual: true as const }) };
  const replace = { value: "replace", label: "Replace it" };
  return bearing === "sleeve" ? [leave, { value: "oil", label: "Oil it" }, replace] : [leave, replace];
}

/** What a service's line is told. */
export function fansProgress(
  marks: ReadonlyArray<StepMark & { attempt: number }>,
  attempt: number,
): { begun: boolean; finished: boolean; words: string; deeds: string[] } {
  const own = marks.filter((mark) => mark.attempt === attempt);
  const folded = foldMarks(own);
  const deeds = [...folded].flatMap(([stepId, { value, done }]) =>
    stepId.startsWith("deed:") && done && value !== null && value !== "leave" ? [value] : [],
  );
  const count = (deed: string): number => deeds.filter((one) => one === deed).length;
  const words = [
    count("oil") > 0 ? `${count("oil")} oiled` : "",
    count("replace") > 0 ? `${count("replace")} replaced` : "",
  ].filter(Boolean);
  return {
    begun: own.length > 0,
    finished: isDone(folded, FANS.end),
    words: words.join(", ") || "fans fine",
    deeds,
  };
}

const DEEDS: Readonly<Record<string, string>> = { oil: "oiled", replace: "replaced" };

/** What a record says of the fans; nothing while nobody finished. */
export function fanWords(marks: readonly StepMark[]): string[] {
  const folded = foldMarks(marks);
  if (!isDone(folded, FANS.end)) return [];
  const done = [...folded].flatMap(([stepId, { value }]) => {
    const [what, fan] = stepId.split(":");
    return what === "deed" && value !== null && DEEDS[value] ? [`fan ${fan} ${DEEDS[value]}`] : [];
  });
  return [`Fans looked at and cleaned${done.length > 0 ? `: ${done.join(", ")}` : ""}.`];
}
