import { type BoardMap, type MapPart, pullingScrews } from "#core/boardmap/index.ts";
import { IS_FAULT, pressedUnevenly, type WarningCode } from "#core/contact/index.ts";
import type { Judgement } from "#core/padplan/index.ts";
import { DIE_PRESSURE_KPA } from "#core/trade/index.ts";
import { figure, partTemperature } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import { Working } from "../../ui/working.tsx";
import type { Judged } from "../../workers/use-pad-session.ts";

/** What the eye meets first: yes or no, and by how much. */
export function Verdict({
  judged: { judgement, problem, behind },
  map,
  places,
  any,
}: {
  judged: Judged;
  map: BoardMap;
  places: MapPart[];
  any: boolean;
}) {
  if (problem)
    return (
      <Note kind="fault" live title={problem.what}>
        {problem.remedy}
      </Note>
    );
  if (!judgement) return <Note title="Computing the contact…" />;
  const { die, board } = judgement.contact;
  const uneven = pressedUnevenly(die);
  const warnings = grouped(judgement).length;
  const hottest = (kinds: ReadonlyArray<MapPart["kind"]>): string => {
    const own = judgement.places.filter(({ id }) =>
      kinds.includes(places.find((one) => one.id === id)?.kind ?? "other"),
    );
    return own.length === 0 ? "" : partTemperature(Math.max(...own.map((one) => one.temperatureC)));
  };
  return (
    <section
      aria-label="Does the die seat"
      aria-busy={behind}
      className={`min-h-30 rounded-xl border-l-4 bg-sheet px-4 py-3 ${uneven ? "border-amber" : die.seated ? "border-ice" : "border-danger bg-danger-wash"}`}
    >
      <p className="text-2xl font-bold" aria-live="polite">
        {die.seated ? `✓ The die seats with ${die.meanPressureKPa.toFixed(0)} kPa` : "✕ The die does not seat"}
        {!any && <span className="text-base font-medium text-soft"> without any pads yet</span>}
        {uneven && (
          <span className="text-base font-semibold text-amber">
            {any ? " but unevenly: see the warning on the die" : ", and unevenly: by its screws alone"}
          </span>
        )}
      </p>
      <dl className="figure mt-1 flex flex-wrap gap-x-5 gap-y-1 text-sm">
        {(
          [
            ["at its weakest point", `${die.minPressureKPa.toFixed(0)} kPa`],
            ["tilt", `${figure(die.tiltMradX, 2)} / ${figure(die.tiltMradY, 2)} mrad`],
            [
              `board bent ${board.maxDeflectionMm > 0 ? "toward" : "from"} the cooler`,
              `${Math.abs(board.maxDeflectionMm).toFixed(2)} mm`,
            ],
            ["force on the die", `${die.forceN.toFixed(0)} N`],
            ["hottest memory, estimated", hottest(["memory"])],
            ["hottest VRM, estimated", hottest(["mosfet", "choke"])],
          ] as const
        )
          .filter(([, value]) => value !== "")
          .map(([name, value]) => (
            <div key={name} className="flex gap-1.5">
              <dt className="text-soft">{name}</dt>
              <dd className="font-semibold">{value}</dd>
            </div>
          ))}
      </dl>
      <p className="text-sm text-soft">
        Usual on a die: {DIE_PRESSURE_KPA.usualLow.toFixed(0)} to {DIE_PRESSURE_KPA.usualHigh.toFixed(0)} kPa (30 to 40
        psi).{" "}
        {warnings > 0 && (
          <button
            type="button"
            className="min-h-6 font-semibold text-amber underline"
            onClick={() => document.getElementById(WARNINGS)?.scrollIntoView({ block: "center" })}
          >
            {warnings === 1 ? "1 warning" : `${warnings} warnings`} below the plan
          </button>
        )}
      </p>
      <Working>
        <p>
          A rigid cooler on the board as a thin plate (Timoshenko and Woinowsky-Krieger), flat under the die’s package;
          screws as springs, pads by their softness curve, pads and die pushing one way only; all solved together.
        </p>
        <p>
          Board {map.board.widthMm} × {map.board.heightMm} × {map.board.thicknessMm} mm, {map.board.youngGPa} GPa;{" "}
          {pullingScrews(map).length} screws of{" "}
          {pullingScrews(map)
            .map((screw) => screw.forceN)
            .join(", ")}{" "}
          N. A backplate or bracket that stiffens the board is not in it: type a larger thickness or stiffness on the
          map.
        </p>
      </Working>
    </section>
  );
}

const WARNINGS = "pad-warnings";
const MOST_WARNINGS = 6;
const NAMES: Readonly<Record<string, string>> = { die: "The die", board: "The board" };

interface Grouped {
  ids: string[];
  text: string;
  code: WarningCode;
}

/** Warnings that say the same of several places become one. */
function grouped({ contact: { warnings } }: Judgement): Array<Grouped> {
  const groups = new Map<string, Grouped>();
  for (const { code, id, text } of warnings) {
    const key = `${code} ${text}`;
    const known = groups.get(key);
    if (known) known.ids.push(id);
    else groups.set(key, { ids: [id], text, code });
  }
  return [...groups.values()];
}

export function Warnings({ judged: { judgement }, onShow }: { judged: Judged; onShow: (id: string) => void }) {
  const all = judgement ? grouped(judgement) : [];
  if (all.length === 0) return null;
  return (
    <ul id={WARNINGS} className="space-y-2" aria-label="Warnings">
      {all.slice(0, MOST_WARNINGS).map(({ ids, text, code }) => (
        <li key={`${code} ${ids.join()}`}>
          <Note kind={IS_FAULT[code] ? "fault" : "caution"} title={ids.map((id) => NAMES[id] ?? id).join(", ")}>
            {text}{" "}
            {!NAMES[ids[0] ?? ""] && (
              <button
                type="button"
                className="min-h-6 font-semibold text-ice underline"
                onClick={() => onShow(ids[0] ?? "")}
              >
                Change it
              </button>
            )}
          </Note>
        </li>
      ))}
      {all.length > MOST_WARNINGS && <li className="text-sm text-soft">and {all.length - MOST_WARNINGS} more</li>}
    </ul>
  );
}
