import { useState } from "react";
import type { Limits, PairedComparison, Run } from "#contract";
import type { Comparison } from "#core";
import { caseWords, doubtWords } from "#core/compare/index.ts";
import type { Outcome } from "#core/outcome/index.ts";
import { COMPARED_ROLES } from "#core/runfile/index.ts";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";
import { figure, roleName, signed, widthOf } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { RiseLadder } from "../../ui/rise-ladder.tsx";
import { TERMS, Term } from "../../ui/term.tsx";
import { Working } from "../../ui/working.tsx";
import { typedFrom } from "./conditions.tsx";
import { runName } from "./run-name.ts";
import { toRunInput } from "./to-input.ts";
import { verdictSentence } from "./verdict.ts";
import { TunedApart, Worth } from "./worth.tsx";

const WHAT: Record<string, { name: string; unit: string; digits: number }> = {
  fan: { name: "Fan speed", unit: "rpm", digits: 0 },
  power: { name: "Power", unit: "W", digits: 1 },
  ambient: { name: "Room air", unit: "°C", digits: 1 },
  load: { name: "Load", unit: "%", digits: 0 },
  duration: { name: "Time under load", unit: "s", digits: 0 },
  clocks: { name: "Core clock", unit: "MHz", digits: 0 },
  sampling: { name: "Sampling", unit: "s", digits: 1 },
  case: { name: "Case", unit: "", digits: 0 },
  loadName: { name: "Name of the load", unit: "", digits: 0 },
};
const AIR = {
  room: { name: "Room air", over: "room air" },
  intake: { name: "Air at the intake", over: "the air at the intake" },
} as const;
const SAID = {
  case: "rises count from the air at the intake",
  loadName: "die at equal power; memory and VRM not judged",
} as const;
const HANDLED = { same: "same", corrected: "corrected", "not-correctable": "can’t be corrected" } as const;
const LIMIT_KEYS: Record<string, keyof Limits> = { edge: "edgeC", hotspot: "hotspotC", memory: "memoryC", vrm: "vrmC" };

export function ladderColumns(comparison: Comparison, before: Run, after: Run, limits: Limits | null) {
  const roomC = comparison.atEqualConditions?.ambientC ?? before.analysis.ambient?.valueC ?? 0;
  return COMPARED_ROLES.flatMap((role) => {
    const one = comparison.roles[role];
    if (!one) return [];
    const key = LIMIT_KEYS[role];
    const limitC = key && limits ? limits[key] : null;
    const width = ({ analysis: { roles, ambient } }: Run): number | null => {
      const found = roles[role];
      if (!found || found.riseU95K !== null || found.finalU95K === null) return found?.riseU95K ?? null;
      return ambient && Math.hypot(found.finalU95K, ambient.u95K);
    };
    return [
      {
        role,
        beforeK: one.beforeRiseK,
        beforeU95K: width(before),
        afterK: one.afterRiseK,
        afterU95K: width(after),
        limitK: limitC === null ? null : limitC - roomC,
      },
    ];
  });
}

/** One pair of runs side by side: the sentence first, then the ladder, what differed, the gap and what the gain is worth. */
export function ComparisonSheet({
  pair: { comparison, outcome, tuning, gains, beforeIds, afterIds },
  before,
  after,
  limits,
  isKept = true,
}: {
  pair: PairedComparison;
  before: Run;
  after: Run;
  limits: Limits | null;
  /** False for logs that are only looked at: their room air is asked for where they were dropped. */
  isKept?: boolean;
}) {
  const tone = {
    better: "border-ice bg-frost",
    "no-real-change": "border-edge bg-paper",
    worse: "border-danger bg-danger-wash",
    mixed: "border-danger bg-danger-wash",
    "over-limit": "border-danger bg-danger-wash",
    "not-comparable": "border-amber bg-amber-wash",
  }[outcome.known ? outcome.verdict : "not-comparable"];
  const equal = comparison.atEqualConditions;
  return (
    <section
      className="@container rounded-xl border border-line bg-sheet p-4 sm:p-5"
      aria-label={`${runName(before)} against ${runName(after)}`}
    >
      <p className="mb-2 text-sm text-soft">
        {runName(before)}
        {repeated(beforeIds)} → {runName(after)}
        {repeated(afterIds)}
      </p>
      <SameCard comparison={comparison} isTuned={tuning.length > 0} />
      <p className={`mb-4 rounded-lg border-l-8 px-4 py-3 text-2xl font-bold break-words ${tone}`}>
        {sentenceCase(verdictSentence({ comparison, outcome }))}
      </p>
      {(before.typed || after.typed) && (
        <p className="-mt-2 mb-4">
          <span className="font-semibold">
            {before.typed && after.typed ? "Both runs were" : before.typed ? "The run before was" : "The run after was"}{" "}
            typed from paper:
          </span>{" "}
          one look at each figure, hence the wide intervals.
        </p>
      )}
      <ByFan comparison={comparison} />
      <TunedApart tuning={tuning} />
      {comparison.comparable && (
        <>
          <div className="grid gap-6 @3xl:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]">
            <div>
              <RiseLadder
                label={`Rises over ${AIR[comparison.air].over}, before hollow, after solid`}
                floor={comparison.air}
                columns={ladderColumns(comparison, before, after, limits)}
              />
              <p className="mt-1 text-sm text-soft">
                <span aria-hidden>▯</span> before{" "}
                <span aria-hidden className="ml-2 text-ice">
                  ▮
                </span>{" "}
                after, kelvin over {AIR[comparison.air].over}, <Term of="width">whiskers hold 95 %</Term>
              </p>
            </div>
            <div className="space-y-4">
              <ChangeTable comparison={comparison} outcome={outcome} />
              {outcome.known && comparison.hotspotGap && (
                <p>
                  <span className="font-semibold">
                    <Term of="gap">Hotspot gap</Term> {figure(comparison.hotspotGap.beforeK)} →{" "}
                    {figure(comparison.hotspotGap.afterK)} K.
                  </span>{" "}
                  {comparison.hotspotGap.verdict === "larger"
                    ? "Larger: mount it again; check screws, contact and pads that are too thick."
                    : comparison.hotspotGap.verdict === "smaller"
                      ? "Smaller: the die has better contact."
                      : "No real change of contact."}
                </p>
              )}
              {outcome.known && outcome.verdict === "better" && (
                <Worth comparison={comparison} gains={gains} outcome={outcome} />
              )}
              {comparison.worth && comparison.worth.changeRpm > 0 && comparison.verdict === "worse" && (
                <p>
                  <span className="font-semibold">What it costs: </span>
                  the fan would have to turn at {figure(comparison.worth.fanRpm, 0)} rpm for the temperature of before,{" "}
                  {signed(comparison.worth.changeRpm, 0)} rpm and about {signed(comparison.worth.soundDb)} dB by the fan
                  laws.
                </p>
              )}
              {outcome.known && outcome.verdict === "no-real-change" && comparison.detectableK !== null && (
                <p>
                  A change of {figure(comparison.detectableK)} K or more would have been seen with these runs. Smaller
                  ones need more runs or a steadier bench.
                </p>
              )}
            </div>
          </div>
        </>
      )}
      {!comparison.sameRun && <Differences comparison={comparison} />}
      {isKept &&
        !comparison.comparable &&
        [before, after].map((run) => (run.analysis.ambient ? null : <AddRoomAir key={run.id} run={run} />))}
      {equal && <Budget comparison={comparison} />}
    </section>
  );
}

/** Room air for a run that lacks it, typed on the spot; the comparison follows at once. */
function AddRoomAir({ run }: { run: Run }) {
  const [change, { error, isLoading }] = api.useChangeRunMutation();
  const [typed, setTyped] = useState({ ...typedFrom(run), ambientU95K: "1" });
  const [errors, setErrors] = useState<Record<string, string>>({});
  const { side, mapping, intervalS, window, load, attempt, leftOut } = run;
  return (
    <form
      noValidate
      className="mt-3 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        const made = toRunInput(typed, { side, mapping, intervalS, window, load, attempt, leftOut });
        if ("errors" in made) return setErrors(made.errors);
        setErrors({});
        void change({ runId: run.id, body: { ...made.input, version: run.version } });
      }}
    >
      <TextField
        label={`Room air of “${runName(run)}” (°C)`}
        inputMode="decimal"
        value={typed.ambientC}
        onChange={(event) => setTyped({ ...typed, ambientC: event.target.value })}
        error={errors.ambientC}
      />
      <TextField
        label="± (K, 95 %)"
        inputMode="decimal"
        value={typed.ambientU95K}
        onChange={(event) => setTyped({ ...typed, ambientU95K: event.target.value })}
        error={errors.ambientU95K}
      />
      <Button look="main" type="submit" disabled={isLoading || typed.ambientC.trim() === ""}>
        Add room air
      </Button>
      <FaultNote error={error} />
    </form>
  );
}

/** Where two runs are too far apart for one card under one load, it is asked; settings that were told explain it. */
function SameCard({ comparison, isTuned }: { comparison: Comparison; isTuned: boolean }) {
  if (comparison.doubts.length === 0 || isTuned || comparison.sameRun) return null;
  return (
    <div className="mb-4">
      <Note kind="caution" title="Is this the same card under the same load?">
        If it is, {doubtWords(comparison.doubts)}. If it is not, leave that run out; if its power limit or clocks were
        set otherwise, say so under its conditions.
      </Note>
    </div>
  );
}

/** A fan that was itself changed explains what was measured. */
function ByFan({ comparison }: { comparison: Comparison }) {
  const equal = comparison.atEqualConditions?.roles ?? {};
  const measured = comparison.roles.edge ?? comparison.roles.hotspot;
  const lead = equal.edge ?? equal.hotspot;
  const isByFan =
    measured &&
    lead &&
    measured.verdict !== lead.verdict &&
    Math.abs(lead.correctionK.fan) > Math.abs(lead.correctionK.power);
  if (!isByFan) return null;
  return (
    <p className="-mt-2 mb-4 font-semibold">
      As measured it ran {figure(Math.abs(measured.changeK))} K{" "}
      {measured.changeK < 0 ? "cooler, because its fans turned faster" : "hotter, because its fans turned slower"}.
    </p>
  );
}

const repeated = (ids: readonly string[]): string => (ids.length > 1 ? ` (${ids.length} runs pooled)` : "");

const sentenceCase = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

function ChangeTable({ comparison, outcome }: { comparison: Comparison; outcome: Outcome }) {
  return (
    <table className="w-full text-left">
      <caption className="sr-only">Change per sensor, as measured and at equal conditions</caption>
      <thead className="text-sm text-soft">
        <tr>
          <th className="py-1 pr-2 font-medium">Sensor</th>
          <th className="py-1 pr-2 text-right font-medium max-sm:hidden">As measured</th>
          <th className="py-1 pr-2 text-right font-medium">
            <Term of="equal">At equal conditions</Term>
          </th>
          <th className="py-1 font-medium">Verdict</th>
        </tr>
      </thead>
      <tbody>
        {Object.entries(comparison.roles).map(([role, one]) => {
          const equal = comparison.atEqualConditions?.roles[role as keyof typeof comparison.roles];
          // Claimed where the headline claims it: no row says what that does not.
          const joint = outcome.sensors.find((sensor) => sensor.role === role);
          const verdict = (joint ?? equal ?? one).verdict;
          return (
            <tr key={role} className="border-t border-line">
              <th scope="row" className="py-1.5 pr-2 font-semibold">
                {role in TERMS ? <Term of={role as keyof typeof TERMS}>{roleName(role)}</Term> : roleName(role)}
              </th>
              <td className="py-1.5 pr-2 text-right whitespace-nowrap max-sm:hidden">{signed(one.changeK)} K</td>
              <td className="py-1.5 pr-2 text-right font-semibold whitespace-nowrap">
                {equal ? `${signed(equal.changeK)} ± ${widthOf(equal.u95K)} K` : "–"}
              </td>
              <td className={`py-1.5 ${verdict === "hotter" ? "font-semibold text-danger" : ""}`}>
                {equal?.verdict === null
                  ? "another load: not judged"
                  : joint?.known === false
                    ? "not known yet"
                    : verdict !== "no-real-change"
                      ? verdict
                      : equal && Math.abs(equal.changeK) > equal.u95K
                        ? "may be chance"
                        : "no real change"}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Less than half of what a figure shows is nothing. */
const SHOWN_STEP_K = 0.1;

function Differences({ comparison }: { comparison: Comparison }) {
  const lead = comparison.atEqualConditions?.roles.edge ?? comparison.atEqualConditions?.roles.hotspot;
  const moved: Record<string, number | undefined> = { fan: lead?.correctionK.fan, power: lead?.correctionK.power };
  return (
    <div className="relative mt-5 overflow-x-auto">
      <h3 className="mb-1 font-semibold">What differed between the runs</h3>
      <table className="w-full text-left">
        <caption className="sr-only">Differences of conditions and what was corrected</caption>
        <thead className="text-sm text-soft">
          <tr>
            <th className="py-1 pr-3 font-medium">Condition</th>
            <th className="py-1 pr-3 text-right font-medium">Before</th>
            <th className="py-1 pr-3 text-right font-medium">After</th>
            <th className="py-1 pr-3 font-medium max-sm:hidden">Handled</th>
            <th className="py-1 text-right font-medium max-sm:hidden">Moved the answer by</th>
          </tr>
        </thead>
        <tbody>
          {comparison.differences.map((one) => {
            const what = WHAT[one.what] ?? { name: one.what, unit: "", digits: 1 };
            const name = one.what === "ambient" ? AIR[comparison.air].name : what.name;
            const by = moved[one.what] ?? 0;
            const shown = (value: string | number | null): string =>
              typeof value === "string" ? caseWords(value) : `${figure(value, what.digits)} ${what.unit}`;
            const isSaid = one.what === "case" || one.what === "loadName";
            const moving = isSaid
              ? one.handled === "corrected"
                ? SAID[one.what]
                : ""
              : one.what === "ambient"
                ? "in the rise"
                : Math.abs(by) < SHOWN_STEP_K / 2
                  ? ""
                  : `${signed(by)} K`;
            return (
              <tr key={one.what} className="border-t border-line">
                <th scope="row" className="py-1.5 pr-3 font-normal">
                  {name}
                  <span className="block text-sm text-soft sm:hidden">
                    {[HANDLED[one.handled], moving].filter(Boolean).join(", ")}
                  </span>
                </th>
                <td className="py-1.5 pr-3 text-right">{shown(one.before)}</td>
                <td className="py-1.5 pr-3 text-right">{shown(one.after)}</td>
                <td
                  className={`py-1.5 pr-3 max-sm:hidden ${one.handled === "not-correctable" ? "font-semibold text-amber" : ""}`}
                >
                  {HANDLED[one.handled]}
                </td>
                <td className="py-1.5 text-right max-sm:hidden">{moving || "–"}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function Budget({ comparison }: { comparison: Comparison }) {
  const lead = comparison.atEqualConditions?.roles.edge ?? comparison.atEqualConditions?.roles.hotspot;
  if (!lead) return null;
  const { budget } = lead;
  const { cooling, scatter } = comparison;
  return (
    <Working>
      <p>
        Change = rise after, brought to the power and fan speed of the run before, minus rise before. ±{" "}
        {figure(lead.u95K, 2)} K = 1.96 × √(readings {figure(budget.readings, 2)}² + mounting and run{" "}
        {figure(budget.scatter, 2)}² + power {figure(budget.power, 2)}² + fan {figure(budget.fan, 2)}² + air{" "}
        {figure(budget.air, 2)}²) K.
      </p>
      <p>
        Mounting scatter {figure(scatter.mountK)} K and run scatter {figure(scatter.runK)} K, one standard deviation
        each, count for both runs; they are settings of the workshop.
      </p>
      <p>
        Fan: rise ∝ (1 − s) + s·(n/n₀)^−m with s = {figure(cooling.share, 2)} ± {figure(cooling.shareSd, 2)} and m ={" "}
        {figure(cooling.exponent, 2)} ± {figure(cooling.exponentSd, 2)} (
        {cooling.source === "own runs" ? "learnt from this card’s own runs" : "usual values"}).
      </p>
      <p className="text-soft">
        Every ± is the 95 % interval of that one figure, here, on the record and from the command line. Sensors and gap
        are judged together: a change is claimed only where it is so large that in 95 of 100 services no claim at all is
        false (Šidák). One room thermometer for both runs: its error cancels.
      </p>
    </Working>
  );
}

export const NoPairNote = () => (
  <Note title="These runs have no partner">
    A fixed-fan run is compared with a fixed-fan run, an automatic one with an automatic one. Add the missing run, or
    correct the conditions of one that is here.
  </Note>
);
