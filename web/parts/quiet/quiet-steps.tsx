import Papa from "papaparse";
import { useState } from "react";
import { type Limits, type Run, type ServiceView, USUAL_SETTINGS } from "#contract";
import { asSettings, heard, type QuietStep } from "#core/quiet/index.ts";
import { type FanLaw, quietOf } from "#core/service/index.ts";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { download } from "../../ui/download.ts";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { figure, roleName } from "../../ui/format.ts";
import { Sheet } from "../../ui/page.tsx";
import { Working } from "../../ui/working.tsx";

const MARGIN_K = 8;
const WARM_C = 30;

/** After the work: the slowest fan that still keeps every sensor under its limit, as settings to be typed elsewhere. */
export function QuietSteps({ service, limits }: { service: ServiceView; limits: Limits }) {
  const { data: settings = USUAL_SETTINGS } = api.useSettingsQuery();
  const [margin, setMargin] = useState(String(MARGIN_K));
  const [room, setRoom] = useState<string | null>(null);
  const roomText = room ?? String(settings.warmestRoomC ?? WARM_C);
  const [marginK, roomC] = [numberOrNull(margin), numberOrNull(roomText)];
  const isTyped = marginK !== null && roomC !== null && marginK >= 0 && marginK <= 40 && roomC >= 5 && roomC <= 50;
  const found = quietOf(service.runs, limits, {
    roomC: isTyped ? roomC : WARM_C,
    marginK: isTyped ? marginK : MARGIN_K,
  });
  if (!found) return null;
  const { law } = found;
  const steps = asSettings(found.steps);
  return (
    <Sheet
      title="Quietest fan steps"
      action={
        <Button look="quiet" onClick={() => download("fan-steps.csv", csvOf(steps), "text/csv")}>
          CSV
        </Button>
      }
    >
      <div className="mb-3 grid max-w-md grid-cols-2 gap-3">
        <TextField
          label="Under its limit by (K)"
          inputMode="decimal"
          value={margin}
          error={marginK === null || marginK < 0 || marginK > 40 ? "0 to 40 K." : undefined}
          onChange={(event) => setMargin(event.target.value)}
        />
        <TextField
          label="Warmest room (°C)"
          inputMode="decimal"
          value={roomText}
          error={roomC === null || roomC < 5 || roomC > 50 ? "5 to 50 °C." : undefined}
          onChange={(event) => setRoom(event.target.value)}
        />
      </div>
      {isTyped && (
        <div className="grid items-start gap-4 sm:grid-cols-2">
          <StepsTable steps={steps} />
          <Stairs steps={steps} roomC={roomC} />
        </div>
      )}
      <p className="mt-2">{heardWords(service.runs, steps)}</p>
      <p className="text-sm text-soft">
        Settings to type where the card’s fan is set. {lawWords(law)} A noise that comes with every step is avoided by a
        few kelvins of hysteresis.
      </p>
      <Working>
        <p>
          Room + rise · load · ((1 − s) + s · (n/n₀)^(−x)) with the upper end of 95 % stays so far under every limit;
          speed is taken as proportional to duty. The step holds up to the edge temperature that its load comes to.
        </p>
      </Working>
    </Sheet>
  );
}

function StepsTable({ steps }: { steps: readonly QuietStep[] }) {
  return (
    <table className="w-full text-left">
      <thead>
        <tr className="text-sm text-soft">
          <th scope="col">Edge up to</th>
          <th scope="col" className="text-right">
            Fan
          </th>
          <th scope="col" className="text-right">
            rpm
          </th>
          <th scope="col" className="pl-3">
            Asked for by
          </th>
        </tr>
      </thead>
      <tbody>
        {steps.map(({ loadPct, fanPct, fanRpm, upToC, leads }) => (
          <tr key={loadPct} className="border-t border-line">
            <th scope="row" className="py-1 font-semibold">
              {upToC === null ? `${loadPct} % load` : `${figure(upToC, 0)} °C`}
            </th>
            <td className="text-right font-semibold">{fanPct === null ? "not enough" : `${fanPct} %`}</td>
            <td className="text-right">{fanRpm === null ? "–" : figure(fanRpm, 0)}</td>
            <td className="pl-3 text-soft">{roleName(leads)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Stairs from the room's floor up: how far the edge rises, and the fan that holds it there. */
function Stairs({ steps, roomC }: { steps: readonly QuietStep[]; roomC: number }) {
  const rows = steps.flatMap(({ upToC, fanPct }) =>
    upToC === null || fanPct === null ? [] : [{ riseK: upToC - roomC, fanPct }],
  );
  const top = Math.max(20, ...rows.map(({ riseK }) => riseK)) * 1.1;
  const y = (riseK: number): number => 110 - (100 * riseK) / top;
  let path = `M20 ${y(0)}`;
  let before = 0;
  for (const { riseK, fanPct } of rows) {
    const x = 20 + fanPct * 1.6;
    path += `L${x} ${y(before)}L${x} ${y(riseK)}`;
    before = riseK;
  }
  return (
    <svg
      viewBox="0 0 200 130"
      className="w-full max-w-sm"
      role="img"
      aria-label={rows.map(({ riseK, fanPct }) => `${figure(riseK, 0)} K over the room: fan ${fanPct} %`).join("; ")}
    >
      <path d="M20 110H190" stroke="var(--ink)" strokeWidth={1.5} />
      <text x={20} y={124} fontSize={9} fill="var(--soft)">
        room
      </text>
      <text x={190} y={124} fontSize={9} textAnchor="end" fill="var(--soft)">
        fan, %
      </text>
      <path d={path} fill="none" stroke="var(--ice)" strokeWidth={2.5} />
      {rows.map(({ riseK, fanPct }) => (
        <text key={riseK} x={20 + fanPct * 1.6 + 4} y={y(riseK) + 3} fontSize={9} fill="var(--ink)">
          {figure(riseK, 0)} K
        </text>
      ))}
    </svg>
  );
}

/** The steps in one line, for a record. */
export function QuietLine({ service, limits }: { service: ServiceView; limits: Limits }) {
  const { data: settings = USUAL_SETTINGS } = api.useSettingsQuery();
  const roomC = settings.warmestRoomC ?? WARM_C;
  const found = quietOf(service.runs, limits, { roomC, marginK: MARGIN_K });
  const steps = asSettings(found?.steps ?? []).filter(({ fanPct }) => fanPct !== null);
  if (steps.length === 0) return null;
  return (
    <li>
      Quietest fan in a room of {figure(roomC, 0)} °C:{" "}
      {steps.map(({ upToC, fanPct }) => `${fanPct} % up to ${figure(upToC ?? 0, 0)} °C`).join(", ")}.
    </li>
  );
}

const lawWords = (law: FanLaw): string =>
  law === "own runs"
    ? "How this card follows its fan was learnt from its own runs."
    : "How a usual card follows its fan was taken; a fan sweep of this one makes it surer.";

const rpmOf = (run: Run): number => run.analysis.roles.fanRpm?.mean ?? 0;

/** What the owner hears: at full load, against the card's own curve before the work. */
function heardWords(runs: readonly Run[], steps: readonly QuietStep[]): string {
  const before = runs.find((run) => run.side === "before" && run.fanMode === "automatic" && rpmOf(run) > 0);
  const full = steps.at(-1)?.fanRpm;
  if (!full) return "At full load even full speed is not enough: look at the contact of the sensor that asks for it.";
  if (!before)
    return `At full load ${figure(full, 0)} rpm. A baseline at the card’s own fan curve would say what the owner heard before.`;
  const { rpm, db } = heard(rpmOf(before), full);
  return `At full load ${figure(full, 0)} rpm instead of ${figure(rpmOf(before), 0)}: ${figure(Math.abs(rpm), 0)} rpm and about ${figure(Math.abs(db), 0)} dB ${rpm < 0 ? "quieter" : "louder"}.`;
}

const csvOf = (steps: readonly QuietStep[]): string =>
  Papa.unparse(
    steps.map(({ loadPct, upToC, fanPct, fanRpm, leads }) => ({
      load_pct: loadPct,
      edge_up_to_c: upToC === null ? "" : upToC.toFixed(1),
      fan_pct: fanPct ?? "",
      fan_rpm: fanRpm === null ? "" : Math.round(fanRpm),
      asked_for_by: leads,
    })),
    { escapeFormulae: true },
  );
