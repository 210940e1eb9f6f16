import type { BoardMap } from "#core/boardmap/index.ts";
import type { Cooler, Fit } from "#core/coolers/index.ts";

/** A cooler laid over the plan of a board, as it lies after its shift and turn. */
export function CoolerOverlay({ map, cooler, fit }: { map: BoardMap; cooler: Cooler; fit: Fit }) {
  if (!map.die) return null;
  const { heightMm } = map.board;
  const sign = fit.turned ? -1 : 1;
  const x0 = map.die.xMm + fit.shiftMm.x;
  const y0 = heightMm - map.die.yMm - fit.shiftMm.y;
  const box = (one: { xMm: number; yMm: number; widthMm: number; heightMm: number }) => ({
    x: x0 + sign * one.xMm - one.widthMm / 2,
    y: y0 - sign * one.yMm - one.heightMm / 2,
    width: one.widthMm,
    height: one.heightMm,
  });
  const missing = new Set(fit.posts.filter(({ holeId }) => holeId === null).map(({ postId }) => postId));
  const line = { fill: "none", stroke: "var(--ice)", strokeWidth: 0.5, pointerEvents: "none" } as const;
  return (
    <g aria-hidden>
      {cooler.plate && <rect {...box(cooler.plate)} {...line} strokeWidth={0.8} />}
      {cooler.faces.map((face) => (
        <rect key={face.id} {...box(face)} {...line} strokeDasharray={face.for === "none" ? "1 1" : undefined} />
      ))}
      {cooler.posts.map((post) => (
        <g key={post.id}>
          <circle
            cx={x0 + sign * post.xMm}
            cy={y0 - sign * post.yMm}
            r={2.4}
            {...line}
            stroke={missing.has(post.id) ? "var(--danger)" : "var(--ice)"}
            strokeWidth={missing.has(post.id) ? 1 : 0.6}
          />
          {missing.has(post.id) && (
            <text
              x={x0 + sign * post.xMm}
              y={y0 - sign * post.yMm - 3.4}
              fontSize={4}
              fontWeight={700}
              textAnchor="middle"
              fill="var(--danger)"
            >
              {post.id}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}
