import { type Cleaner, cleanerOn, type Surface } from "./cleaners.ts";

export const DIRTS = {
  dust: "Dust",
  hair: "Hair",
  smoke: "Smoke film",
  oil: "Oil from pads or bearings",
  corrosion: "Corrosion",
  none: "Hardly any",
} as const;
export type Dirt = keyof typeof DIRTS;

export const isDirt = (text: string | null): text is Dirt => text !== null && Object.keys(DIRTS).includes(text);

/** Dry: brush, air, alcohol. Wash: what has no electronics goes into warm soapy water. */
export type CleaningSchool = "dry" | "wash";

/** What a card comes apart into, as far as it is cleaned. */
export const PARTS = {
  board: "board",
  fins: "heatsink",
  fan: "fans",
  shroud: "shroud",
  backplate: "backplate",
  "mid-plate": "mid-plate",
} as const;
export type Part = keyof typeof PARTS;

const HAS_ELECTRONICS: ReadonlySet<Part> = new Set(["board", "fan"]);
/** What it is made of, as far as a cleaner may touch it. */
const MADE_OF: Readonly<Record<Part, readonly Surface[]>> = {
  board: ["electronics"],
  fins: ["copper", "aluminium"],
  fan: ["plastic", "bearing", "label"],
  shroud: ["plastic", "label"],
  backplate: ["lacquer", "label"],
  "mid-plate": ["aluminium"],
};

/** Holes that hold water, mm deep: as they usually are (common practice, no source); a look with a wire is better. */
export const USUAL_CREVICES: Readonly<Partial<Record<Part, ReadonlyArray<{ id: string; depthMm: number }>>>> = {
  fins: [
    { id: "screw hole", depthMm: 3 },
    { id: "between fin and pipe", depthMm: 2 },
  ],
  shroud: [{ id: "screw hole", depthMm: 5 }],
  backplate: [{ id: "thread", depthMm: 2 }],
  "mid-plate": [{ id: "thread", depthMm: 3 }],
};

export interface Way {
  part: Part;
  school: CleaningSchool;
  cleaner: Cleaner;
  text: string;
  why: string;
  /** Minutes of hands (common practice, no source). */
  minutes: number;
  tool: string;
  /** What speaks against this cleaner here, as a matter of degree. */
  mind: string[];
}

/** Whether a part may be washed: not what has electronics, and nothing while pads are on. */
export const mayWash = (part: Part, padsOff: boolean): boolean => padsOff && !HAS_ELECTRONICS.has(part);

const STICKS: ReadonlySet<Dirt> = new Set(["smoke", "oil"]);

/** How a part is cleaned of this dirt by this school; what may not be washed is cleaned dry. */
export function wayOf(part: Part, dirt: Dirt, school: CleaningSchool, padsOff: boolean): Way {
  const washed = school === "wash" && mayWash(part, padsOff);
  const way = washed ? WASH : dryWay(part, dirt);
  const mind = MADE_OF[part].flatMap((surface) => {
    const { verdict, why } = cleanerOn(way.cleaner, surface);
    return verdict === "fine" ? [] : [why];
  });
  return { part, school: washed ? "wash" : "dry", ...way, text: way.text(PARTS[part]), mind };
}

interface WayRow {
  cleaner: Cleaner;
  text: (part: string) => string;
  why: string;
  minutes: number;
  tool: string;
}

const WASH: WayRow = {
  cleaner: "soap",
  text: (part) => `Wash the ${part} in warm soapy water, rinse it and blow its holes out`,
  why: "Water takes grease and smoke faster than any brush; it must dry completely afterwards.",
  minutes: 12,
  tool: "soft brush, basin, warm air",
};

/** Without water. */
function dryWay(part: Part, dirt: Dirt): WayRow {
  const sticky = STICKS.has(dirt);
  switch (part) {
    case "fan":
      return {
        cleaner: sticky ? "soap" : "brush",
        text: () =>
          sticky
            ? "Wipe each blade with a cloth that is damp with soapy water, the hub upward"
            : "Hold the rotor and wipe each blade with a swab; cut hair from the hub with small scissors",
        why: "Air would spin it past its speed, alcohol would take the oil out of its bearing.",
        minutes: 15,
        tool: "swabs, small scissors, tweezers",
      };
    case "shroud":
      return {
        cleaner: sticky ? "isopropanol" : "brush",
        text: (name) =>
          sticky ? `Wipe the ${name} with a cloth that is damp with alcohol` : `Brush the ${name} out, then wipe it`,
        why: sticky ? "The film does not brush off." : "Dust comes off dry; nothing has to dry afterwards.",
        minutes: 6,
        tool: "cloth, soft brush",
      };
    case "board":
      return dirt === "corrosion"
        ? {
            cleaner: "isopropanol",
            text: () => "Brush the corroded places with alcohol, section by section, and look at them through a lens",
            why: "Salts of an old leak go on eating while they are there. Where a lead is thin or a pad has lifted, stop and say so.",
            minutes: 20,
            tool: "stiff antistatic brush, swabs, lens",
          }
        : {
            cleaner: sticky ? "isopropanol" : "brush",
            text: (name) =>
              sticky
                ? `Clean the ${name} with alcohol and swabs, section by section`
                : `Brush the ${name} dry and blow it off, section by section`,
            why: sticky ? "Film and oil hold dust and do not brush off." : "No solvent where none is needed.",
            minutes: sticky ? 15 : 8,
            tool: "antistatic brush, swabs, air",
          };
    default:
      return {
        cleaner: sticky ? "isopropanol" : "air",
        text: (name) =>
          sticky
            ? `Brush the ${name} with alcohol, blow it out outdoors`
            : dirt === "hair"
              ? `Pull the hair off the ${name} with tweezers, then brush and blow it out, outdoors`
              : `Brush the ${name} and blow it out, outdoors`,
        why: "The safe school: no water in any hole, nothing to wait for.",
        minutes: part === "fins" ? 20 : 5,
        tool: "soft brush, air, tweezers",
      };
  }
}
