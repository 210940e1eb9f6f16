import { type BoardMap, layerOf } from "../boardmap/index.ts";
import { Problem } from "../problem/index.ts";
import type { Cooler, KitScrew } from "./drawing.ts";
import { type FitInput, readFit } from "./input.ts";

/** Where nobody measured how far the die stands above the board: usual for a bare die on its package (common practice, no source). */
export const USUAL_DIE_TALL_MM = 2.2;

/** Kit and drawer together: a kind of the drawer that is named like one of the kit is told apart. */
export function screwsAtHand({ kit }: Pick<Cooler, "kit">, drawer: readonly KitScrew[]): KitScrew[] {
  const ids = new Set(kit.map(({ id }) => id));
  return [...kit, ...drawer.map((one) => (ids.has(one.id) ? { ...one, id: `${one.id} (drawer)` } : one))];
}

/**
 * The task of fitting a cooler onto a mapped board: its holes are those of the screws that go through it, parts on the front only.
 * @throws Problem `no-board-die`, and as `readFit`, such as for a cooler without a plate
 */
export function fitTaskOf(map: BoardMap, cooler: Cooler, drawer: readonly KitScrew[]): FitInput {
  if (!map.die)
    throw new Problem({
      code: "no-board-die",
      what: "The board’s map has no die.",
      remedy: "Place the die on the board map first: coolers are laid onto it.",
    });
  return readFit({
    board: {
      widthMm: map.board.widthMm,
      heightMm: map.board.heightMm,
      thicknessMm: map.board.thicknessMm,
      die: { ...map.die, tallMm: map.board.dieTallMm ?? USUAL_DIE_TALL_MM },
      parts: map.parts
        .filter(({ side }) => side === "front")
        .map((part) => ({ ...part, kind: part.kind === "controller" ? "other" : part.kind })),
      holes: map.screws
        .filter((screw) => !screw.leaveAlone && ["cooler", "backplate", "mid-plate"].includes(layerOf(screw)))
        .map(({ id, xMm, yMm, holeMm }) => ({ id, xMm, yMm, diameterMm: holeMm })),
    },
    cooler: {
      plate: cooler.plate,
      faces: cooler.faces,
      posts: cooler.posts,
      mayTurn: cooler.mayTurn,
    },
    screws: screwsAtHand(cooler, drawer),
  });
}
