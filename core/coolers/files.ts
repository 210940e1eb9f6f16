import { type BoardMap, mapToSvg } from "../boardmap/index.ts";
import { type Cooler, EMPTY_COOLER, planOfCooler } from "./drawing.ts";

const META = { open: '<metadata id="algidus-cooler">', close: "</metadata>" };
const escaped = (text: string): string => text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;");

/** The drawing in millimetres; all that a drawing can't carry stands in it as JSON. */
export function coolerToSvg(cooler: Cooler): string {
  const drawn = mapToSvg(planOfCooler(cooler));
  return drawn.replace("</svg>", `  ${META.open}${escaped(JSON.stringify(cooler))}${META.close}\n</svg>`);
}

/** A cooler from a drawing made elsewhere: the die's rectangle is the plate, circles are posts, other rectangles faces; its origin is the plate’s middle. */
export function coolerFromMap(map: BoardMap, name: string): Cooler {
  const x0 = map.die?.xMm ?? map.board.widthMm / 2;
  const y0 = map.die?.yMm ?? map.board.heightMm / 2;
  const placed = <T extends { xMm: number; yMm: number }>(one: T): T => ({
    ...one,
    xMm: Math.round((one.xMm - x0) * 100) / 100,
    yMm: Math.round((one.yMm - y0) * 100) / 100,
  });
  return {
    ...EMPTY_COOLER,
    name,
    outline: map.cooler && placed(map.cooler),
    plate: map.die && { ...placed(map.die), metal: "copper" },
    faces: map.parts.map(({ id, xMm, yMm, widthMm, heightMm }) =>
      placed({ id, xMm, yMm, widthMm, heightMm, levelMm: 0, for: "pad" as const }),
    ),
    posts: map.screws.map(({ id, xMm, yMm }) => placed({ id, xMm, yMm, thread: "M2.5", holeDepthMm: 5, levelMm: 0 })),
  };
}
