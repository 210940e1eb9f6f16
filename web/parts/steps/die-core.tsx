import type { Box } from "#core/boardmap/index.ts";
import type { PlannedTurn } from "#core/handwork/index.ts";

/**
 * The die from above with its core: while the centre of pressure stays inside, no edge lifts. The dot is where it lies after this turn, the
 * line how it came there.
 */
export function DieCore({
  die,
  turns,
  at,
  back,
}: {
  die: Box;
  turns: readonly PlannedTurn[];
  at: PlannedTurn;
  back: boolean;
}) {
  const { widthMm: w, heightMm: h } = die;
  const sign = back ? -1 : 1;
  const place = ({ exMm, eyMm }: PlannedTurn): [number, number] => [
    Math.max(-w * 0.62, Math.min(w * 0.62, sign * exMm)),
    Math.max(-h * 0.62, Math.min(h * 0.62, -eyMm)),
  ];
  const trail = turns.slice(0, turns.indexOf(at) + 1).filter(({ offCentre }) => offCentre !== null);
  const here = at.offCentre === null ? null : place(at);
  const outside = at.offCentre !== null && at.offCentre > 1;
  return (
    <figure className="rounded-xl border border-line bg-sheet p-3">
      <svg
        role="img"
        aria-label={
          at.offCentre === null
            ? "The die carries nothing yet"
            : `Centre of pressure ${outside ? "outside" : "inside"} the core of the die`
        }
        viewBox={`${-w * 0.7} ${-h * 0.7} ${w * 1.4} ${h * 1.4}`}
        className="mx-auto block max-h-44 w-full"
      >
        <rect x={-w / 2} y={-h / 2} width={w} height={h} fill="var(--paper)" stroke="var(--ink)" strokeWidth={w / 70} />
        <path
          d={`M${-w / 6} 0L0 ${-h / 6}L${w / 6} 0L0 ${h / 6}Z`}
          fill="var(--frost)"
          stroke="var(--ice)"
          strokeWidth={w / 90}
          strokeDasharray={`${w / 40} ${w / 60}`}
        />
        <polyline
          points={trail.map((turn) => place(turn).join(",")).join(" ")}
          fill="none"
          stroke="var(--soft)"
          strokeWidth={w / 120}
        />
        {here && (
          <circle
            cx={here[0]}
            cy={here[1]}
            r={w / 26}
            fill={outside ? "var(--amber)" : "var(--ice)"}
            stroke="var(--sheet)"
            strokeWidth={w / 110}
          />
        )}
      </svg>
      <figcaption className="mt-2 flex flex-wrap items-baseline justify-between gap-x-4 text-sm">
        <span>
          <strong className="text-lg">{Math.round(at.cornerKPa)} kPa</strong> at the worst corner
        </span>
        <span>
          <strong>{at.dieForceN.toFixed(0)} N</strong> on the die
        </span>
        <span className="text-soft">
          {at.offCentre === null
            ? "It carries nothing yet."
            : outside
              ? "Outside the core: an edge lifts until the next screw follows."
              : "Inside the dashed core: no edge lifts."}
        </span>
      </figcaption>
    </figure>
  );
}
