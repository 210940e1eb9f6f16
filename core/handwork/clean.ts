import { type BoardMap, layerKnown } from "../boardmap/index.ts";
import {
  CLEANERS,
  type Cleaner,
  type CleaningSchool,
  cleanerOn,
  DIRTS,
  type Dirt,
  dry,
  isDirt,
  mayWash,
  PARTS,
  type Part,
  readDry,
  type Surface,
  USUAL_CREVICES,
  wayOf,
} from "../cleaning/index.ts";
import { Problem } from "../problem/index.ts";
import type { Clock } from "../service/index.ts";
import { type Folded, foldMarks, isDone, type StepMark, valueOf } from "./marks.ts";
import { type HandCaution, type HandStep, handStep } from "./step.ts";

export const CLEAN = {
  pads: "pads-off",
  dirt: "dirt",
  cleaner: "cleaner",
  school: "school",
  room: "room-air",
  humidity: "humidity",
  warm: "warm-air",
  end: "dry-end",
} as const;

const LOOK = "What is there";
const WIPE = "Die and plate";
const PARTS_GROUP = "Part by part";
const REST = "Dry";
const END = "Before pads and compound";

/** What a workshop's air is like where nobody measured. */
export interface RoomAir {
  airC: number;
  humidityPct: number;
}

export interface CleanInput {
  map: BoardMap;
  marks: readonly StepMark[];
  folded: Folded;
  room: RoomAir;
  /** Where the clocks stand, ms, and how a mark's time is read. */
  nowMs: number;
  msOf: (at: string) => number;
}

const LAYER_PART: ReadonlyArray<[Part, "fan" | "shroud" | "backplate" | "mid-plate"]> = [
  ["fan", "fan"],
  ["shroud", "shroud"],
  ["backplate", "backplate"],
  ["mid-plate", "mid-plate"],
];

/** What there is to clean: board and heatsink always, the rest unless the map says that there is none. */
const partsOf = (map: BoardMap): Part[] => [
  "board",
  "fins",
  ...LAYER_PART.flatMap(([part, layer]) => {
    const known = layerKnown(map, layer);
    return (known ?? part !== "mid-plate") ? [part] : [];
  }),
];

export interface CleaningPlan {
  padsOff: boolean;
  dirt: Dirt;
  school: CleaningSchool;
}

const PART_IDS = Object.keys(PARTS) as Part[];

export function cleaningPlan(folded: Folded): CleaningPlan {
  const padsOff = valueOf(folded, CLEAN.pads) === "off";
  const said = valueOf(folded, CLEAN.dirt);
  const school = padsOff && valueOf(folded, CLEAN.school) === "wash" ? "wash" : "dry";
  return {
    padsOff,
    dirt: isDirt(said) ? said : "dust",
    school,
  };
}

const number = (text: string | null, otherwise: number): number => (text === null ? otherwise : Number(text));

const washId = (part: Part): string => `clean:${part}`;
const depthId = (part: Part): string => `depth:${part}`;
const restId = (part: Part): string => `rest:${part}`;

/** When each washed part is dry: from the moment it was marked washed, in the air that was typed. */
export function dryingClocks({ marks, folded, room, msOf }: Omit<CleanInput, "nowMs" | "map">): Clock[] {
  const { padsOff, school } = cleaningPlan(folded);
  return PART_IDS.flatMap((part) => {
    if (school !== "wash" || !mayWash(part, padsOff)) return [];
    if (!isDone(folded, washId(part))) return [];
    const washed = marks.findLast(({ stepId, what }) => stepId === washId(part) && what === "done");
    const fromMs = washed ? msOf(washed.at) : Number.NaN;
    if (!Number.isFinite(fromMs)) return [];
    const minutes = restMinutes(part, folded, room);
    return [
      {
        id: restId(part),
        what: `The ${PARTS[part]} dries`,
        fromMs,
        untilMs: minutes === null ? null : fromMs + minutes * 60_000,
      },
    ];
  });
}

/** Minutes a part must rest; null where it never dries in this air. */
function restMinutes(part: Part, folded: Folded, room: RoomAir): number | null {
  const deepest = valueOf(folded, depthId(part));
  const airC = number(valueOf(folded, CLEAN.room), room.airC);
  const crevices = USUAL_CREVICES[part] ?? [];
  try {
    return dry(
      readDry({
        airC,
        partC: Math.max(airC, number(valueOf(folded, CLEAN.warm), airC)),
        relativeHumidityPct: number(valueOf(folded, CLEAN.humidity), room.humidityPct),
        crevices: deepest === null ? crevices : [{ id: "deepest hole", depthMm: Number(deepest) }],
      }),
    ).totalMin;
  } catch (error) {
    // Air in which nothing can be said of drying: it never does.
    if (error instanceof Problem) return null;
    throw error;
  }
}

/** What die and plate could be wiped with, and what such a wipe touches. */
const WIPES = ["isopropanol", "remover", "soap", "acetone"] as const satisfies readonly Cleaner[];
const WIPED = ["die", "electronics"] as const satisfies readonly Surface[];

const told = (cleaner: Cleaner, verdict: "refused" | "degree"): string[] =>
  WIPED.flatMap((surface) => {
    const found = cleanerOn(cleaner, surface);
    return found.verdict === verdict ? [found.why] : [];
  });
const refusedWords = (cleaner: Cleaner): string[] =>
  told(cleaner, "refused")
    .slice(0, 1)
    .map((why) => `${CLEANERS[cleaner]} (${why.charAt(0).toLowerCase()}${why.slice(1).replace(/\.$/, "")})`);
const withCare = (cleaner: Cleaner): string[] => told(cleaner, "degree");
const cleanerOf = (folded: Folded): Cleaner =>
  WIPES.find((one) => one === valueOf(folded, CLEAN.cleaner)) ?? "isopropanol";

const YES = { value: "yes", label: "It is so", usual: true } as const;

/** The steps of cleaning: what is there, die and plate, part by part, the clocks, the look at the end. */
export function cleanSteps(input: CleanInput): HandStep[] {
  const { map, folded } = input;
  const { padsOff, dirt, school } = cleaningPlan(folded);
  const washed = school === "wash" ? partsOf(map).filter((part) => mayWash(part, padsOff)) : [];
  return [
    handStep(CLEAN.pads, "choice", LOOK, "Are all pads off board and cooler?", {
      detail:
        "Nothing is washed with pads on it. Pads that are moist, whole and uncracked may stay where nothing is washed.",
      choices: [
        { value: "off", label: "All are off" },
        { value: "some", label: "Some stay on" },
      ],
    }),
    handStep(CLEAN.dirt, "choice", LOOK, "What kind of dirt is it mostly?", {
      choices: Object.entries(DIRTS).map(([value, label]) => ({ value, label })),
      photo: true,
      cautions: ["dirt"],
    }),
    ...(padsOff
      ? [
          handStep(CLEAN.school, "choice", LOOK, "Dry, or with water?", {
            detail:
              "Two schools. Dry is safe and leaves nothing to wait for. Water is faster for grease and smoke, for parts without electronics, and they rest for hours.",
            choices: [
              { value: "dry", label: "Dry: brush, air, alcohol", usual: true },
              { value: "wash", label: "Wash what has no electronics" },
            ],
          }),
        ]
      : []),
    handStep("wipe:dry", "check", WIPE, "Wipe the old compound off die and plate, dry", {
      things: ["die"],
      cautions: ["static"],
      detail: "A soft wipe or a wooden or plastic pick, never metal. Mind the tiny parts around the die.",
    }),
    handStep(CLEAN.cleaner, "choice", WIPE, "What do you wipe them with?", {
      detail: `Not offered: ${WIPES.flatMap(refusedWords).join("; ")}.`,
      choices: WIPES.filter((cleaner) => refusedWords(cleaner).length === 0).map((cleaner) => ({
        value: cleaner,
        label: cleaner === "isopropanol" ? "2-propanol, 70 % or more" : `A ${CLEANERS[cleaner]}`,
        ...(cleaner === "isopropanol" ? { usual: true as const } : {}),
      })),
    }),
    handStep(
      "wipe:wet",
      "check",
      WIPE,
      `Wipe both with ${CLEANERS[cleanerOf(folded)]}, fresh wipes, until nothing comes off`,
      {
        things: ["die"],
        detail: ["Lift the wipe, do not snag it on the parts around the die.", ...withCare(cleanerOf(folded))].join(
          " ",
        ),
        cautions: ["solvent"],
      },
    ),
    ...partsOf(map).map((part) => {
      const way = wayOf(part, dirt, school, padsOff);
      return handStep(washId(part), "check", PARTS_GROUP, way.text, {
        detail: [way.why, `With ${way.tool}: some ${way.minutes} min.`, ...way.mind].join(" "),
        cautions: partCautions(part, way.cleaner),
      });
    }),
    ...restSteps(input, washed),
    handStep("mirror", "check", END, "Die and plate: a mirror, no fluff, no streak", {
      things: ["die"],
      photo: true,
      detail: "Look along the surface against a light. Touch it no more.",
    }),
    handStep(CLEAN.end, "choice", END, "Everything is dry: no drop in a hole, no smell of solvent", {
      choices: [YES],
      photo: true,
    }),
  ];
}

/** Every part is blown off or out in the end, and what is blown may fly; what is brushed may charge, fins cut, solvent burns. */
const partCautions = (part: Part, cleaner: Cleaner): HandCaution[] => [
  "air",
  ...(cleaner === "isopropanol" ? (["solvent"] as const) : []),
  ...(part === "board" ? (["static"] as const) : []),
  ...(part === "fins" ? (["sharpFins"] as const) : []),
];

function restSteps(input: CleanInput, washed: readonly Part[]): HandStep[] {
  if (washed.length === 0) return [];
  const { folded, room, nowMs } = input;
  const clocks = dryingClocks(input);
  return [
    handStep(CLEAN.room, "figure", REST, "How warm is the room’s air?", {
      figure: { label: "Room air (°C)", unit: "°C", least: 5, most: 45, optional: true },
      detail: `Left empty: ${room.airC} °C.`,
    }),
    handStep(CLEAN.humidity, "figure", REST, "How humid is it?", {
      figure: { label: "Relative humidity (%)", unit: "%", least: 0, most: 95, optional: true },
      detail: `Left empty: ${room.humidityPct} %.`,
    }),
    handStep(CLEAN.warm, "figure", REST, "Do you dry with warm air?", {
      figure: { label: "Warm air (°C)", unit: "°C", least: 20, most: 80, optional: true },
      detail: "Left empty: no. What the part itself comes to; no hotter than a hand can bear beside plastic.",
      cautions: ["warmAir"],
    }),
    ...washed.flatMap((part) => {
      const clock = clocks.find(({ id }) => id === restId(part));
      const whole = restMinutes(part, folded, room);
      const minutes = clock?.untilMs ? Math.max(0, (clock.untilMs - nowMs) / 60_000) : whole;
      const isOver = clock?.untilMs !== null && clock !== undefined && nowMs >= (clock.untilMs ?? 0);
      return [
        handStep(depthId(part), "figure", REST, `How deep is the deepest hole of the ${PARTS[part]}?`, {
          figure: { label: "Deepest hole (mm)", unit: "mm", least: 0.1, most: 50, optional: true },
          detail: `Left empty: ${Math.max(...(USUAL_CREVICES[part] ?? []).map(({ depthMm }) => depthMm))} mm, as usual. Four times as long at twice the depth.`,
        }),
        handStep(
          restId(part),
          "choice",
          REST,
          isOver ? `The ${PARTS[part]} has rested long enough` : `Let the ${PARTS[part]} rest: ${restWords(minutes)}`,
          {
            detail: isOver
              ? "Shake it over a dry cloth: no drop comes out."
              : "Its clock runs on the Bench; leave the steps and come back.",
            choices: isOver
              ? [{ value: "dry", label: "It is dry", usual: true }]
              : [{ value: "accept", label: "I accept: it goes on before its clock has run" }],
            cautions: isOver ? [] : ["wet"],
          },
        ),
      ];
    }),
  ];
}

/** A time to wait in words. */
export function restWords(minutes: number | null): string {
  if (minutes === null) return "in this air it never dries; use warm air or a drier room";
  if (minutes < 1) return "less than a minute";
  const whole = Math.ceil(minutes);
  return whole < 60 ? `${whole} min` : `${Math.floor(whole / 60)} h ${whole % 60} min`;
}

/** What a service's line is told of its cleaning. */
export function cleanProgress(
  marks: ReadonlyArray<StepMark & { attempt: number }>,
  attempt: number,
  more: Pick<CleanInput, "room" | "msOf">,
): { begun: boolean; finished: boolean; clocks: Clock[]; words: string } {
  const own = marks.filter((mark) => mark.attempt === attempt);
  const folded = foldMarks(own);
  return {
    begun: own.length > 0,
    finished: isDone(folded, CLEAN.end),
    clocks: dryingClocks({ ...more, marks: own, folded }).filter(({ id }) => !isDone(folded, id)),
    words: cleaningPlan(folded).school === "wash" ? "washed" : "cleaned dry",
  };
}

/** What a record says of it; nothing while it is not finished. */
export function cleanWords(marks: readonly StepMark[]): string[] {
  const folded = foldMarks(marks);
  if (!isDone(folded, CLEAN.end)) return [];
  const { dirt, school } = cleaningPlan(folded);
  const early = [...folded].some(([stepId, { value }]) => stepId.startsWith("rest:") && value === "accept");
  const found = dirt === "none" ? "hardly any dirt" : DIRTS[dirt].toLowerCase();
  return [
    `Cleaned (${found}): ${school === "wash" ? "parts without electronics washed and dried" : "dry, with brush, air and alcohol"}.`,
    ...(early ? ["A washed part went on before its clock had run; that was accepted."] : []),
  ];
}
