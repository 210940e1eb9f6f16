import * as Comlink from "comlink";
import { useRef, useState } from "react";
import { frictionRatio, frictionWords, type Measured95 } from "#core/fans/index.ts";
import { valueOf } from "#core/handwork/index.ts";
import type { ProblemDetail } from "#core/problem/index.ts";
import { recordMicrophone } from "../../parts/readings/microphone.ts";
import type { Marks } from "../../parts/steps/use-marks.ts";
import { Button } from "../../ui/button.tsx";
import { Caution } from "../../ui/caution.tsx";
import { SelectField } from "../../ui/field.tsx";
import { FileInput } from "../../ui/file-input.tsx";
import { figure } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import { Working } from "../../ui/working.tsx";
import type { CoastAnswer, CoastFound } from "../../workers/sound-session.ts";
import { useSoundSession } from "../../workers/use-sound-session.ts";

const RECORD_S = 20;
const WHEN = { before: "as it came", after: "after oil or replacing" } as const;
type When = keyof typeof WHEN;
const keyOf = (fan: number, when: When): string => `coast:${fan}:${when}`;

interface Kept {
  dry: Measured95;
  stopsAfterS: number | null;
}

const NO_MICROPHONE: ProblemDetail = {
  code: "no-microphone",
  what: "The microphone can’t be used.",
  remedy: "Allow it in the browser, or choose a WAV file.",
};
const COUNT_FIRST: ProblemDetail = {
  code: "no-blades",
  what: "How many blades it has is not known.",
  remedy: "Count them and type the number: the tone of a fan is its blades times its turns.",
};
const NOT_WAV: ProblemDetail = {
  code: "not-wav",
  what: "This recording can’t be read.",
  remedy: "Export it as WAV, uncompressed.",
};

/** Coasting down by ear: dry friction of each fan, against its twin and against itself before. */
export function CoastSheet({ marks, count }: { marks: Marks; count: number }) {
  const session = useSoundSession();
  const [fan, setFan] = useState(1);
  const [when, setWhen] = useState<When>("before");
  const [busy, setBusy] = useState("");
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  const [found, setFound] = useState<{ fan: number; of: CoastFound } | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const blades = Number(valueOf(marks.folded, `blade-count:${fan}`) ?? 0) || null;
  const show = (answer: CoastAnswer): void => {
    setBusy("");
    if ("problem" in answer) return setProblem(answer.problem);
    setProblem(null);
    setFound({ fan, of: answer.ok });
    const { dry, stopsAfterS } = answer.ok.coast;
    const kept: Kept = {
      dry: { value: round(dry.value), u95: round(dry.u95) },
      stopsAfterS: stopsAfterS && round(stopsAfterS),
    };
    marks.mark({ stepId: keyOf(fan, when), what: "value", value: JSON.stringify(kept) });
  };
  const read = async (file: File): Promise<void> => {
    const isLog = !/\.wav$/i.test(file.name);
    if (!blades && !isLog) return setProblem(COUNT_FIRST);
    setBusy(isLog ? "Reading the log…" : "Listening…");
    try {
      const bytes = await file.arrayBuffer();
      const moved = Comlink.transfer(bytes, [bytes]);
      show(await (isLog ? session().coastLog(moved, fan) : session().coastWav(moved, blades ?? 1)));
    } catch {
      setBusy("");
      setProblem(NOT_WAV);
    }
  };
  const record = async (): Promise<void> => {
    if (!blades) return;
    setBusy(`Recording ${RECORD_S} s: full speed first, then cut its power…`);
    try {
      const { samples, rateHz } = await recordMicrophone(RECORD_S);
      show(await session().coastRecording(samples, rateHz, blades));
    } catch {
      setBusy("");
      setProblem(NO_MICROPHONE);
    }
  };
  const fans = Array.from({ length: count }, (_, index) => index + 1);
  return (
    <Sheet title="Coasting down">
      <Caution of="coast" />
      <p className="my-3 text-soft">
        One fan at a time: bring it to full speed, cut its power while recording, wait until it stands.
      </p>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        <SelectField label="Which" value={fan} onChange={(event) => setFan(Number(event.target.value))}>
          {fans.map((one) => (
            <option key={one} value={one}>
              Fan {one}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="When"
          value={when}
          onChange={(event) => setWhen(event.target.value === "after" ? "after" : "before")}
        >
          {Object.entries(WHEN).map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </SelectField>
        <NumberField
          label="Blades"
          unit=""
          value={blades}
          least={2}
          most={30}
          onValue={(value) =>
            value !== null && marks.mark({ stepId: `blade-count:${fan}`, what: "value", value: String(value) })
          }
        />
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <Button disabled={!blades || busy !== ""} onClick={() => void record()}>
          Record {RECORD_S} s
        </Button>
        <Button disabled={busy !== ""} onClick={() => chooser.current?.click()}>
          Choose a WAV file or a fast log
        </Button>
        <FileInput
          ref={chooser}
          accept=".wav,.csv,.txt,.log,audio/wav,audio/x-wav,text/csv"
          label="Recording of a fan that coasts down"
          onFile={(file) => void read(file)}
        />
        <span role="status" className="text-sm text-soft">
          {busy || (blades ? "" : "Count its blades first: a recording needs them, a log does not.")}
        </span>
      </div>
      {problem && (
        <Note kind="fault" live title={problem.what}>
          {problem.remedy}
        </Note>
      )}
      {found && <Fall of={found.of} name={`Fan ${found.fan}`} />}
      <ul className="mt-3 space-y-1">
        {fans.flatMap((one) =>
          (Object.keys(WHEN) as When[]).map((at) => (
            <Judged key={keyOf(one, at)} marks={marks} fan={one} when={at} count={count} />
          )),
        )}
      </ul>
      <Working>
        <p>
          −dω/dt = a + bω + cω²: a is dry friction of the bearing, b the oil’s, c the air’s. The line of the blades is
          followed through the spectrogram (a path that only falls, with its harmonics; steady hum is taken out), the
          law is fitted by its own solution; ± from the residuals, widened where neighbours err together.
        </p>
      </Working>
    </Sheet>
  );
}

const round = (value: number): number => Math.round(value * 1000) / 1000;

function keptOf(marks: Marks, fan: number, when: When): Kept | null {
  const text = valueOf(marks.folded, keyOf(fan, when));
  if (text === null) return null;
  try {
    return JSON.parse(text) as Kept;
  } catch {
    return null;
  }
}

/** A fan's dry friction against its twin's, or its own before. */
function Judged({ marks, fan, when, count }: { marks: Marks; fan: number; when: When; count: number }) {
  const kept = keptOf(marks, fan, when);
  if (!kept) return null;
  const own = when === "after" ? keptOf(marks, fan, "before") : null;
  const twin = Array.from({ length: count }, (_, index) => index + 1)
    .filter((other) => other !== fan)
    .map((other) => keptOf(marks, other, "after") ?? keptOf(marks, other, "before"))
    .find((other) => other !== null);
  const against = own ?? twin;
  return (
    <li>
      <strong>
        Fan {fan}, {WHEN[when]}:
      </strong>{" "}
      {figure(kept.dry.value, 1)} ± {figure(kept.dry.u95, 1)} rad/s² of dry friction
      {kept.stopsAfterS !== null && `, stands after ${figure(kept.stopsAfterS, 1)} s`}.{" "}
      {against
        ? `${frictionWords(frictionRatio(kept.dry, against.dry), own ? "itself before" : "its twin")}.`
        : "Nothing to hold it against yet: record its twin as well."}
    </li>
  );
}

/** The speed as it fell. */
function Fall({ of, name }: { of: CoastFound; name: string }) {
  const { timeS, rpm } = of;
  const [from, to] = [timeS[0] ?? 0, timeS.at(-1) ?? 1];
  const top = Math.max(...rpm, 1);
  const points = timeS.map(
    (t, k) => `${(200 * (t - from)) / Math.max(1e-6, to - from)},${60 - (56 * (rpm[k] ?? 0)) / top}`,
  );
  return (
    <figure className="mt-3">
      <svg
        viewBox="0 0 200 62"
        className="w-full"
        role="img"
        aria-label={`${name} fell from ${figure(rpm[0] ?? 0, 0)} to ${figure(rpm.at(-1) ?? 0, 0)} rpm in ${figure(to - from, 1)} s`}
      >
        <path d="M0 60H200" stroke="var(--edge)" strokeWidth={0.5} />
        <polyline points={points.join(" ")} fill="none" stroke="var(--ice)" strokeWidth={1.2} />
      </svg>
      <figcaption className="text-sm text-soft">
        {name}: {figure(rpm[0] ?? 0, 0)} to {figure(rpm.at(-1) ?? 0, 0)} rpm in {figure(to - from, 1)} s
      </figcaption>
    </figure>
  );
}
