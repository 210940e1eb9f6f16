/** How often the intervals hold the truth, over 200 simulated runs and pairs. */
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

const percent = (part: number, whole: number): string =>
  whole === 0 ? "none" : `${((100 * part) / whole).toFixed(1)} % (${part} of ${whole})`;
const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1] ?? Number.NaN;

const settled = riseTrials(200, 1000);
console.log(
  `settled runs: the 95 % interval holds the true rise in ${percent(settled.covered, settled.steady)}; asked for: 90 to 99 %. Median half-width ${median(settled.halfWidths).toFixed(2)} K`,
);
const early = riseTrials(200, 3000, [3, 9]);
console.log(
  `runs stopped after 3 to 9 minutes: the predicted settling value holds in ${percent(early.finalsCovered, early.unsettled)}`,
);
const none = pairTrials(200, 500, 0);
console.log(
  `pairs without a change: called a change in ${percent(none.better + none.worse, none.pairs)}; asked for: at most 10 %`,
);
const three = pairTrials(200, 5000, -3);
console.log(
  `pairs with a true change of −3 K: found in ${percent(three.better, three.pairs)}; asked for: at least 90 %`,
);
console.log(
  `(pairs have mounting scatter ${CAREFUL.scatterMountK} K and run scatter ${CAREFUL.scatterRunK} K, and the comparison is told so)`,
);

for (const withHealthy of [true, false]) {
  const causes = diagnoseTrials(200, 20_000, withHealthy);
  const sure = causes.tenths.filter(({ given }) => given >= 0.7 && given < 0.9);
  console.log(
    `causes ${withHealthy ? "with a healthy run of the card" : "against usual cards only"}: top answer right in ${percent(causes.right, causes.cards)}; asked for: at least 85 %; of findings given 0.7 to 0.9, ${percent(
      sure.reduce((sum, one) => sum + one.right, 0),
      sure.reduce((sum, one) => sum + one.count, 0),
    )} are true`,
  );
  console.log(
    `  given → true: ${causes.tenths.map(({ given, count, right }) => `${given.toFixed(1)} → ${count ? (right / count).toFixed(2) : "–"} (${count})`).join(", ")}`,
  );
}

const field = fieldTrials(200, 7000, [3, 25]);
console.log(
  `second generator, cut after 3 to 25 minutes: the settling value holds in ${percent(field.held, field.predicted)}; asked for: at least 90 %. Median half-width ${median(field.halfWidths).toFixed(2)} K; of runs called steady, the die had less than 1 K to go in ${percent(field.atRest, field.steady)}`,
);

for (const [name, soak] of [
  ["virtual card", simulatedSoak],
  ["second generator", fieldSoak],
] as const) {
  const stops = earlyStopTrials(60, 60_000, soak);
  console.log(
    `early stop, ${name}: of ${stops.stopped} runs let go (of ${stops.runs}) the promised ± 0.5 K held in ${percent(stops.held, stops.stopped)}; asked for: at least 90 %. Median time ${(stops.minutes[stops.minutes.length >> 1] ?? Number.NaN).toFixed(1)} of 25 minutes`,
  );
}
