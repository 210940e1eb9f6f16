import type { Analysis, TemperatureFigures } from "#core";
import { COMPARED_ROLES } from "#core/runfile/index.ts";
import { levelOf, temperatureOf } from "#core/soak/index.ts";
import { figure, roleName, widthOf } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import { type TERMS, Term } from "../../ui/term.tsx";
import { Working } from "../../ui/working.tsx";

/** Figures of a run with their intervals; each can be opened to see how it was computed. */
export function Figures({
  analysis,
  live,
}: {
  analysis: Analysis;
  live: Pick<Analysis, "roles" | "ambient" | "hotspotGapK">;
}) {
  const shown = COMPARED_ROLES.flatMap((role) => {
    const found = temperatureOf(live, role);
    return found ? [{ role, found }] : [];
  });
  const lead = shown[0];
  const power = levelOf(live, "power");
  return (
    <div className="space-y-4">
      {lead && (
        <p>
          <span className="block text-sm text-soft">
            <Term of="rise">{roleName(lead.role)} over room air</Term>
          </span>
          {lead.found.riseK === null ? (
            <span className="text-3xl font-bold tracking-tight">
              {live.ambient ? "not known yet" : "needs the room’s air"}
            </span>
          ) : (
            <>
              <span className="text-5xl font-bold tracking-tight">{figure(lead.found.riseK)}</span>
              <span className="text-xl font-semibold"> ± {widthOf(lead.found.riseU95K)} K</span>
            </>
          )}
        </p>
      )}
      {!analysis.steady.reached && <Unsettled analysis={analysis} />}
      <div className="relative overflow-x-auto">
        <table className="w-full text-left text-[0.92rem]">
          <caption className="sr-only">Mean, maximum and rise per sensor</caption>
          <thead className="text-sm text-soft">
            <tr>
              <th className="py-1 pr-2 font-medium">Sensor</th>
              <th className="py-1 pr-2 text-right font-medium">Mean °C</th>
              <th className="py-1 pr-2 text-right font-medium">Max °C</th>
              <th className="py-1 pr-2 text-right font-medium">Rise K</th>
              <th className="py-1 text-right font-medium">
                <Term of="theta">θ K/W</Term>
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map(({ role, found }) => (
              <tr key={role} className="border-t border-line">
                <th className="py-1.5 pr-2 font-semibold" scope="row">
                  {roleName(role)}
                </th>
                <td className="py-1.5 pr-2 text-right whitespace-nowrap">
                  {figure(found.meanC)}{" "}
                  {found.meanC !== null && <span className="text-xs text-soft">± {widthOf(found.u95K)}</span>}
                </td>
                <td className="py-1.5 pr-2 text-right">{figure(found.maxC)}</td>
                <td className="py-1.5 pr-2 text-right font-semibold whitespace-nowrap">
                  {figure(found.riseK)}{" "}
                  {found.riseK !== null && (
                    <span className="text-xs font-normal text-soft">± {widthOf(found.riseU95K)}</span>
                  )}
                </td>
                <td className="py-1.5 text-right">{figure(found.thetaKPerW, 3)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3">
        <Item
          name="Room air"
          value={live.ambient ? `${figure(live.ambient.valueC)} ± ${widthOf(live.ambient.u95K)} °C` : "missing"}
        />
        <Item
          term="gap"
          name="Hotspot gap"
          value={live.hotspotGapK ? `${figure(live.hotspotGapK.mean)} ± ${widthOf(live.hotspotGapK.u95)} K` : "–"}
        />
        <Item
          term="throttling"
          name="Throttling"
          value={
            analysis.throttling.detected ? `${figure(100 * analysis.throttling.shareOfLoad, 0)} % of the load` : "none"
          }
        />
        {(["fanRpm", "power", "coreClock"] as const).map((role) => {
          const found = levelOf(live, role);
          if (!found) return null;
          const unit = { fanRpm: "rpm", power: "W", coreClock: "MHz" }[role];
          return (
            <Item
              key={role}
              name={roleName(role)}
              value={`${figure(found.mean, role === "power" ? 1 : 0)} ± ${widthOf(found.u95, role === "power" ? 1 : 0)} ${unit}`}
            />
          );
        })}
      </dl>
      {analysis.throttling.detected && (
        <Note kind="caution" title="It throttled">
          The card lowered its{" "}
          {analysis.throttling.kinds.includes("temperature")
            ? "clock or power because it was hot"
            : "clock at its power limit"}
          . Its temperature looks better than its cooling is: compare by rise per watt.
        </Note>
      )}
      {lead && <RiseWorking role={lead.role} found={lead.found} live={live} powerW={power?.mean ?? null} />}
    </div>
  );
}

const Item = ({ name, value, term }: { name: string; value: string; term?: keyof typeof TERMS }) => (
  <div>
    <dt className="text-sm text-soft">{term ? <Term of={term}>{name}</Term> : name}</dt>
    <dd className="font-semibold">{value}</dd>
  </div>
);

function Unsettled({ analysis }: { analysis: Analysis }) {
  const finals = COMPARED_ROLES.flatMap((role) => {
    const found = temperatureOf(analysis, role);
    return found && found.finalC !== null
      ? [`${roleName(role)} ${figure(found.finalC)} ± ${widthOf(found.finalU95K)} °C`]
      : [];
  });
  return (
    <Note kind="caution" title="It had not settled">
      {finals.length > 0
        ? `It would have settled at: ${finals.join(", ")}. `
        : "The load was too short to say where it would settle. "}
      {analysis.steady.minutesNeeded !== null &&
        `Run about ${analysis.steady.minutesNeeded} more ${analysis.steady.minutesNeeded === 1 ? "minute" : "minutes"}, or set the steady window by hand.`}
    </Note>
  );
}

/** A lag of less is in no figure that is shown, K. */
const LEAST_SHOWN_K = 0.05;

function RiseWorking({
  role,
  found,
  live,
  powerW,
}: {
  role: string;
  found: TemperatureFigures;
  live: Pick<Analysis, "ambient">;
  powerW: number | null;
}) {
  const { budget } = found;
  const shownK = found.meanC === null || !live.ambient ? null : found.meanC - live.ambient.valueC;
  const behindK = shownK === null || found.riseK === null ? 0 : shownK - found.riseK;
  const isBehind = Math.abs(behindK) >= LEAST_SHOWN_K;
  return (
    <Working>
      <p>
        Rise = mean − room air = {figure(found.meanC, 2)} − {figure(live.ambient?.valueC, 2)} = {figure(shownK, 2)} K (
        {roleName(role)}).
      </p>
      {isBehind && (
        <p>
          The room moved, and the card follows it late: at {figure(Math.abs(behindK), 2)} K{" "}
          {behindK < 0 ? "below" : "above"} where it would stand. Freed of that the rise is {figure(found.riseK, 2)} K.
        </p>
      )}
      {budget && (
        <p>
          Mean of {budget.samples.toLocaleString("en")} samples, worth {figure(budget.effective, 0)} independent ones;
          scatter of the mean {figure(budget.scatter, 3)} K, display step {figure(budget.resolution, 3)} K (standard
          uncertainties). Together ± {widthOf(found.u95K, 2)} K at 95 %.
        </p>
      )}
      <p>
        Room air ± {widthOf(live.ambient?.u95K, 2)} K. Rise: √({figure(found.u95K, 2)}² +{" "}
        {figure(live.ambient?.u95K, 2)}²{isBehind && " + the doubt of that lag²"}) = ± {widthOf(found.riseU95K, 2)} K.
      </p>
      {powerW !== null && (
        <p>
          θ = rise ÷ power = {figure(found.riseK, 2)} ÷ {figure(powerW, 1)} = {figure(found.thetaKPerW, 3)} K/W.
        </p>
      )}
      {found.timeConstantsS.length > 0 && (
        <p>
          Heating curve with time constants {found.timeConstantsS.map((tau) => `${figure(tau, 0)} s`).join(" and ")}.
        </p>
      )}
      <p className="text-soft">
        Method: JCGM 100:2008 (GUM); autocorrelation counted; the sensor’s own calibration is not, because the same
        sensor reads both runs.
      </p>
    </Working>
  );
}
