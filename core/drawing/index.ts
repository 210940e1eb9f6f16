/**
 * Draws a cut sheet at its true size: SVG and DXF, millimetres from the lower-left corner. Loaded only where something is drawn.
 */
import { DxfWriter, point3d, Units } from "@tarikjabiri/dxf";
import type { CutLine, Space } from "../cutting/index.ts";

/** What is drawn of one sheet: mm from its lower-left corner, y up. */
export interface SheetDrawing {
  widthMm: number;
  heightMm: number;
  pieces: Array<Space & { label: string; notches: Array<{ xMm: number; yMm: number; radiusMm: number }> }>;
  cuts: readonly CutLine[];
}

const num = (mm: number): number => Math.round(mm * 1000) / 1000;
const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign] ?? sign);

/** A sheet at its true size as SVG; drawings have y down. */
export function sheetToSvg({ widthMm, heightMm, pieces }: SheetDrawing): string {
  const up = (y: number): number => num(heightMm - y);
  const shapes = pieces.flatMap((piece) => [
    `  <rect x="${num(piece.xMm)}" y="${up(piece.yMm + piece.heightMm)}" width="${num(piece.widthMm)}" height="${num(piece.heightMm)}"/>`,
    ...piece.notches.map(
      ({ xMm, yMm, radiusMm }) =>
        `  <circle cx="${num(piece.xMm + xMm)}" cy="${up(piece.yMm + yMm)}" r="${num(radiusMm)}"/>`,
    ),
    `  <text x="${num(piece.xMm + 1)}" y="${up(piece.yMm + 1)}" font-size="3" fill="black" stroke="none">${escaped(piece.label)}</text>`,
  ]);
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${num(widthMm)}mm" height="${num(heightMm)}mm" viewBox="0 0 ${num(widthMm)} ${num(heightMm)}" fill="none" stroke="black" stroke-width="0.1">`,
    `  <rect x="0" y="0" width="${num(widthMm)}" height="${num(heightMm)}"/>`,
    ...shapes,
    "</svg>",
    "",
  ].join("\n");
}

/** A sheet as DXF in millimetres: layers for the sheet, the pieces, their notches and the order of cuts. */
export function sheetToDxf({ widthMm, heightMm, pieces, cuts }: SheetDrawing): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  const box = (one: Space, layer: string): void => {
    dxf.addRectangle(point3d(one.xMm, one.yMm + one.heightMm), point3d(one.xMm + one.widthMm, one.yMm), {
      layerName: layer,
    });
  };
  for (const [name, colour] of [
    ["sheet", 8],
    ["pieces", 7],
    ["notches", 1],
    ["cuts", 5],
  ] as const)
    dxf.addLayer(name, colour, "Continuous");
  box({ xMm: 0, yMm: 0, widthMm, heightMm }, "sheet");
  for (const piece of pieces) {
    box(piece, "pieces");
    for (const { xMm, yMm, radiusMm } of piece.notches)
      dxf.addCircle(point3d(piece.xMm + xMm, piece.yMm + yMm), radiusMm, { layerName: "notches" });
  }
  for (const cut of cuts) dxf.addLine(point3d(cut.x0Mm, cut.y0Mm), point3d(cut.x1Mm, cut.y1Mm), { layerName: "cuts" });
  return dxf.stringify();
}
