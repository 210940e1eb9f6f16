import { type BoardMap, type MapScrew, pullingScrews } from "../boardmap/index.ts";
import { checkStack, type Material, type Stack, type StackComponent } from "../contact/index.ts";
import { ofKey } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";
import {
  needReadyMap,
  type PadMaterial,
  type PadPick,
  type PadWork,
  PUTTY_CURVE,
  placesOf,
  pressesOnCooler,
  totalMm,
} from "./picks.ts";

/** @throws Problem `no-curve` for a pad whose softness is not known */
export function stackMaterial(material: PadMaterial): Material {
  const curve = material.form === "putty" ? (material.curve ?? PUTTY_CURVE) : material.curve;
  if (!curve)
    throw new Problem({
      code: "no-curve",
      what: `${material.name} has no softness curve.`,
      where: material.id,
      remedy: "Take a typical one, or add its own under Stores: two readings of squeeze and pressure are enough.",
    });
  return { conductivityWPerMK: material.conductivityWPerMK, curve };
}

/** Paste presses on nothing: it flows away. */
const hasForce = (pick: PadPick | null | undefined, materials: readonly PadMaterial[]): pick is PadPick =>
  pick !== null && pick !== undefined && materials.find((one) => one.id === pick.materialId)?.form !== "paste";

/** Standoffs are in the stack as tiny, very stiff pads that touch when the board is where it should be. */
export const STANDOFF = "standoff";
const STANDOFF_MATERIAL: Material = {
  conductivityWPerMK: 1,
  curve: [
    [0, 0],
    [0.1, 1e6],
  ],
};
const STANDOFF_MM = 1;

const standoffAt = ({ id, xMm, yMm }: MapScrew): StackComponent => ({
  id: `${STANDOFF} ${id}`,
  kind: STANDOFF,
  xMm,
  yMm,
  widthMm: STANDOFF_MM,
  heightMm: STANDOFF_MM,
  gapMm: STANDOFF_MM,
  pad: { material: STANDOFF, thicknessMm: STANDOFF_MM, layers: 1, widthMm: STANDOFF_MM, heightMm: STANDOFF_MM },
});

/**
 * The stack of a map without any pad: die, screws and standoffs alone.
 * @throws Problem `map-not-ready`
 */
export function bareStackOf(map: BoardMap): Stack {
  needReadyMap(map);
  return stackOf({ map: { ...map, parts: [] }, gapsMm: {}, picks: {}, materials: [] });
}

/**
 * The stack of a map with its picks: washers stretch the springs, a film adds its thickness.
 * @throws Problem `map-not-ready`, `no-curve`, `bad-stack`
 */
export function stackOf({ map, gapsMm, picks, materials }: Omit<PadWork, "heat">): Stack {
  needReadyMap(map);
  const { die } = map;
  if (!die) throw new Problem({ code: "map-not-ready", what: "There is no die yet.", remedy: "Place it on the map." });
  const parts = placesOf(map).filter(pressesOnCooler);
  const pulling = pullingScrews(map);
  const used = new Set(parts.flatMap((part) => picks[part.id]?.materialId ?? []));
  const stack: Stack = {
    board: map.board,
    die,
    screws: pulling.map(({ id, xMm, yMm, forceN, springNPerMm, washerMm }) => ({
      id,
      xMm,
      yMm,
      forceN: Math.max(0, forceN + springNPerMm * washerMm),
      springNPerMm,
    })),
    components: [
      ...pulling.filter((screw) => screw.standoff).map(standoffAt),
      ...parts.map((part) => {
        const pick = picks[part.id];
        return {
          id: part.id,
          kind: part.kind,
          xMm: part.xMm,
          yMm: part.yMm,
          widthMm: part.widthMm,
          heightMm: part.heightMm,
          gapMm: ofKey(gapsMm, part.id),
          pad: hasForce(pick, materials)
            ? {
                material: pick.materialId,
                thicknessMm: totalMm(pick),
                layers: 1,
                widthMm: pick.widthMm,
                heightMm: pick.heightMm,
                offXMm: pick.offXMm,
                offYMm: pick.offYMm,
              }
            : null,
        };
      }),
    ],
    materials: {
      [STANDOFF]: STANDOFF_MATERIAL,
      ...Object.fromEntries(
        materials.filter((one) => used.has(one.id) && one.form !== "paste").map((one) => [one.id, stackMaterial(one)]),
      ),
    },
  };
  checkStack(stack);
  return stack;
}
