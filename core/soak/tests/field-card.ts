/**
 * A second generator of runs, of another structure than the analysis and the virtual card: heat flows through some 180 cells (base and fins in
 * rows, board and backplate as two sheets), air warms along the fins and fills a case that fills the room's air but slowly, leakage grows with
 * the die's temperature, the fan may follow it, power and room wander. Its answer is a sum of many time constants from a second to half an hour.
 * The settled truth is one linear solve of the same cells. Figures of the trade, invented.
 */
import { Matrix, solve } from "ml-matrix";
import { nth } from "../../numeric/index.ts";
import { type Random, seeded } from "../../random/index.ts";

export interface FieldSpec {
  seed: number;
  loadS: number;
  idleS?: number;
  /** Room's drift over the run: none, even (K/h), or coming and going. */
  room?: "still" | "even" | "waves";
  roomColumn?: boolean;
  fan?: "fixed" | "automatic";
  powerWander?: number;
  stepK?: 1 | 0.1;
}

export interface FieldRun {
  text: string;
  /** Where it settles at the fan speed, mean power and room air of its end, °C. */
  settled: { edgeC: number; hotspotC: number; memoryC: number };
  /** What they really are at the end, without noise, °C. */
  atEnd: { edgeC: number; hotspotC: number; memoryC: number };
  roomAtEndC: number;
}

interface Link {
  a: number;
  b: number;
  kPerW: number;
  /** Grows with fan speed to this power. */
  fan: number;
}

/** The cells of one card: heat capacities, links, and who meets the case's air. */
class Cells {
  readonly joules: number[] = [];
  readonly links: Link[] = [];
  add(jPerK: number): number {
    return this.joules.push(jPerK) - 1;
  }
  link(a: number, b: number, wPerK: number, fan = 0): void {
    this.links.push({ a, b, kPerW: wPerK, fan });
  }
}

const COLUMNS = 12;
const FIN_CELLS = 4;
const BOARD = { across: 10, up: 4 };

function buildCard(random: Random) {
  const cells = new Cells();
  const powerW = random.between(100, 320);
  const size = powerW / 200;
  const room = cells.add(1);
  const caseAir = cells.add(random.between(150, 900));
  const open = random.uniform() < 0.4;
  cells.link(room, caseAir, open ? 60 : random.between(6, 25) * size);
  const exhaust = [cells.add(3), cells.add(3)] as const;
  const hot = cells.add(random.between(2, 5) * size);
  const rim = cells.add(random.between(15, 35) * size);
  cells.link(hot, rim, (size * 200) / random.between(9, 22));
  const base = Array.from({ length: COLUMNS }, () => cells.add(random.between(12, 24) * size));
  base.slice(1).forEach((cell, k) => {
    cells.link(base[k] ?? cell, cell, random.between(25, 60) * size);
  });
  for (const k of [5, 6]) cells.link(rim, base[k] ?? rim, (0.5 * size * 200) / random.between(8, 20));
  const airWPerK = random.between(14, 24) * size;
  const recirculated = open ? 0 : random.between(0.2, 0.8);
  for (const end of exhaust) cells.link(end, caseAir, airWPerK, 1);
  base.forEach((foot, k) => {
    let below = foot;
    for (let f = 0; f < FIN_CELLS; f++) {
      const fin = cells.add(random.between(5, 11) * size);
      cells.link(below, fin, random.between(8, 16) * size);
      cells.link(fin, exhaust[k < COLUMNS / 2 ? 0 : 1], (size * random.between(11, 15)) / (COLUMNS * FIN_CELLS), 0.7);
      below = fin;
    }
  });
  const sheet = (jPerK: number, wPerK: number, lossWPerK: number): number[][] => {
    const rows = Array.from({ length: BOARD.up }, () => Array.from({ length: BOARD.across }, () => cells.add(jPerK)));
    rows.forEach((row, y) => {
      row.forEach((cell, x) => {
        const right = row[x + 1];
        const above = rows[y + 1]?.[x];
        if (right !== undefined) cells.link(cell, right, wPerK);
        if (above !== undefined) cells.link(cell, above, wPerK);
        cells.link(cell, caseAir, lossWPerK);
      });
    });
    return rows;
  };
  const board = sheet(random.between(4, 9), random.between(0.03, 0.08), random.between(0.006, 0.014));
  const plate = sheet(random.between(2, 6), random.between(0.1, 0.35), random.between(0.006, 0.014));
  const joined = random.between(0.01, 0.15);
  board.forEach((row, y) => {
    row.forEach((cell, x) => {
      cells.link(cell, plate[y]?.[x] ?? cell, joined);
    });
  });
  const boardAt = (x: number, y: number): number => board[y]?.[x] ?? rim;
  for (const [x, y] of [
    [4, 1],
    [5, 1],
    [4, 2],
    [5, 2],
  ] as const)
    cells.link(rim, boardAt(x, y), random.between(0.1, 0.5));
  const memory = [2, 7].map((x) => {
    const chip = cells.add(random.between(6, 14));
    cells.link(chip, base[x] ?? rim, random.between(0.8, 2.2) * size);
    cells.link(chip, boardAt(x, 1), random.between(0.1, 0.3));
    return chip;
  });
  return {
    cells,
    powerW,
    room,
    caseAir,
    exhaust,
    airWPerK,
    recirculated,
    hot,
    rim,
    memory,
    board,
    leakPerK: random.between(0.0004, 0.002),
  };
}

type Card = ReturnType<typeof buildCard>;

/** Heat per cell at a board power, W. */
function heat(card: Card, powerW: number, out: Float64Array): void {
  out.fill(0);
  out[card.hot] = 0.3 * powerW;
  out[card.rim] = 0.42 * powerW;
  for (const chip of card.memory) out[chip] = 0.06 * powerW;
  const spread = (0.16 * powerW) / (BOARD.across * BOARD.up);
  for (const row of card.board) for (const cell of row) out[cell] = spread;
}

/** Temperatures that a power, a fan speed (1 is its reference) and a room would come to. */
function settle(card: Card, powerW: number, fan: number, roomC: number): Float64Array {
  const n = card.cells.joules.length;
  const matrix = Matrix.zeros(n, n);
  const add = (row: number, column: number, value: number): void => {
    matrix.set(row, column, matrix.get(row, column) + value);
  };
  for (const { a, b, kPerW, fan: power } of card.cells.links) {
    const g = kPerW * fan ** power;
    add(a, a, g);
    add(b, b, g);
    // The case's air is warmed by what comes out of the fins only as far as that does not leave it at once.
    add(a, b, -g);
    add(b, a, -g);
  }
  const flow = card.airWPerK * fan * (1 - card.recirculated);
  for (const end of card.exhaust) {
    add(card.caseAir, end, flow);
    add(card.caseAir, card.caseAir, -flow);
  }
  const right = new Float64Array(n);
  heat(card, powerW, right);
  for (let k = 0; k < n; k++) matrix.set(card.room, k, k === card.room ? 1 : 0);
  right[card.room] = roomC;
  return Float64Array.from(solve(matrix, Matrix.columnVector([...right])).to1DArray());
}

const STEP_S = 0.05;
const FULL_RPM = 3000;
const REFERENCE_RPM = 1800;

/** Simulates a run of the card that `seed` draws: idle, then load, ending under load. */
export function fieldRun(spec: FieldSpec): FieldRun {
  const random = seeded(spec.seed);
  const card = buildCard(random);
  const {
    idleS = 60,
    room = random.pick(["still", "even", "waves"]),
    roomColumn = true,
    fan = random.uniform() < 0.7 ? "fixed" : "automatic",
    powerWander = random.between(0.002, 0.025),
    stepK = random.uniform() < 0.6 ? 1 : 0.1,
    loadS,
  } = spec;
  const roomStartC = random.between(18, 27);
  const driftKPerS = random.between(-3, 4) / 3600;
  const wave = { k: random.between(0.2, 0.6), periodS: random.between(700, 2500), phase: random.between(0, 6) };
  const roomAt = (t: number): number =>
    roomStartC +
    (room === "even" ? driftKPerS * t : 0) +
    (room === "waves" ? wave.k * Math.sin((2 * Math.PI * t) / wave.periodS + wave.phase) : 0);
  const wanderS = random.between(10, 120);
  const noiseK = random.between(0.05, 0.35);
  const fixedFan = random.between(0.8, 1.25);

  const n = card.cells.joules.length;
  const idleFan = fan === "fixed" ? fixedFan : 0.55;
  let t = settle(card, 0.08 * card.powerW, idleFan, roomStartC);
  const flowIn = new Float64Array(n);
  const heatIn = new Float64Array(n);
  const { links } = card.cells;
  const from = Int32Array.from(links, (one) => one.a);
  const to = Int32Array.from(links, (one) => one.b);
  const conductance = Float64Array.from(links, (one) => one.kPerW);
  const stepPerJoule = Float64Array.from(card.cells.joules, (joule) => STEP_S / joule);
  let speed = idleFan;
  let speedOfLinks = Number.NaN;
  let wander = 0;
  let powerNow = 0;
  const rows: string[] = [
    "Time [s],GPU temperature [°C],GPU hot spot [°C],Memory temperature [°C],Room air [°C],Fan [rpm],Power [W]",
  ];
  const shown = (value: number): string =>
    (stepK === 1 ? Math.round(value + noiseK * random.normal()) : value + noiseK * random.normal()).toFixed(
      stepK === 1 ? 0 : 1,
    );
  const steps = Math.round((idleS + loadS) / STEP_S);
  const perRow = Math.round(1 / STEP_S);
  const edge = (): number => nth(t, card.rim);
  const hottestChip = (): number => Math.max(...card.memory.map((chip) => nth(t, chip)));
  for (let step = 0; step <= steps; step++) {
    const at = step * STEP_S;
    t[card.room] = roomAt(at);
    if (step % perRow === 0) {
      const share = Math.exp(-1 / wanderS);
      wander = share * wander + Math.sqrt(1 - share * share) * random.normal();
      const leak = 1 + card.leakPerK * (edge() - 60);
      powerNow = card.powerW * leak * (at >= idleS ? 1 + powerWander * wander : 0.08);
      heat(card, powerNow, heatIn);
      if (fan === "automatic") {
        const wanted = Math.min(1.6, Math.max(0.55, 0.55 + (edge() - 50) / 28));
        speed += Math.max(-0.02, Math.min(0.02, wanted - speed));
      }
      const air = roomColumn ? (nth(t, card.room) + 0.04 * random.normal()).toFixed(1) : "";
      rows.push(
        `${at.toFixed(0)},${shown(edge())},${shown(nth(t, card.hot))},${shown(hottestChip())},${air},${Math.round(Math.min(FULL_RPM, speed * REFERENCE_RPM) + 4 * random.normal())},${(powerNow * (1 + 0.003 * random.normal())).toFixed(1)}`,
      );
    }
    if (step === steps) break;
    if (Math.abs(speed - speedOfLinks) > 1e-6 || Number.isNaN(speedOfLinks)) {
      links.forEach((one, k) => {
        conductance[k] = one.kPerW * speed ** one.fan;
      });
      speedOfLinks = speed;
    }
    flowIn.set(heatIn);
    for (let k = 0; k < from.length; k++) {
      const one = from[k] ?? 0;
      const other = to[k] ?? 0;
      const flow = (conductance[k] ?? 0) * ((t[one] ?? 0) - (t[other] ?? 0));
      flowIn[one] = (flowIn[one] ?? 0) - flow;
      flowIn[other] = (flowIn[other] ?? 0) + flow;
    }
    const away = card.airWPerK * speed * (1 - card.recirculated);
    for (const end of card.exhaust)
      flowIn[card.caseAir] = nth(flowIn, card.caseAir) - away * (nth(t, end) - nth(t, card.caseAir));
    for (let cell = 0; cell < n; cell++) t[cell] = (t[cell] ?? 0) + (stepPerJoule[cell] ?? 0) * (flowIn[cell] ?? 0);
  }
  const pick = (from: Float64Array) => ({
    edgeC: nth(from, card.rim),
    hotspotC: nth(from, card.hot),
    memoryC: Math.max(...card.memory.map((chip) => nth(from, chip))),
  });
  const roomAtEndC = roomAt(idleS + loadS);
  const meanPower = card.powerW * (1 + card.leakPerK * (edge() - 60));
  return {
    text: `${rows.join("\n")}\n`,
    settled: pick(settle(card, meanPower, speed, roomAtEndC)),
    atEnd: pick(t),
    roomAtEndC,
  };
}
