import type { CutSheetInput } from "#contract";
import type { CutLine } from "#core/cutting/index.ts";
import { cutMarks, letterMm, MARK_RADIUS_MM } from "./cut-marks.ts";

/** One sheet to scale, with its pieces, notches and the cuts in their order. */
export function SheetView({
  sheet,
  cuts,
  label,
  trueSize = false,
}: {
  sheet: CutSheetInput;
  cuts: readonly CutLine[];
  label: string;
  /** In millimetres on paper instead of as wide as there is room. */
  trueSize?: boolean;
}) {
  const { widthMm, heightMm } = sheet;
  const up = (y: number): number => heightMm - y;
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`${-PAD_MM} ${-PAD_MM} ${widthMm + 2 * PAD_MM} ${heightMm + 2 * PAD_MM}`}
      {...(trueSize
        ? { width: `${widthMm + 2 * PAD_MM}mm`, height: `${heightMm + 2 * PAD_MM}mm` }
        : { className: "w-full", style: { maxHeight: "22rem" } })}
    >
      <rect
        width={widthMm}
        height={heightMm}
        fill={trueSize ? "none" : "var(--paper)"}
        stroke="var(--edge)"
        strokeWidth={0.3}
      />
      {sheet.pieces.map((piece) => {
        const size = letterMm(piece);
        return (
          <g key={`${piece.xMm} ${piece.yMm}`}>
            <rect
              x={piece.xMm}
              y={up(piece.yMm + piece.heightMm)}
              width={piece.widthMm}
              height={piece.heightMm}
              fill={trueSize ? "none" : piece.cut ? "var(--frost)" : "var(--sheet)"}
              stroke="var(--ink)"
              strokeWidth={0.25}
            />
            <Notches piece={piece} heightMm={heightMm} />
            <text
              x={piece.xMm + piece.widthMm / 2}
              y={up(piece.yMm + piece.heightMm / 2) + size * 0.36}
              fontSize={size}
              fontWeight={600}
              textAnchor="middle"
              fill="var(--ink)"
            >
              {piece.cut ? `✓${piece.pieceId}` : piece.pieceId}
            </text>
          </g>
        );
      })}
      {cuts.map((cut) => (
        <line
          key={`${cut.x0Mm} ${cut.y0Mm} ${cut.x1Mm} ${cut.y1Mm}`}
          x1={cut.x0Mm}
          y1={up(cut.y0Mm)}
          x2={cut.x1Mm}
          y2={up(cut.y1Mm)}
          stroke="var(--ice)"
          strokeWidth={0.35}
          strokeDasharray="1.6 0.8"
        />
      ))}
      {cutMarks(cuts, sheet.pieces).map(({ xMm, yMm }, index) => (
        <g key={`${xMm} ${yMm}`}>
          <circle cx={xMm} cy={up(yMm)} r={MARK_RADIUS_MM} fill="var(--sheet)" stroke="var(--ice)" strokeWidth={0.25} />
          <text x={xMm} y={up(yMm) + 0.72} fontSize={2} fontWeight={600} textAnchor="middle" fill="var(--ice)">
            {index + 1}
          </text>
        </g>
      ))}
    </svg>
  );
}

const PAD_MM = 4;

/** Round cut-outs, drawn only where they meet their piece. */
function Notches({ piece, heightMm }: { piece: CutSheetInput["pieces"][number]; heightMm: number }) {
  if (piece.notches.length === 0) return null;
  const id = `clip-${piece.xMm}-${piece.yMm}`.replaceAll(".", "_");
  return (
    <>
      <clipPath id={id}>
        <rect x={piece.xMm} y={heightMm - piece.yMm - piece.heightMm} width={piece.widthMm} height={piece.heightMm} />
      </clipPath>
      {piece.notches.map((notch) => (
        <circle
          key={`${notch.xMm} ${notch.yMm}`}
          clipPath={`url(#${id})`}
          cx={piece.xMm + notch.xMm}
          cy={heightMm - piece.yMm - notch.yMm}
          r={notch.radiusMm}
          fill="var(--paper)"
          stroke="var(--ink)"
          strokeWidth={0.25}
        />
      ))}
    </>
  );
}
