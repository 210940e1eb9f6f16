import { EMPTY_PAPER, type PaperImport, type PaperInput } from "#contract";
import { seeded } from "#core/random/index.ts";

const MODELS = ["OF-70 rev B", "BT-12", "QS-6"];
/** What a work brought, K, and by which compounds. */
const WORKS = [
  { work: "repasted", gainK: 6, compounds: ["Grey paste, 8 W/mK", "Slate sheet"] },
  { work: "paste and pads", gainK: 9, compounds: ["Grey paste, 8 W/mK", "Slate sheet"] },
  { work: "cleaned", gainK: 3, compounds: [""] },
] as const;
const EACH = 9;

/** The book that was kept before: figures read by eye, the room about known. */
export function earlierCards(): PaperImport {
  const random = seeded(31);
  const rows = WORKS.flatMap(({ work, gainK, compounds }) =>
    Array.from({ length: EACH }, (_, k): PaperInput => {
      const model = k % MODELS.length;
      const ageYears = 2 + Math.floor(7 * random.uniform());
      const compound = compounds[k % compounds.length] ?? "";
      const more = (compound.startsWith("Slate") ? 0.8 : 0) + 0.5 * (ageYears - 5) + 0.7 * (model - 1);
      const beforeC = Math.round(76 + 1.2 * ageYears + 2 * random.normal());
      return {
        ...EMPTY_PAPER,
        model: MODELS[model] ?? "",
        serial: `B${work.charAt(0).toUpperCase()}-${String(k + 1).padStart(2, "0")}`,
        work,
        compound,
        beforeC,
        afterC: Math.round(beforeC - gainK - more + 1.5 * random.normal()),
        roomBeforeC: 22,
        ageYears,
        use: ageYears > 5 ? "games" : "office",
      };
    }),
  );
  return {
    name: "the old book.csv",
    headers: [],
    mapping: { fields: {}, fahrenheit: false, rises: false, monthFirst: false },
    rows,
  };
}
