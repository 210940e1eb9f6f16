import { useSearchParams } from "react-router";
import { EMPTY_MAP } from "#core/boardmap/index.ts";
import { currentStep, fanCount, fanSteps, fanWord, type HandStep, valueOf } from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import { HandStationPage } from "../../parts/steps/hand-station.tsx";
import { type Marks, useMarks } from "../../parts/steps/use-marks.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Waiting } from "../../ui/page.tsx";
import type { StationProps } from "../station.ts";
import { CoastSheet } from "./coast.tsx";
import { fanSpeeds } from "./fan-speeds.ts";
import { FanLabels } from "./labels.tsx";
import { Speeds } from "./speeds.tsx";

/** Fans by finger, eye and figures: how each turns, how fast against its twin, how long it coasts down. */
export function FansStation(props: StationProps) {
  return <Turning key={`${props.service.id} ${props.service.attempts.length}`} {...props} />;
}

function Turning({ cardId, service }: StationProps) {
  const [search] = useSearchParams();
  const { data: card } = api.useCardQuery(cardId);
  const { data: job, error } = api.usePadsQuery(service.id);
  const marks = useMarks(service.id, "fans", service.attempts.length, search.get("do") === "steps");
  if (!card || !job || !marks.ready)
    return error || marks.error ? <FaultNote error={error ?? marks.error} /> : <Waiting what="the fans" />;
  const plugs = (job.map ?? EMPTY_MAP).plugs.filter(({ feeds }) => feeds === "fan").length;
  const known = Math.max(1, plugs, ...service.runs.map((run) => fanSpeeds(run).length));
  const count = fanCount(marks.folded, known);
  const steps = fanSteps({ folded: marks.folded, known });
  return (
    <HandStationPage
      cardId={cardId}
      service={service}
      station="fans"
      path="fans"
      title={`Fans · ${card.maker} ${card.model}`}
      steps={steps}
      marks={marks}
      ended="Fans looked at"
      picture={<FanRow count={count} marks={marks} at={currentStep(steps, marks.folded) ?? null} />}
      idle={<FanRow count={count} marks={marks} at={null} />}
    >
      <Speeds runs={service.runs} />
      <CoastSheet marks={marks} count={count} />
      <FanLabels marks={marks} count={count} />
    </HandStationPage>
  );
}

/** The fans side by side, with what is known of each; the one that is looked at stands out. */
function FanRow({ count, marks, at }: { count: number; marks: Marks; at: HandStep | null }) {
  const here = Number(at?.id.split(":")[1] ?? 0);
  return (
    <ol className="flex flex-wrap gap-3" aria-label="The fans">
      {Array.from({ length: count }, (_, index) => index + 1).map((fan) => (
        <li
          key={fan}
          className={`min-w-32 flex-1 rounded-xl border p-3 text-center ${here === fan ? "border-2 border-ice bg-frost" : "border-line bg-sheet"}`}
        >
          <svg viewBox="-50 -50 100 100" className="mx-auto mb-2 h-24 w-24" aria-hidden>
            <circle r={46} fill="none" stroke="var(--edge)" strokeWidth={2} />
            {Array.from({ length: BLADES }, (_blade, blade) => (
              <path
                key={`${blade * TURN}`}
                d="M10 -4 C 24 -20 38 -16 42 -2 C 32 -6 22 2 10 6 Z"
                transform={`rotate(${blade * TURN})`}
                fill={here === fan ? "var(--ice)" : "var(--line)"}
              />
            ))}
            <circle r={12} fill="var(--sheet)" stroke="var(--edge)" strokeWidth={2} />
          </svg>
          <p className="font-semibold">Fan {fan}</p>
          <p className="text-sm text-soft">{fanWord(valueOf(marks.folded, `finger:${fan}`))}</p>
        </li>
      ))}
    </ol>
  );
}
const BLADES = 7;
const TURN = 360 / BLADES;
