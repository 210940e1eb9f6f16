import { useState } from "react";
import { useParams } from "react-router";
import type { LiveRun } from "#contract";
import { CARD_SENSORS } from "#core/runfile/index.ts";
import { PROMISED_K, temperatureOf } from "#core/soak/index.ts";
import { api } from "../../app/api.ts";
import { Readings } from "../../parts/readings/readings.tsx";
import { RunList } from "../../parts/run/run-list.tsx";
import { Button, LinkButton } from "../../ui/button.tsx";
import { figure, roleName, span } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { LiveChart } from "./live-chart.tsx";
import { useCall } from "./use-call.ts";
import { useLive } from "./use-live.ts";

const PHASE_WORDS: Record<string, string> = {
  idle: "Idle before the load",
  matching: "Matching the sound level",
  load: "Under load",
  rest: "Load off, still logging",
  cool: "Cooling down for the next run",
  done: "Done",
  stopped: "Stopped",
};

/** One live run: what it shows now, what it will come to, how long still, and what hands have to do. */
export function LivePage() {
  const { liveId = "" } = useParams();
  const { live, rows, connected, error } = useLive(liveId);
  const [stop, stopping] = api.useStopLiveMutation();
  const [skipAhead, skipping] = api.useSkipAheadLiveMutation();
  const [confirm, confirming] = api.useConfirmLiveMutation();
  const orderError = stopping.error ?? skipping.error ?? confirming.error;
  const [loud, setLoud] = useState(true);
  const ended = live !== undefined && live.status !== "running";
  useCall(live?.state?.hands ?? (ended ? `${live.cardName}: the run has ended.` : null), loud);
  if (!live)
    return <Page title="Live run">{error ? <FaultNote error={error} /> : <Waiting what="the live run" />}</Page>;
  const { state } = live;
  const station = live.side === "before" ? "baseline" : "prove";
  return (
    <Page
      wide
      title={live.cardName}
      lead={`${live.protocol.name} · ${live.benchName} · ${live.side === "before" ? "baseline" : "after the work"}`}
      action={
        <div className="flex flex-wrap gap-2">
          <Button
            aria-pressed={loud}
            onClick={() => {
              setLoud(!loud);
              if (!loud && "Notification" in window) void Notification.requestPermission();
            }}
          >
            Call me: {loud ? "on" : "off"}
          </Button>
          {!ended && (
            <>
              <Button onClick={() => void skipAhead(liveId)}>
                {state?.outlook?.known ? "End this soak" : "Go on to the next part"}
              </Button>
              <Button look="danger" onClick={() => void stop(liveId)}>
                Stop and keep
              </Button>
            </>
          )}
          {ended && (
            <LinkButton
              look="main"
              to={live.runIds[0] ? `/runs/${live.runIds[0]}` : `/cards/${live.cardId}/${station}`}
            >
              {live.runIds.length > 0 ? "Open the run" : "Back to the card"}
            </LinkButton>
          )}
        </div>
      }
    >
      <div className="space-y-4">
        {state?.hands && (
          <Note kind="caution" title={state.hands} live>
            <Button className="mt-2" onClick={() => void confirm(liveId)}>
              Done
            </Button>
          </Note>
        )}
        {!connected && (
          <Note kind="caution" title="The stream is broken">
            The run goes on; this page catches up by itself.
          </Note>
        )}
        {live.trouble && <Note kind="caution" title={live.trouble} live />}
        <FaultNote error={orderError} />
        {ended && <Ended live={live} />}
        {ended && <OwnScatter live={live} />}
        <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
          <Sheet>
            {ended && rows.length === 0 ? <KeptRuns live={live} /> : <LiveChart channels={live.channels} rows={rows} />}
            <p className="mt-2 text-sm text-soft">
              {span(live.elapsedS)} min · {live.counts.kept} samples kept
              {leftWords(live)}
            </p>
          </Sheet>
          <div className="space-y-4">
            {!ended && <Now live={live} row={rows.at(-1)} />}
            <Steps live={live} />
          </div>
        </div>
        <Readings serviceId={live.serviceId} liveId={ended ? null : liveId} />
      </div>
    </Page>
  );
}

function leftWords({ counts }: LiveRun): string {
  const parts = [
    counts.repeated > 0 ? `${counts.repeated} repeated` : "",
    counts.notNumbers > 0 ? `${counts.notNumbers} no numbers` : "",
    counts.outOfTime > 0 ? `${counts.outOfTime} with a wrong time` : "",
  ].filter(Boolean);
  return parts.length > 0 ? ` · left out: ${parts.join(", ")}` : "";
}

function Ended({ live }: { live: LiveRun }) {
  const kept = live.runIds.length;
  const words = `${kept} ${kept === 1 ? "run is" : "runs are"} kept with the card.`;
  if (live.status === "done") return <Note title="The protocol is done">{words}</Note>;
  return (
    <Note kind="caution" title={live.reason ?? "The run was ended early"}>
      {kept > 0 ? words : "Too few samples came in to make a run of them."}
    </Note>
  );
}

/** Once the samples have become runs they are looked at there. */
function KeptRuns({ live }: { live: LiveRun }) {
  const { data: service } = api.useServiceQuery(live.serviceId);
  const runs = service?.runs.filter((run) => live.runIds.includes(run.id)) ?? [];
  return (
    <>
      <h2 className="mb-2 text-lg font-semibold">Runs kept</h2>
      {runs.length > 0 ? <RunList runs={runs} /> : <p className="text-soft">None.</p>}
    </>
  );
}

/** The same run several times without touching anything tells this bench's own scatter. */
function OwnScatter({ live }: { live: LiveRun }) {
  const { data: service } = api.useServiceQuery(live.serviceId);
  const { data: settings } = api.useSettingsQuery();
  const [change, { isLoading }] = api.useChangeSettingsMutation();
  const kinds = new Set(live.protocol.steps.map(({ label: _label, ...step }) => JSON.stringify(step)));
  if (live.protocol.steps.length < 3 || kinds.size !== 1 || !service || !settings) return null;
  const rises = service.runs
    .filter((run) => live.runIds.includes(run.id))
    .flatMap(({ analysis }) => {
      const edge = temperatureOf(analysis, "edge");
      return edge && edge.finalC !== null && analysis.ambient ? [edge.finalC - analysis.ambient.valueC] : [];
    });
  if (rises.length < 3) return null;
  const mean = rises.reduce((sum, one) => sum + one, 0) / rises.length;
  const sd = Math.sqrt(rises.reduce((sum, one) => sum + (one - mean) ** 2, 0) / (rises.length - 1));
  const rounded = Math.max(0.1, Math.round(sd * 10) / 10);
  return (
    <Note title={`This bench’s own scatter from run to run: ${figure(sd, 2)} K, from ${rises.length} runs`}>
      Rises of {rises.map((one) => figure(one, 2)).join(", ")} K. Comparisons count with {figure(settings.scatterRunK)}{" "}
      K.
      <div className="mt-2">
        <Button
          disabled={isLoading || settings.scatterRunK === rounded}
          onClick={() => void change({ ...settings, scatterRunK: rounded })}
        >
          Count with {figure(rounded)} K from now on
        </Button>
      </div>
    </Note>
  );
}

/** What the eye meets first: the phase with its minutes, the rises, and what it will come to. */
function Now({ live, row }: { live: LiveRun; row: Array<number | null> | undefined }) {
  const { state, channels } = live;
  if (!state) return null;
  const value = (role: string): number | null => {
    const index = channels.findIndex((channel) => channel.role === role);
    return index < 0 ? null : (row?.[index + 2] ?? null);
  };
  const room = value("ambient") ?? live.roomC;
  const outlook = state.outlook;
  const left = outlook?.minutesLeft ?? null;
  return (
    <Sheet title={PHASE_WORDS[state.phase] ?? state.phase}>
      <p aria-live="polite">
        <span className="text-4xl font-bold">{figure(state.minutesLeft, state.minutesLeft < 2 ? 1 : 0)}</span>{" "}
        <span className="font-semibold">minutes at most</span>
      </p>
      {state.phase === "load" && (
        <p
          className={`mt-2 rounded-lg px-3 py-2 text-sm ${outlook?.known ? "bg-frost font-semibold" : "border border-line"}`}
        >
          {outlook?.known
            ? `You may stop: the answer is known to ± ${PROMISED_K} K.`
            : outlook?.dieU95K
              ? `Known to ± ${figure(outlook.dieU95K, 2)} K so far${left ? `; about ${left} more ${left === 1 ? "minute" : "minutes"} to settle` : ""}.`
              : "Too early to say where it settles."}
        </p>
      )}
      <table className="mt-3 w-full text-left">
        <caption className="sr-only">Now, and where it settles</caption>
        <thead className="text-sm text-soft">
          <tr>
            <th className="font-medium">Sensor</th>
            <th className="text-right font-medium">Now °C</th>
            <th className="text-right font-medium">Rise K</th>
            <th className="text-right font-medium">Settles °C</th>
          </tr>
        </thead>
        <tbody>
          {CARD_SENSORS.filter((role) => value(role) !== null).map((role) => {
            const now = value(role);
            const settles = outlook?.settles[role];
            return (
              <tr key={role} className="border-t border-line">
                <th scope="row" className="py-1.5 font-semibold">
                  {roleName(role)}
                </th>
                <td className="text-right">{figure(now)}</td>
                <td className="text-right font-semibold">
                  {figure(now !== null && room !== null ? now - room : null)}
                </td>
                <td className="text-right whitespace-nowrap">
                  {settles ? (
                    <>
                      {figure(settles.finalC)} <span className="text-xs text-soft">± {figure(settles.u95K)}</span>
                    </>
                  ) : (
                    "–"
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-3 text-sm text-soft">
        Room {figure(room)} °C · fan {figure(value("fanRpm"), 0)} rpm · {figure(value("power"), 0)} W
      </p>
    </Sheet>
  );
}

function Steps({ live }: { live: LiveRun }) {
  const at = live.state?.step ?? live.protocol.steps.length;
  const done = live.status !== "running";
  return (
    <Sheet title="Protocol">
      <ol className="space-y-1">
        {live.protocol.steps.map((step, index) => (
          <li
            key={`${step.label} ${index}`}
            aria-current={!done && index === at ? "step" : undefined}
            className={`rounded-lg px-3 py-2 ${!done && index === at ? "bg-frost font-semibold" : ""}`}
          >
            <span aria-hidden>{done || index < at ? "✓ " : index === at ? "→ " : "· "}</span>
            {step.label}
            {step.kind === "cycles" && !done && index === at
              ? `: cycle ${(live.state?.cycle ?? 0) + 1} of ${step.count}`
              : ""}
          </li>
        ))}
      </ol>
    </Sheet>
  );
}
