import { Problem } from "#core";
import { type BoardMap, mapFromShapes, type Shape } from "#core/boardmap/index.ts";
import { parseLengthMm } from "#core/units/index.ts";

/**
 * A map from a drawing.
 * @throws Problem `not-a-map`, `empty-drawing`
 */
export function fromSvg(text: string): BoardMap {
  const root = new DOMParser().parseFromString(text, "image/svg+xml").documentElement;
  const box = (root.getAttribute("viewBox") ?? "").split(/[\s,]+/).map(Number);
  const width = parseLengthMm(root.getAttribute("width") ?? "");
  if (root.tagName !== "svg" || (box.length !== 4 && width === undefined))
    throw new Problem({
      code: "not-a-map",
      what: "This is not a drawing in SVG with a size.",
      remedy: "Save it with width and height in millimetres.",
    });
  const [, , unitsWide = width ?? 0, unitsHigh = parseLengthMm(root.getAttribute("height") ?? "") ?? 0] = box;
  const shapes = [...root.querySelectorAll("rect, circle")].map(
    (element): Shape => ({
      element: element.tagName === "circle" ? "circle" : "rect",
      attributes: Object.fromEntries(
        element.getAttributeNames().map((name) => [name, element.getAttribute(name) ?? ""]),
      ),
    }),
  );
  const thickness = Number(root.getAttribute("data-thickness-mm"));
  return mapFromShapes(shapes, {
    width: unitsWide,
    height: unitsHigh,
    mmPerUnit: width !== undefined && unitsWide > 0 ? width / unitsWide : 1,
    thicknessMm: thickness > 0 ? thickness : null,
  });
}
