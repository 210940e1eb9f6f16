import { Problem } from "../problem/index.ts";
import { FEEDS, HEADS, HIDDEN_BY, LAYERS, type MapPlug, NEW_PLUG, PLUG_KINDS, RELEASES, THREADS } from "./fasteners.ts";
import { type BoardMap, EMPTY_MAP, type MapPart, type MapScrew, NEW_SCREW, PART_KINDS, plugBox } from "./map.ts";

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign] ?? sign);

const data = (part: MapPart): string =>
  `id="${escaped(part.id)}" data-kind="${part.kind}" data-side="${part.side}" data-cooled-by="${part.cooledBy}"${part.tallMm === null ? "" : ` data-tall-mm="${part.tallMm}"`}${part.guideMm === null ? "" : ` data-guide-mm="${part.guideMm}"`}`;

/** The map as a drawing in millimetres, y down as drawings have it; what a drawing can't carry stands in data attributes. */
export function mapToSvg(map: BoardMap): string {
  const { widthMm, heightMm } = map.board;
  const rect = (box: { xMm: number; yMm: number; widthMm: number; heightMm: number }, more: string): string =>
    `  <rect x="${num(box.xMm - box.widthMm / 2)}" y="${num(heightMm - box.yMm - box.heightMm / 2)}" width="${num(box.widthMm)}" height="${num(box.heightMm)}" fill="none" stroke="black" stroke-width="0.2" ${more}/>`;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${widthMm}mm" height="${heightMm}mm" viewBox="0 0 ${widthMm} ${heightMm}" data-thickness-mm="${map.board.thicknessMm}">`,
    rect({ xMm: widthMm / 2, yMm: heightMm / 2, widthMm, heightMm }, 'data-kind="board"'),
    ...(map.cooler ? [rect(map.cooler, 'data-kind="cooler" stroke-dasharray="2 1"')] : []),
    ...(map.die ? [rect(map.die, 'data-kind="die"')] : []),
    ...map.parts.map((part) => rect(part, data(part))),
    ...map.screws.map(
      (screw) =>
        `  <circle cx="${num(screw.xMm)}" cy="${num(heightMm - screw.yMm)}" r="${num(screw.holeMm / 2)}" fill="none" stroke="black" stroke-width="0.2" id="${escaped(screw.id)}" data-force-n="${screw.forceN}" data-spring-n-per-mm="${screw.springNPerMm}" ${fastenerData(screw)}/>`,
    ),
    ...map.plugs.map((plug) => rect(plugBox(plug), `id="${escaped(plug.id)}" data-kind="plug" ${plugData(plug)}`)),
    "</svg>",
    "",
  ].join("\n");
}

const attribute = (name: string, value: string | number | boolean | null): string =>
  value === null || value === "" || value === false ? "" : `data-${name}="${escaped(String(value))}"`;

const fastenerData = ({ thread, lengthMm, head, driver, layer, side, hiddenBy, leaveAlone }: MapScrew): string =>
  [
    attribute("thread", thread),
    attribute("length-mm", lengthMm),
    attribute("head", head),
    attribute("driver", driver),
    attribute("layer", layer),
    attribute("side", side),
    attribute("hidden-by", hiddenBy === "nothing" ? null : hiddenBy),
    attribute("leave-alone", leaveAlone),
  ]
    .filter(Boolean)
    .join(" ");

const plugData = ({ kind, feeds, release, layer, side }: MapPlug): string =>
  [
    attribute("plug", kind),
    attribute("feeds", feeds),
    attribute("release", release),
    attribute("layer", layer),
    attribute("side", side),
  ].join(" ");

const num = (mm: number): number => Math.round(mm * 1000) / 1000;

const oneOf = <T extends string>(list: readonly T[], text: string | undefined): T | undefined =>
  list.find((one) => one === text);

/** A shape of a drawing, as the page's own reader of SVG gives it: attributes by name. */
export interface Shape {
  element: "rect" | "circle";
  attributes: Record<string, string>;
}

/**
 * A map from the rectangles and circles of a drawing; rectangles without a kind become parts of kind other.
 * @param view width and height of the drawing, in its own units, and how many millimetres one is
 * @throws Problem `empty-drawing`
 */
export function mapFromShapes(
  shapes: readonly Shape[],
  view: { width: number; height: number; mmPerUnit: number; thicknessMm: number | null },
): BoardMap {
  const { mmPerUnit } = view;
  const heightMm = num(view.height * mmPerUnit);
  const map: BoardMap = structuredClone({
    ...EMPTY_MAP,
    board: {
      ...EMPTY_MAP.board,
      widthMm: num(view.width * mmPerUnit),
      heightMm,
      ...(view.thicknessMm ? { thicknessMm: view.thicknessMm } : {}),
    },
  });
  for (const { element, attributes } of shapes) {
    const of = (name: string): number => Number(attributes[name] ?? 0);
    const optional = (name: string): number | null => (attributes[name] === undefined ? null : of(name));
    if (element === "circle") {
      map.screws.push({
        ...NEW_SCREW,
        id: attributes.id ?? `S${map.screws.length + 1}`,
        xMm: num(of("cx") * mmPerUnit),
        yMm: num(heightMm - of("cy") * mmPerUnit),
        holeMm: num(2 * of("r") * mmPerUnit),
        forceN: optional("data-force-n") ?? NEW_SCREW.forceN,
        springNPerMm: optional("data-spring-n-per-mm") ?? NEW_SCREW.springNPerMm,
        thread: oneOf(THREADS, attributes["data-thread"]) ?? null,
        lengthMm: optional("data-length-mm"),
        head: oneOf(HEADS, attributes["data-head"]) ?? null,
        driver: attributes["data-driver"] ?? "",
        layer: oneOf(LAYERS, attributes["data-layer"]) ?? null,
        side: attributes["data-side"] === "front" ? "front" : "back",
        hiddenBy: oneOf(HIDDEN_BY, attributes["data-hidden-by"]) ?? "nothing",
        leaveAlone: attributes["data-leave-alone"] === "true",
      });
      continue;
    }
    const [widthMm, height] = [num(of("width") * mmPerUnit), num(of("height") * mmPerUnit)];
    const box = {
      xMm: num(of("x") * mmPerUnit + widthMm / 2),
      yMm: num(heightMm - of("y") * mmPerUnit - height / 2),
      widthMm,
      heightMm: height,
    };
    if (!(widthMm > 0 && height > 0)) continue;
    const kind = attributes["data-kind"];
    if (kind === "board") continue;
    if (kind === "die") map.die = box;
    else if (kind === "cooler") map.cooler = box;
    else if (kind === "plug")
      map.plugs.push({
        ...NEW_PLUG,
        id: attributes.id ?? `P${map.plugs.length + 1}`,
        xMm: box.xMm,
        yMm: box.yMm,
        side: attributes["data-side"] === "back" ? "back" : "front",
        kind: oneOf(PLUG_KINDS, attributes["data-plug"]) ?? NEW_PLUG.kind,
        feeds: oneOf(FEEDS, attributes["data-feeds"]) ?? NEW_PLUG.feeds,
        release: oneOf(RELEASES, attributes["data-release"]) ?? NEW_PLUG.release,
        layer: oneOf(LAYERS, attributes["data-layer"]) ?? NEW_PLUG.layer,
      });
    else {
      const known = PART_KINDS.find((one) => one === kind) ?? "other";
      map.parts.push({
        ...box,
        id: attributes.id ?? `X${map.parts.length + 1}`,
        kind: known,
        side: attributes["data-side"] === "back" ? "back" : "front",
        tallMm: optional("data-tall-mm"),
        cooledBy:
          (["pad", "mid-plate", "backplate", "paste", "none"] as const).find(
            (one) => one === attributes["data-cooled-by"],
          ) ?? (known === "other" ? "none" : "pad"),
        group: null,
        guideMm: optional("data-guide-mm"),
      });
    }
  }
  if (!map.die && map.parts.length === 0 && map.screws.length === 0 && map.plugs.length === 0)
    throw new Problem({
      code: "empty-drawing",
      what: "This drawing has no rectangle and no circle.",
      remedy: "Draw parts as rectangles and screw holes as circles, in millimetres.",
    });
  return map;
}
