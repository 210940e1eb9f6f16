/**
 * How often the intervals hold the truth, over 200 simulated runs and pairs. Fails where a share falls short of what is asked for: run it before
 * a change of `soak`, `compare` or `diagnose` is called done.
 */
import {
  CAREFUL,
  diagnoseTrials,
  earlyStopTrials,
  fieldSoak,
  fieldTrials,
  pairTrials,
  riseTrials,
  simulatedSoak,
} from "./trials.ts";

const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1] ?? Number.NaN;
const percent = (part: number, whole: number): string =>
  whole === 0 ? "none" : `${((100 * part) / whole).toFixed(1)} % (${part} of ${whole})`;

/** Says a share beside what is asked for; a share that is not kept fails the whole. */
function asked(words: string, part: number, whole: number, { least = 0, most = 1 }: { least?: number; most?: number }) {
  const share = part / whole;
  const isKept = whole > 0 && share >= least && share <= most;
  if (!isKept) process.exitCode = 1;
  const bounds = [
    ...(least > 0 ? [`at least ${100 * least} %`] : []),
    ...(most < 1 ? [`at most ${100 * most} %`] : []),
  ];
  console.log(`${isKept ? "kept " : "SHORT"} ${words} ${percent(part, whole)}; asked for: ${bounds.join(", ")}`);
}

const settled = riseTrials(200, 1000);
asked("settled runs: the 95 % interval holds the true rise in", settled.covered, settled.steady, { least: 0.9 });
console.log(`      median half-width ${median(settled.halfWidths).toFixed(2)} K`);
const early = riseTrials(200, 3000, [3, 9]);
asked("stopped after 3 to 9 minutes: the settling value holds in", early.finalsCovered, early.unsettled, {
  least: 0.9,
});
const none = pairTrials(200, 500, 0);
asked("pairs without a change: called a change in", none.better + none.worse, none.pairs, { most: 0.1 });
const three = pairTrials(200, 5000, -3);
asked("pairs with a true change of −3 K: found in", three.better, three.pairs, { least: 0.9 });
console.log(
  `      (pairs have mounting scatter ${CAREFUL.scatterMountK} K and run scatter ${CAREFUL.scatterRunK} K, and the comparison is told so)`,
);

for (const withHealthy of [true, false]) {
  const causes = diagnoseTrials(200, 20_000, withHealthy);
  const sure = causes.tenths.filter(({ given }) => given >= 0.7 && given < 0.9);
  const by = withHealthy ? "with a healthy run of the card" : "against usual cards only";
  asked(`causes ${by}: top answer right in`, causes.right, causes.cards, { least: 0.85 });
  asked(
    `causes ${by}: of findings given 0.7 to 0.9, true are`,
    sure.reduce((sum, one) => sum + one.right, 0),
    sure.reduce((sum, one) => sum + one.count, 0),
    { least: 0.65 },
  );
  console.log(
    `      given → true: ${causes.tenths.map(({ given, count, right }) => `${given.toFixed(1)} → ${count ? (right / count).toFixed(2) : "–"} (${count})`).join(", ")}`,
  );
}

const field = fieldTrials(200, 7000, [3, 25]);
asked("second generator, cut after 3 to 25 minutes: the settling value holds in", field.held, field.predicted, {
  least: 0.9,
});
asked("second generator: of runs called steady, the die had less than 1 K to go in", field.atRest, field.steady, {
  least: 0.95,
});
console.log(`      median half-width ${median(field.halfWidths).toFixed(2)} K`);

for (const [name, soak] of [
  ["virtual card", simulatedSoak],
  ["second generator", fieldSoak],
] as const) {
  const stops = earlyStopTrials(60, 60_000, soak);
  asked(`early stop, ${name}: the promised ± 0.5 K held in`, stops.held, stops.stopped, { least: 0.9 });
  console.log(
    `      of ${stops.runs} runs ${stops.stopped} were let go, at ${(stops.minutes[stops.minutes.length >> 1] ?? Number.NaN).toFixed(1)} of 25 minutes in the median`,
  );
}
