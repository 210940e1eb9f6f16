import { nth, studentT } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";

export interface LeakReading {
  /** Minutes since the loop was pumped up. */
  atMin: number;
  /** Over the air outside, as a gauge shows it. */
  pressureKPa: number;
  airC: number;
}

export interface LeakTask {
  readings: readonly LeakReading[];
  /** A leak that must not be missed: fall of pressure at constant temperature. */
  namedKPaPerH: number;
  /** Air in the loop; null where nobody knows. */
  volumeMl: number | null;
  /** Smallest step of gauge and thermometer. */
  gaugeStepKPa: number;
  airStepK: number;
}

export interface LeakFound {
  verdict: "tight" | "leaking" | "not known yet";
  /** Fall of pressure as if the air had kept its temperature, with its 95 % half-width; null with fewer than three readings. */
  fallKPaPerH: number | null;
  u95KPaPerH: number | null;
  /** The same as air that escapes at outside pressure. */
  leakMlPerMin: number | null;
  /** Minutes more, at as many readings an hour, until a leak of the named size would show; null where that is known now, or can't be foreseen. */
  moreMin: number | null;
  /** Readings that counted: those of the first minutes do not. */
  counted: number;
  /** What warming or cooling alone did to the gauge over the test. */
  byTemperatureKPa: number | null;
  why: string;
}

const AIR_KPA = 101.325;
const ZERO_K = 273.15;
/** Air warmed by pumping cools and soft tube gives way meanwhile (common practice, no source). */
export const SETTLE_MIN = 5;
/** Air inside follows the room with about this lag (usual for tube and block, no source). */
const LAG_H = 8 / 60;
/** The weather moves a gauge's zero; standard deviation over an hour's test (usual, from memory; a front moves it several times as much). */
const WEATHER_KPA_PER_H = 0.06;
const MOST_READINGS = 20_000;
const MOST_MORE_MIN = 24 * 60;
/** A rise by more than warming can explain: it was pumped up again. */
const PUMPED_KPA = 3;
/** A leak that is to show beside the weather. */
const LEAST_NAMED_KPA_PER_H = 4 * WEATHER_KPA_PER_H * 1.96;

const bad = (code: string, what: string, where: string, remedy: string): Problem =>
  new Problem({ code, what, where, remedy });

/**
 * Tight or leaking: pressures corrected for temperature (p/T is constant at constant volume), a line through what is left, its interval from
 * scatter, steps of the instruments, correlation, lag of the air inside and the weather.
 * @throws Problem `bad-leak-test` for readings that can't be, `gauge-stuck`, `pumped-again`, `leak-too-small`
 */
export function leakTest(task: LeakTask): LeakFound {
  check(task);
  const { readings, namedKPaPerH, volumeMl } = task;
  const start = nth(readings, 0);
  const counted = readings.filter(({ atMin }) => atMin - start.atMin >= SETTLE_MIN || readings.length <= 2);
  const referenceK = (readings.at(-1)?.airC ?? start.airC) + ZERO_K;
  const few = (why: string): LeakFound => ({
    verdict: "not known yet",
    fallKPaPerH: null,
    u95KPaPerH: null,
    leakMlPerMin: null,
    moreMin: null,
    counted: counted.length,
    byTemperatureKPa: null,
    why,
  });
  if (counted.length < 3)
    return few(
      readings.length < 3
        ? "Two readings say nothing of their scatter: take three or more, some minutes apart."
        : `The first ${SETTLE_MIN} minutes do not count, air and tube settle: take three readings or more after them.`,
    );
  const corrected = counted.map((one) => ({
    h: (one.atMin - start.atMin) / 60,
    kPa: ((one.pressureKPa + AIR_KPA) * referenceK) / (one.airC + ZERO_K),
  }));
  const sigma = noiseOf(task, nth(counted, 0).pressureKPa + AIR_KPA, referenceK);
  const all = lineThrough(corrected, sigma);
  const line = settled(corrected, sigma, all);
  const lag = lagSd(counted, nth(counted, 0).pressureKPa + AIR_KPA, referenceK);
  const u95At = (factor: number): number =>
    Math.hypot(
      studentT(Math.max(1, line.freedom * factor)) * line.sd * factor ** -1.5,
      1.96 * lag * factor ** -2,
      1.96 * WEATHER_KPA_PER_H,
    );
  const fall = -line.slope;
  const u95 = u95At(1);
  const tight = fall + u95 < namedKPaPerH;
  const leaking = !tight && fall - u95 > 0;
  // Long enough to tell it either from none or from one of the named size.
  const enough = Math.max(namedKPaPerH - fall, fall);
  const spanMin = (nth(corrected, corrected.length - 1).h - nth(corrected, 0).h) * 60;
  let moreMin: number | null = null;
  if (!tight && !leaking)
    for (let minutes = 1; minutes <= MOST_MORE_MIN; minutes++)
      if (u95At((spanMin + minutes) / spanMin) < enough) {
        moreMin = minutes;
        break;
      }
  const last = nth(counted, counted.length - 1);
  const first = nth(counted, 0);
  return {
    verdict: tight ? "tight" : leaking ? "leaking" : "not known yet",
    fallKPaPerH: fall,
    u95KPaPerH: u95,
    leakMlPerMin: volumeMl === null ? null : (volumeMl * fall) / AIR_KPA / 60,
    moreMin,
    counted: counted.length,
    byTemperatureKPa: ((first.pressureKPa + AIR_KPA) * (last.airC - first.airC)) / (first.airC + ZERO_K),
    why: tight
      ? "A leak of the named size would have shown by now."
      : leaking
        ? "The pressure falls by more than temperature, scatter and weather explain."
        : "Scatter and time do not let a leak of the named size be told from none yet.",
  };
}

/** Standard deviation of one corrected pressure by the steps of gauge and thermometer (rectangular, JCGM 100). */
const noiseOf = ({ gaugeStepKPa, airStepK }: LeakTask, kPa: number, kelvin: number): number =>
  Math.hypot(gaugeStepKPa, (kPa * airStepK) / kelvin) / Math.sqrt(12);

interface Line {
  slope: number;
  sd: number;
  freedom: number;
}

/** Least squares; the scatter is never taken for less than the instruments' steps allow, and neighbours that go together count as fewer. */
function lineThrough(points: ReadonlyArray<{ h: number; kPa: number }>, sigma: number): Line {
  const n = points.length;
  const mean = (of: (point: { h: number; kPa: number }) => number): number =>
    points.reduce((sum, point) => sum + of(point), 0) / n;
  const h0 = mean(({ h }) => h);
  const y0 = mean(({ kPa }) => kPa);
  const xx = points.reduce((sum, { h }) => sum + (h - h0) ** 2, 0);
  const slope = points.reduce((sum, { h, kPa }) => sum + (h - h0) * (kPa - y0), 0) / xx;
  const rest = points.map(({ h, kPa }) => kPa - y0 - slope * (h - h0));
  const squares = rest.reduce((sum, one) => sum + one ** 2, 0);
  const joint = rest.slice(1).reduce((sum, one, index) => sum + one * nth(rest, index), 0);
  // With few readings the correlation is not to be told from chance.
  const together = n < 8 || squares === 0 ? 0 : Math.min(0.95, Math.max(0, joint / squares));
  const scatter = (squares / (n - 2)) * ((1 + together) / (1 - together));
  const variance = Math.max(scatter, sigma ** 2);
  return { slope, sd: Math.sqrt(variance / xx), freedom: n - 2 };
}

/** Where the earlier half falls faster than the later beyond doubt, tube is still giving way: the later half alone counts. */
function settled(points: ReadonlyArray<{ h: number; kPa: number }>, sigma: number, all: Line): Line {
  if (points.length < 8) return all;
  const middle = Math.floor(points.length / 2);
  const early = lineThrough(points.slice(0, middle), sigma);
  const late = lineThrough(points.slice(middle), sigma);
  return late.slope - early.slope > 2 * Math.hypot(early.sd, late.sd) ? late : all;
}

/** The air inside lags behind the room: where the room's warming changes during the test, that looks like a change of pressure. */
function lagSd(readings: readonly LeakReading[], kPa: number, kelvin: number): number {
  const first = nth(readings, 0);
  const middle = nth(readings, Math.floor(readings.length / 2));
  const last = nth(readings, readings.length - 1);
  const rate = (a: LeakReading, b: LeakReading): number => (b.airC - a.airC) / Math.max(1e-6, (b.atMin - a.atMin) / 60);
  const hours = (last.atMin - first.atMin) / 60;
  return (((kPa / kelvin) * LAG_H * Math.abs(rate(middle, last) - rate(first, middle))) / hours) * 2;
}

function check({ readings, namedKPaPerH, gaugeStepKPa }: LeakTask): void {
  if (readings.length < 2)
    throw bad(
      "bad-leak-test",
      "There are fewer than two readings.",
      "readings",
      "Read gauge and air again in some minutes.",
    );
  if (readings.length > MOST_READINGS)
    throw bad(
      "bad-leak-test",
      `These are more than ${MOST_READINGS} readings.`,
      "readings",
      "Give one every few seconds.",
    );
  if (!(namedKPaPerH >= LEAST_NAMED_KPA_PER_H))
    throw bad(
      "leak-too-small",
      "A leak this small hides behind the weather.",
      "namedKPaPerH",
      `Name one of ${LEAST_NAMED_KPA_PER_H.toFixed(1)} kPa an hour or more.`,
    );
  for (const [index, { atMin, pressureKPa, airC }] of readings.entries()) {
    const where = `readings[${index}]`;
    const before = readings[index - 1];
    if (before && !(atMin > before.atMin))
      throw bad(
        "bad-leak-test",
        "This reading is not later than the one before it.",
        where,
        "Put them in their order.",
      );
    if (!(pressureKPa >= 0 && pressureKPa <= 300))
      throw bad(
        "bad-leak-test",
        `${pressureKPa} kPa is no pressure for a loop.`,
        where,
        "Give kPa over the air outside: 100 kPa is 1 bar.",
      );
    if (!(airC >= -10 && airC <= 60))
      throw bad("bad-leak-test", `${airC} °C is no air of a workshop.`, where, "Give the air’s temperature in °C.");
    if (before) {
      const explained = ((before.pressureKPa + AIR_KPA) * Math.abs(airC - before.airC)) / (before.airC + ZERO_K);
      if (pressureKPa - before.pressureKPa > explained + PUMPED_KPA + 2 * gaugeStepKPa)
        throw bad(
          "pumped-again",
          "The pressure rose by itself: it was pumped up again.",
          where,
          "Begin a new test from there.",
        );
    }
  }
  const first = nth(readings, 0);
  const airs = readings.map(({ airC }) => airC);
  const moved = ((first.pressureKPa + AIR_KPA) * (Math.max(...airs) - Math.min(...airs))) / (first.airC + ZERO_K);
  if (
    readings.length >= 4 &&
    moved > 3 * gaugeStepKPa &&
    readings.every((one) => one.pressureKPa === first.pressureKPa)
  )
    throw bad(
      "gauge-stuck",
      `The gauge stands still although the air’s temperature alone moves it by ${moved.toFixed(1)} kPa.`,
      "readings",
      "Tap it, or take another gauge.",
    );
}
