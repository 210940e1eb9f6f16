import * as v from "valibot";
import { idText, listOf, numberFrom, Problem, readDocument, said } from "../problem/index.ts";
import { METALS } from "./drawing.ts";
import { threadDiameterMm } from "./threads.ts";

/** What a part is to a cooler: a connector gives off no heat and only stands in the way. */
const FIT_KINDS = ["memory", "mosfet", "choke", "capacitor", "connector", "other"] as const;

const place = numberFrom(-2000, 2000);
const size = numberFrom(0.05, 2000);
const tall = numberFrom(0, 200);
const MOST = { parts: 400, holes: 200, posts: 40, faces: 200, screws: 100 };

const thread = v.pipe(
  v.string(said("It has no thread.", "Write it as M2.5 or 6-32 UNC.")),
  v.check(
    (text) => threadDiameterMm(text) !== null,
    ({ input }) => said(`“${input.slice(0, 40)}” is no thread that screws have.`, "Write it as M2.5 or 6-32 UNC."),
  ),
);
const known = <S extends v.GenericSchema>(schema: S) => v.optional(v.nullable(schema), null);
/** What nothing can be said without: missing and null are told in the same words. */
const needed = <S extends v.GenericSchema>(schema: S, words: string) =>
  v.pipe(
    v.optional(v.nullable(schema), null),
    v.check((one) => one !== null, words),
    v.transform((one): v.InferOutput<S> => one),
  );
const withoutPlate = said(
  "The cooler has no plate.",
  "Draw the face that lies on the die: plate with its size and metal.",
);

const FitFile = v.object({
  board: v.object({
    widthMm: size,
    heightMm: size,
    thicknessMm: numberFrom(0.05, 20),
    die: needed(
      v.object({ xMm: place, yMm: place, widthMm: size, heightMm: size, tallMm: tall }),
      said("The board has no die.", "Give the die with its place, size and tallMm."),
    ),
    parts: v.optional(
      listOf(
        v.object({
          id: idText,
          kind: v.fallback(v.picklist(FIT_KINDS), "other"),
          xMm: place,
          yMm: place,
          widthMm: size,
          heightMm: size,
          tallMm: known(tall),
        }),
        MOST.parts,
      ),
      [],
    ),
    holes: v.optional(
      listOf(v.object({ id: idText, xMm: place, yMm: place, diameterMm: numberFrom(0.3, 50) }), MOST.holes),
      [],
    ),
  }),
  cooler: v.object({
    plate: needed(
      v.object({
        xMm: place,
        yMm: place,
        widthMm: size,
        heightMm: size,
        metal: v.picklist(METALS, said("This is no metal of a plate.", `Give ${METALS.join(", ")}.`)),
      }),
      withoutPlate,
    ),
    faces: v.optional(
      listOf(
        v.object({
          id: idText,
          xMm: place,
          yMm: place,
          widthMm: size,
          heightMm: size,
          levelMm: numberFrom(-100, 200),
          for: v.picklist(
            ["pad", "paste", "none"],
            said("What this face is for is not known.", "Give pad, paste or none."),
          ),
        }),
        MOST.faces,
      ),
      [],
    ),
    posts: v.optional(
      listOf(
        v.object({
          id: idText,
          xMm: place,
          yMm: place,
          thread,
          holeDepthMm: numberFrom(0.1, 100),
          levelMm: numberFrom(-100, 200),
        }),
        MOST.posts,
      ),
      [],
    ),
    mayTurn: v.optional(v.boolean(), false),
  }),
  screws: v.optional(
    listOf(
      v.object({
        id: idText,
        thread,
        lengthMm: numberFrom(0.5, 200),
        washerMm: v.optional(v.nullable(numberFrom(0, 50)), 0),
        quantity: known(
          v.pipe(numberFrom(0, 10_000), v.integer(said("This is no whole number.", "Give how many there are."))),
        ),
      }),
      MOST.screws,
    ),
    [],
  ),
});

/** A board, a cooler and the screws at hand, as COMMANDS and the files name them. */
export type FitInput = v.InferOutput<typeof FitFile>;
export type FitPart = FitInput["board"]["parts"][number];
export type FitFace = FitInput["cooler"]["faces"][number];

/**
 * A task of fitting as it stands in a file.
 * @throws Problem `bad-fit` naming the field and the remedy, also for an id that is there twice
 */
export function readFit(input: unknown): FitInput {
  const read = readDocument(FitFile, input, "bad-fit");
  const lists = {
    "board.parts": read.board.parts,
    "board.holes": read.board.holes,
    "cooler.faces": read.cooler.faces,
    "cooler.posts": read.cooler.posts,
    screws: read.screws,
  };
  for (const [where, list] of Object.entries(lists)) {
    const seen = new Set<string>();
    for (const [index, { id }] of list.entries()) {
      if (seen.has(id))
        throw new Problem({
          code: "bad-fit",
          what: `“${id}” is there twice.`,
          where: `${where}[${index}]`,
          remedy: "Give every entry its own id.",
        });
      seen.add(id);
    }
  }
  return read;
}
