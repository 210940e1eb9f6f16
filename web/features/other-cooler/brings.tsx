import { type CoolerJob, USUAL_LIMITS, USUAL_SETTINGS } from "#contract";
import {
  type BringRow,
  type Brought,
  bringsInAir,
  bringsInWater,
  type Cooler,
  isWet,
  loopDba,
  type Today,
  type Touches,
} from "#core/coolers/index.ts";
import { api } from "../../app/api.ts";
import type { FitAnswer } from "../../parts/cooler/fitted.ts";
import { LinkButton } from "../../ui/button.tsx";
import { figure } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { type Loop, loopAnswer } from "./loop-answer.ts";

/** Where the workshop names no warmest room. */
const USUAL_WARMEST_C = 30;

const span = (one: Brought | null): string => (one ? `${figure(one.riseK)} ± ${figure(one.u95K)} K` : "not known");
const change = (one: Brought | null): string =>
  one ? `${one.riseK > 0 ? "+" : "−"}${figure(Math.abs(one.riseK))} ± ${figure(one.u95K)} K` : "not known";

interface Props {
  job: CoolerJob;
  cooler: Cooler;
  /** The loop it is in, where water runs through it. */
  loop: Loop | null;
  answer: FitAnswer;
}

/** Rises at three fan speeds against today’s cooler, at equal speed and at equal noise; and what loses its contact. */
export function BringsPart({ job, cooler, loop, answer }: Props) {
  const fit = answer && "ok" in answer ? answer.ok.fit : null;
  const kindOf = new Map(job.map?.parts.map(({ id, kind }) => [id, kind]));
  const bare = (kind: string): string[] => fit?.uncovered.filter((id) => kindOf.get(id) === kind) ?? [];
  const lost = { memory: bare("memory"), vrm: bare("mosfet") };
  const { data: settings = USUAL_SETTINGS } = api.useSettingsQuery();
  const { data: boards } = api.useBoardsQuery();
  const limits = boards?.find(({ id }) => id === job.boardModelId)?.limits ?? USUAL_LIMITS;
  const roomC = settings.warmestRoomC ?? USUAL_WARMEST_C;
  const { now } = job;
  const today =
    now && now.powerW !== null && now.fanRpm !== null && now.edgeK !== null
      ? { ...now, powerW: now.powerW, fanRpm: now.fanRpm, edgeK: now.edgeK, edgeU95K: now.edgeU95K ?? 0 }
      : null;
  const touches = { memory: lost.memory.length === 0, vrm: lost.vrm.length === 0 };
  const rows = today ? bringsInAir(cooler.air, today, touches) : [];
  const rest = { lost, limits, roomC };
  const hasLost = lost.memory.length + lost.vrm.length > 0;
  return (
    <div className="space-y-4">
      {hasLost && (
        <Note kind="caution" title={`${lostWords(lost)} their contact`}>
          They need air or contact of their own: heatsinks, or pads to something that takes the heat. Die temperature
          alone is no proof: the run after the work has to show them too.
        </Note>
      )}
      {!today ? (
        <Note title="Nothing to compare with yet">
          A baseline run with room air, power and fan speed says what the cooler of today does.
        </Note>
      ) : isWet(cooler) && cooler.air.length === 0 ? (
        <InWater cooler={cooler} loop={loop} today={today} touches={touches} rest={rest} />
      ) : rows.length === 0 ? (
        <Note title={`Nothing is known of what ${cooler.name} does in air`}>
          <p className="mb-2">
            Type kelvins per watt at a fan speed from its sheet, or take over what runs here showed.
          </p>
          {job.plan.coolerId && <LinkButton to={`/coolers/${job.plan.coolerId}`}>To its figures</LinkButton>}
        </Note>
      ) : (
        <Sheet title={`${cooler.name} against today’s cooler at ${figure(today.powerW, 0)} W`}>
          <Speeds
            fans="Its fans"
            between={["Against today, equal speed"]}
            rows={rows.map((row) => ({ ...row, between: [change(row.atEqualSpeedK)] }))}
            rest={rest}
          />
          <p className="mt-3 text-sm text-soft">
            Today: {figure(today.edgeK)} K over room at {figure(today.fanRpm, 0)} rpm ({today.runName}). Sheets hold
            within about 12 %; memory and VRM share the plate with the die by an estimate, so their intervals are wide.
            {today.dba === null && " Equally loud is not known: the run before the work has no sound level."}
          </p>
        </Sheet>
      )}
    </div>
  );
}

interface Rest {
  lost: { memory: string[]; vrm: string[] };
  limits: { memoryC: number | null; vrmC: number | null; edgeC: number | null };
  roomC: number;
}
type Row = Pick<BringRow, "fanRpm" | "dba" | "die" | "memory" | "vrm" | "atEqualNoiseK">;

/** What is foretold at three speeds of the fans; `between` stands between the die and what is equally loud. */
function Speeds({
  fans,
  between,
  rows,
  rest: { lost, limits, roomC },
}: {
  fans: string;
  between: readonly string[];
  rows: ReadonlyArray<Row & { between: readonly string[] }>;
  rest: Rest;
}) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full min-w-[44rem] text-left">
        <thead>
          <tr className="text-sm text-soft">
            <th className="py-1 font-normal">{fans}</th>
            {["Die over room", ...between, "Against today, equally loud", "Memory", "VRM"].map((words) => (
              <th key={words} className="font-normal">
                {words}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ fanRpm, dba, die, atEqualNoiseK, memory, vrm, between: more }) => (
            <tr key={fanRpm} className="border-t border-line align-top [&_td]:py-2 [&_td]:pr-3">
              <th scope="row" className="py-2 pr-3">
                {figure(fanRpm, 0)} rpm
                {dba !== null && <span className="block text-sm font-normal text-soft">{figure(dba, 0)} dBA</span>}
              </th>
              <td>
                <span className="text-lg font-bold">{span(die)}</span>
                <Over one={die} roomC={roomC} limitC={limits.edgeC} />
              </td>
              {more.map((words, index) => (
                <td key={between[index]}>{words}</td>
              ))}
              <td>
                {change(atEqualNoiseK)}
                {atEqualNoiseK && (
                  <span className="block text-sm text-soft">today’s at {figure(atEqualNoiseK.todayRpm, 0)} rpm</span>
                )}
              </td>
              <td>
                {lost.memory.length > 0 ? <Lost /> : span(memory)}
                <Over one={memory} roomC={roomC} limitC={limits.memoryC} />
              </td>
              <td>
                {lost.vrm.length > 0 ? <Lost /> : span(vrm)}
                <Over one={vrm} roomC={roomC} limitC={limits.vrmC} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** A loop at three speeds of its radiators’ fans, against the card as it ran. */
function InWater({
  cooler,
  loop,
  today,
  touches,
  rest,
}: {
  cooler: Cooler;
  loop: Loop | null;
  today: Today & { runName: string };
  touches: Touches;
  rest: Rest;
}) {
  if (!loop)
    return (
      <Note title="What it brings depends on its loop">
        Describe pump, radiators and tube under “Water”, then it is said here.
      </Note>
    );
  const speeds = loop.radiators.flatMap(({ cooling }) => cooling.map(({ fanRpm }) => fanRpm));
  const [low, high] = [Math.min(loop.fanRpm, ...speeds), Math.max(loop.fanRpm, ...speeds)];
  const answers = [...new Set([low, Math.sqrt(low * high), high])].map((fanRpm) => ({
    fanRpm,
    found: loopAnswer(loop, cooler, today.powerW, fanRpm),
  }));
  const missing = answers.flatMap(({ found }) => ("problem" in found ? [found.problem] : []))[0];
  if (missing)
    return (
      <Note kind="fault" title={missing.what}>
        {missing.remedy}
      </Note>
    );
  const points = answers.flatMap(({ fanRpm, found }) =>
    "ok" in found
      ? [
          {
            fanRpm,
            dba: loopDba(
              loop.radiators.map(({ cooling }) => cooling),
              fanRpm,
            ),
            die: { riseK: found.ok.dieOverRoomK, u95K: found.ok.u95K },
            coolantOverRoomK: found.ok.coolantOverRoomK,
          },
        ]
      : [],
  );
  return (
    <Sheet title={`${cooler.name} in its loop against today’s cooler at ${figure(today.powerW, 0)} W`}>
      <Speeds
        fans="Radiator fans"
        between={["Coolant over room", "Against today"]}
        rows={bringsInWater(points, today, touches).map((row) => ({
          ...row,
          between: [`${figure(row.coolantOverRoomK)} K`, change(row.againstTodayK)],
        }))}
        rest={rest}
      />
      <p className="mt-3 text-sm text-soft">
        Today: {figure(today.edgeK)} K over room at {figure(today.fanRpm, 0)} rpm ({today.runName}). Sheets hold within
        about 12 %; memory and VRM share the block with the die by an estimate, so their intervals are wide: the run
        after the work shows them.
        {points.some(({ dba }) => dba === null)
          ? " Equally loud is not known: a radiator has no sound level under “Water”."
          : today.dba === null && " Equally loud is not known: the run before the work has no sound level."}
      </p>
    </Sheet>
  );
}

/** Said where even the interval’s middle comes over a limit in the warmest room. */
function Over({ one, roomC, limitC }: { one: Brought | null; roomC: number; limitC: number | null }) {
  if (!one || limitC === null || one.riseK + roomC <= limitC) return null;
  return (
    <span className="block text-sm text-amber">
      over {figure(limitC, 0)} °C in a room of {figure(roomC, 0)} °C
    </span>
  );
}

const Lost = () => <span className="font-semibold text-amber">loses its contact</span>;

function lostWords({ memory, vrm }: { memory: string[]; vrm: string[] }): string {
  const words = [
    memory.length > 0 ? `Memory (${memory.slice(0, 4).join(", ")})` : "",
    vrm.length > 0 ? `VRM (${vrm.slice(0, 4).join(", ")}${vrm.length > 4 ? " …" : ""})` : "",
  ].filter(Boolean);
  return `${words.join(" and ")} lose`;
}
