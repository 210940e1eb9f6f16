import * as Comlink from "comlink";
import { useState } from "react";
import { Button } from "../../ui/button.tsx";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { figure } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import type { SoundAnswer } from "../../workers/sound-session.ts";
import { useSoundSession } from "../../workers/use-sound-session.ts";
import { recordMicrophone } from "./microphone.ts";

const CALIBRATION = "algidus-sound-calibration-db";
const RECORD_S = 10;

type Found = Extract<SoundAnswer, { findings: unknown }>;

/** Level, blade-pass line and tick from a recording; dBA once one calibration reading was given. */
export function SoundReading({ onLevel }: { onLevel: (dba: number) => void }) {
  const session = useSoundSession();
  const [rpm, setRpm] = useState("");
  const [blades, setBlades] = useState("");
  const [known, setKnown] = useState("");
  const [found, setFound] = useState<SoundAnswer | null>(null);
  const [busy, setBusy] = useState("");
  const [offset, setOffset] = useState<number | null>(() => numberOrNull(localStorage.getItem(CALIBRATION)));
  const fan = () => {
    const speed = numberOrNull(rpm);
    return speed && speed > 0 ? { rpm: speed, blades: numberOrNull(blades) } : null;
  };
  const show = (answer: SoundAnswer): void => {
    setFound(answer);
    setBusy("");
    if ("findings" in answer && offset !== null) onLevel(answer.findings.levelDbFs + offset);
  };
  const read = async (file: File): Promise<void> => {
    setBusy("Listening to the recording…");
    try {
      const bytes = await file.arrayBuffer();
      show(await session().wav(Comlink.transfer(bytes, [bytes]), fan()));
    } catch {
      show({
        problem: { code: "not-wav", what: "This recording can’t be read.", remedy: "Export it as WAV, uncompressed." },
      });
    }
  };
  const record = async (): Promise<void> => {
    setBusy(`Recording ${RECORD_S} seconds…`);
    try {
      const { samples, rateHz } = await recordMicrophone(RECORD_S);
      show(await session().recording(samples, rateHz, fan()));
    } catch {
      show({
        problem: {
          code: "no-microphone",
          what: "The microphone can’t be used.",
          remedy: "Allow it in the browser, or drop a WAV file.",
        },
      });
    }
  };
  const calibrate = (): void => {
    const level = numberOrNull(known);
    if (!found || !("findings" in found) || level === null) return;
    const by = level - found.findings.levelDbFs;
    localStorage.setItem(CALIBRATION, String(by));
    setOffset(by);
    onLevel(level);
  };
  return (
    <fieldset className="space-y-3 rounded-lg border border-line p-3">
      <legend className="px-1 font-medium">Or from a recording</legend>
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label="Fan speed (rpm)"
          inputMode="numeric"
          value={rpm}
          onChange={(event) => setRpm(event.target.value)}
        />
        <TextField
          label="Blades"
          inputMode="numeric"
          value={blades}
          onChange={(event) => setBlades(event.target.value)}
        />
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <label className="inline-flex min-h-11 cursor-pointer items-center rounded-lg border border-edge px-4 font-semibold focus-within:outline-2 hover:border-ice">
          Choose a WAV file
          <input
            type="file"
            accept=".wav,audio/wav,audio/x-wav"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) void read(file);
            }}
          />
        </label>
        <Button onClick={() => void record()} disabled={busy !== ""}>
          Record {RECORD_S} s
        </Button>
        <span role="status" className="text-sm text-soft">
          {busy}
        </span>
      </div>
      {found && "problem" in found && (
        <Note kind="fault" title={found.problem.what} live>
          {found.problem.remedy}
        </Note>
      )}
      {found && "findings" in found && <Findings found={found} offset={offset} />}
      {found && "findings" in found && offset === null && (
        <div className="flex flex-wrap items-end gap-2">
          <TextField
            label="What a sound level meter shows now (dBA)"
            inputMode="decimal"
            value={known}
            hint="Once: this ties recordings on this machine to real levels."
            onChange={(event) => setKnown(event.target.value)}
          />
          <Button onClick={calibrate}>Calibrate</Button>
        </div>
      )}
    </fieldset>
  );
}

function Findings({ found: { findings, seconds, notice }, offset }: { found: Found; offset: number | null }) {
  const { bladePass, tick, clippedShare } = findings;
  return (
    <div className="space-y-2">
      <p>
        <span className="text-2xl font-bold">{figure(findings.levelDbFs + (offset ?? 0))}</span>{" "}
        {offset === null ? "dB below full scale, A-weighted" : "dBA"}{" "}
        <span className="text-sm text-soft">over {figure(seconds, 0)} s</span>
      </p>
      <Bands bands={findings.bands} offset={offset ?? 0} />
      {bladePass && (
        <p>
          Blade pass expected at {figure(bladePass.expectedHz, 0)} Hz:{" "}
          {bladePass.foundHz === null
            ? "no line stands out there."
            : `found at ${figure(bladePass.foundHz, 0)} Hz, ${figure(bladePass.aboveDb, 0)} dB above its surroundings.`}
        </p>
      )}
      {tick && (
        <p>
          {tick.found
            ? `A tick once per turn, ${figure(tick.perMinute, 0)} a minute: look for a blade or cable that touches.`
            : "No tick once per turn."}{" "}
          <span className="text-sm text-soft">
            Chance alone looks like this{" "}
            {tick.odds < 1e-6 ? "less than once in a million" : `with odds of ${tick.odds.toPrecision(1)}`}.
          </span>
        </p>
      )}
      {clippedShare > 1e-4 && (
        <Note kind="caution" title="The recording is clipped: its level is too low. Turn the microphone down." />
      )}
      {notice && <p className="text-sm text-soft">{notice}</p>}
    </div>
  );
}

/** Third-octave bands as thin bars. */
function Bands({ bands, offset }: { bands: Found["findings"]["bands"]; offset: number }) {
  const top = Math.max(...bands.map((band) => band.levelDbFs));
  const height = 64;
  return (
    <svg
      viewBox={`0 0 ${bands.length * 12} ${height + 14}`}
      className="w-full"
      role="img"
      aria-label={`Third-octave bands; the loudest is ${figure(top + offset, 0)} dB`}
    >
      {bands.map((band, index) => {
        const size = Math.max(1, height * (1 - (top - band.levelDbFs) / 60));
        return (
          <rect key={band.hz} x={index * 12 + 1} y={height - size} width={10} height={size} className="fill-ice" />
        );
      })}
      {bands
        .filter((band) => [125, 1000, 8000].some((hz) => Math.abs(band.hz / hz - 1) < 0.05))
        .map((band) => (
          <text
            key={band.hz}
            x={bands.indexOf(band) * 12 + 6}
            y={height + 12}
            textAnchor="middle"
            className="fill-soft text-[9px]"
          >
            {band.hz >= 1000 ? `${Math.round(band.hz / 1000)} kHz` : `${Math.round(band.hz)} Hz`}
          </text>
        ))}
    </svg>
  );
}
