import { CELL_MM, type Field } from "./field.ts";

export interface Circle {
  x: number;
  y: number;
  /** Share of all directions from which an edge votes for this middle. */
  score: number;
}

const DIRECTIONS = 16;
const LEAST_SHARE = 0.8;

/** Circles of the given radii: every edge votes for the middle it may belong to; from how many directions that was done is the score. */
export function circlesOf(
  field: Field,
  { gx, gy, usual }: { gx: Float32Array; gy: Float32Array; usual: number },
  radiiMm: readonly number[],
  inside: "disc" | "ring" = "disc",
): Circle[] {
  const { wide, high } = field;
  const edges = strongEdges(field, gx, gy, Math.max(0.1, 5 * usual));
  const found: Circle[] = [];
  for (const radiusMm of radiiMm) {
    const r = radiusMm / CELL_MM;
    for (const sign of [1, -1]) {
      const votes = new Uint16Array(wide * high);
      for (let at = 0; at < edges.count; at++) {
        const mx = Math.round((edges.x[at] ?? 0) - sign * r * (edges.ux[at] ?? 0));
        const my = Math.round((edges.y[at] ?? 0) - sign * r * (edges.uy[at] ?? 0));
        if (mx >= 0 && my >= 0 && mx < wide && my < high)
          votes[my * wide + mx] = (votes[my * wide + mx] ?? 0) | (edges.bit[at] ?? 0);
      }
      for (let y = 2; y < high - 2; y++)
        for (let x = 2; x < wide - 2; x++) {
          if (votes[y * wide + x] === 0) continue;
          let all = 0;
          for (let oy = -1; oy <= 1; oy++) for (let ox = -1; ox <= 1; ox++) all |= votes[(y + oy) * wide + x + ox] ?? 0;
          const score = ones(all) / DIRECTIONS;
          if (score >= LEAST_SHARE && isRound(field, x, y, r, inside)) found.push({ x, y, score });
        }
    }
  }
  return found;
}

/** Edges one after the other: where they are, where they point to the brighter side (length 1), and their direction as one bit of sixteen. */
interface StrongEdges {
  count: number;
  x: Uint16Array;
  y: Uint16Array;
  ux: Float32Array;
  uy: Float32Array;
  bit: Uint16Array;
}

function strongEdges({ wide, high }: Field, gx: Float32Array, gy: Float32Array, least: number): StrongEdges {
  const most = gx.length;
  const found: StrongEdges = {
    count: 0,
    x: new Uint16Array(most),
    y: new Uint16Array(most),
    ux: new Float32Array(most),
    uy: new Float32Array(most),
    bit: new Uint16Array(most),
  };
  for (let y = 2; y < high - 2; y++)
    for (let x = 2; x < wide - 2; x++) {
      const dx = gx[y * wide + x] ?? 0;
      const dy = gy[y * wide + x] ?? 0;
      const square = dx * dx + dy * dy;
      if (square < least * least) continue;
      const size = Math.sqrt(square);
      const turn = Math.floor(((Math.atan2(dy, dx) + Math.PI) / (2 * Math.PI)) * DIRECTIONS) % DIRECTIONS;
      const at = found.count++;
      found.x[at] = x;
      found.y[at] = y;
      found.ux[at] = dx / size;
      found.uy[at] = dy / size;
      found.bit[at] = 1 << turn;
    }
  return found;
}

/** Inside it (or on a ring inside it, whatever is cut into its middle) it is of one brightness, and all around darker, or all around brighter. */
function isRound({ wide, high, log }: Field, x: number, y: number, r: number, inside: "disc" | "ring"): boolean {
  const reach = Math.ceil(1.45 * r) + 1;
  if (x < reach || y < reach || x >= wide - reach || y >= high - reach) return false;
  const at = (radius: number, k: number): number => {
    const turn = (2 * Math.PI * k) / DIRECTIONS;
    return log[Math.round(y + radius * Math.sin(turn)) * wide + Math.round(x + radius * Math.cos(turn))] ?? 0;
  };
  const inner = (inside === "disc" ? INNER : RING) * r;
  const middle =
    inside === "disc"
      ? (log[y * wide + x] ?? 0)
      : Array.from({ length: DIRECTIONS }, (_, k) => at(inner, k)).reduce((sum, one) => sum + one / DIRECTIONS, 0);
  const outside = Array.from({ length: DIRECTIONS }, (_, k) => at(1.45 * r, k) - middle);
  const mean = outside.reduce((sum, one) => sum + one, 0) / DIRECTIONS;
  if (Math.abs(mean) < STEP || outside.some((one) => one / mean < LEAST_OF_MEAN)) return false;
  for (let k = 0; k < DIRECTIONS; k++) if (Math.abs((at(inner, k) - middle) / mean) > MOST_INSIDE) return false;
  return true;
}

/** Difference between inside and around, in log brightness; no direction may show much less of it, and inside hardly any. */
const STEP = 0.4;
const LEAST_OF_MEAN = 0.45;
const INNER = 0.6;
const RING = 0.72;
const MOST_INSIDE = 0.4;

function ones(mask: number): number {
  let count = 0;
  for (let left = mask; left !== 0; left &= left - 1) count++;
  return count;
}
