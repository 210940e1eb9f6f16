import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { OwnProtocol, Run, RunInput } from "#contract";
import { SIDE_PANELS } from "#core/compare/index.ts";
import { asBefore, type RunMade } from "#core/protocol/index.ts";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { numberOrNull, SelectField, TextField } from "../../ui/field.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { ProtocolEditor } from "./protocol-editor.tsx";

const asMade = ({ name, fanMode, fanPct, powerLimitPct, analysis }: Run): RunMade => ({
  name,
  fanMode,
  fanPct,
  powerLimitPct,
  loadMinutes:
    analysis.phases.reduce(
      (sum, { kind, fromS, toS }) => sum + (kind === "warmup" || kind === "steady" ? toS - fromS : 0),
      0,
    ) / 60,
});

/** Choose a protocol, press start, walk away. */
export function StartLive({
  serviceId,
  side,
  before = [],
}: {
  serviceId: string;
  side: "before" | "after";
  /** Runs that this one is to be compared with: it starts from their settings. */
  before?: readonly Run[];
}) {
  const { data: benches = [] } = api.useTestBenchesQuery();
  const { data: known = [] } = api.useProtocolsQuery();
  const again = asBefore(before.map(asMade));
  const protocols: readonly OwnProtocol[] = again ? [{ ...again, id: null }, ...known] : known;
  const { data: runs = [] } = api.useLiveOfServiceQuery(serviceId);
  const [benchId, setBenchId] = useState("");
  const [choice, setChoice] = useState("");
  const [edited, setEdited] = useState<OwnProtocol | null>(null);
  const [loadName, setLoadName] = useState(before[0]?.loadName || "Rendering loop, 1440 lines");
  const [panel, setPanel] = useState<RunInput["sidePanel"]>(before[0]?.sidePanel ?? "open bench");
  const [room, setRoom] = useState("");
  const [isWarned, setWarned] = useState(false);
  const [start, { error, isLoading }] = api.useStartLiveMutation();
  const go = useNavigate();
  const fault = faultOf(error);
  const bench = benches.find((one) => one.id === benchId) ?? benches.find((one) => !one.liveId) ?? benches[0];
  const protocol =
    edited ??
    protocols.find((one) => one.name === choice) ??
    protocols.find((one) => one.name === (again?.name ?? "Fixed fan"));
  const running = runs.find((one) => one.status === "running");
  if (running)
    return (
      <Note title={`${running.protocol.name} is running on ${running.benchName}`}>
        <LinkButton className="mt-2" to={`/live/${running.id}`} look="main">
          Watch it
        </LinkButton>
      </Note>
    );
  if (!bench || !protocol)
    return (
      <Sheet title="Run it live">
        <p className="mb-3 text-soft">No test bench is set up yet. A simulated one is there to try.</p>
        <LinkButton to="/test-bench">Set up a test bench</LinkButton>
      </Sheet>
    );
  // The run before had its room typed: this bench does not measure it, so it would be missing here.
  const forgetsRoom = room.trim() === "" && before.some((run) => run.ambientC !== null);
  const begin = async (): Promise<void> => {
    if (forgetsRoom && !isWarned) return setWarned(true);
    const answer = await start({
      benchId: bench.id,
      serviceId,
      side,
      protocol: { name: protocol.name, about: protocol.about, steps: protocol.steps },
      loadName,
      sidePanel: panel,
      roomC: numberOrNull(room),
    });
    if ("data" in answer && answer.data) void go(`/live/${answer.data.id}`);
  };
  return (
    <Sheet
      title="Run it live"
      action={
        <Link to="/test-bench" className="font-medium text-ice hover:underline">
          Test benches
        </Link>
      }
    >
      <div className="grid gap-4 md:grid-cols-2">
        <SelectField label="Test bench" value={bench.id} onChange={(event) => setBenchId(event.target.value)}>
          {benches.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
              {one.liveId ? " (running)" : ""}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Protocol"
          value={edited ? edited.name : protocol.name}
          hint={protocol.about}
          onChange={(event) => {
            setEdited(null);
            setChoice(event.target.value);
          }}
        >
          {edited && <option value={edited.name}>{edited.name} (changed)</option>}
          {protocols.map((one) => (
            <option key={one.id ?? one.name} value={one.name}>
              {one.name}
              {one.id ? " (own)" : ""}
            </option>
          ))}
        </SelectField>
        <TextField label="Load" value={loadName} onChange={(event) => setLoadName(event.target.value)} />
        <SelectField
          label="Side panel"
          value={panel}
          onChange={(event) => setPanel(SIDE_PANELS.find((one) => one === event.target.value) ?? "unknown")}
        >
          {SIDE_PANELS.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </SelectField>
        <TextField
          label="Room air (°C)"
          inputMode="decimal"
          value={room}
          error={
            fault?.errors.roomC ??
            (isWarned && forgetsRoom
              ? "Read the room air now: the run before had it typed. Without it the two can’t be compared."
              : undefined)
          }
          hint={
            side === "after" && room.trim() === ""
              ? "Read it now, unless the bench measures it: without room air nothing can be compared."
              : "Only where the bench does not measure it."
          }
          onChange={(event) => setRoom(event.target.value)}
        />
      </div>
      <details className="mt-3">
        <summary className="min-h-9 cursor-pointer font-medium text-ice">Change the protocol</summary>
        <ProtocolEditor key={protocol.id ?? protocol.name} start={protocol} onUse={setEdited} />
      </details>
      {fault && !fault.errors.roomC && (
        <div className="mt-3">
          <FaultNote fault={fault} />
        </div>
      )}
      <div className="mt-4 flex justify-end">
        <Button look="main" disabled={isLoading || bench.liveId !== null} onClick={() => void begin()}>
          {bench.liveId
            ? "The bench is running"
            : isLoading
              ? "Starting…"
              : isWarned && forgetsRoom
                ? "Start without it"
                : "Start"}
        </Button>
      </div>
    </Sheet>
  );
}
