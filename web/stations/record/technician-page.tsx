import { type Card, type ServiceView, STATIONS, type StepMarkInput } from "#contract";
import { type BoardMap, screwWords } from "#core/boardmap/index.ts";
import { assumedWords, foldMarks, type HandSummary, handTime, STEP, valueOf } from "#core/handwork/index.ts";
import { IMPRINT_SIZE, readImprint } from "#core/imprint/index.ts";
import { api } from "../../app/api.ts";
import { BoardPlan, type PlanMarks } from "../../ui/board-plan.tsx";
import { dateTime } from "../../ui/format.ts";

/** The page for the next pair of hands: pads and screws on the map, steps with their times, imprint. */
export function TechnicianPage({
  card,
  service,
  hands,
  marks,
}: {
  card: Card;
  service: ServiceView;
  hands: HandSummary | null;
  marks: readonly StepMarkInput[];
}) {
  const { data: view } = api.useBoardMapQuery(card.boardModelId ?? "", { skip: !card.boardModelId });
  const map = view?.map && view.map.parts.length + view.map.screws.length > 0 ? view.map : null;
  return (
    <section
      aria-label="For the technician"
      className="record-sheet mx-auto max-w-[50rem] break-before-page print:[&_button]:hidden rounded-xl border border-line bg-sheet p-6 text-[0.92rem]"
    >
      <header className="flex flex-wrap justify-between gap-2 border-b-2 border-ink pb-2">
        <h2 className="text-xl font-bold">For the technician</h2>
        <p>
          {card.maker} {card.model} · {card.serial || "no serial"} · {card.boardModelName ?? "board unknown"}
        </p>
      </header>
      {map ? (
        <Maps serviceId={service.id} map={map} />
      ) : (
        <p className="my-3 text-soft">No map of this board yet: pads and screws can’t be drawn.</p>
      )}
      <div className="mt-3 grid gap-4 sm:grid-cols-2 print:grid-cols-2">
        <section>
          <h3 className="font-semibold">Steps</h3>
          <Steps marks={marks} />
        </section>
        <section>
          <h3 className="font-semibold">Found on the way</h3>
          <ul className="list-disc pl-4">
            {hands?.odd.map(({ what, kind, text, dealt }) => (
              <li key={what + kind}>
                {what}: {kind}
                {text && `, ${text}`}
                {dealt && " (put right)"}
              </li>
            ))}
            {(!hands || hands.odd.length === 0) && <li>Nothing odd was noted.</li>}
            {hands?.imprint?.words && <li>{hands.imprint.words}</li>}
          </ul>
          <Imprint marks={marks} />
        </section>
      </div>
    </section>
  );
}

/** Pads by thickness and screws by number, on either side as far as there is anything. */
function Maps({ serviceId, map }: { serviceId: string; map: BoardMap }) {
  const { data: job } = api.usePadsQuery(serviceId);
  const { data: stores } = api.useStoresQuery();
  const picks = Object.entries(job?.plan.picks ?? {}).flatMap(([id, pick]) => (pick ? [[id, pick] as const] : []));
  const marks: PlanMarks = Object.fromEntries(
    picks.map(([id, { thicknessMm, layers }]) => [
      id,
      { text: `${thicknessMm}${layers > 1 ? ` × ${layers}` : ""}`, hatchMm: thicknessMm * layers },
    ]),
  );
  const sides = (["front", "back"] as const).filter(
    (side) => map.parts.some((part) => part.side === side) || map.screws.some((screw) => screw.side === side),
  );
  const kinds = new Map<string, string[]>();
  for (const [id, { materialId, thicknessMm }] of picks) {
    const words = `${thicknessMm} mm ${stores?.materials.find((one) => one.id === materialId)?.name ?? "pad"}`;
    kinds.set(words, [...(kinds.get(words) ?? []), id]);
  }
  return (
    <>
      <div className={sides.length > 1 ? "grid gap-3 print:grid-cols-2" : ""}>
        {sides.map((side) => (
          <figure key={side} className="mt-3 break-inside-avoid">
            <figcaption className="font-semibold">Pads and screws, {side}</figcaption>
            <BoardPlan map={map} side={side} label={`Pads and screws, ${side}`} marks={marks} />
          </figure>
        ))}
      </div>
      <div className="mt-2 grid gap-4 text-sm sm:grid-cols-2 print:grid-cols-2">
        <ul>
          {[...kinds].map(([words, parts]) => (
            <li key={words}>
              <span className="font-semibold">{words}:</span> {parts.join(", ")}
            </li>
          ))}
          {picks.length === 0 && <li className="text-soft">No pads were chosen.</li>}
        </ul>
        <ul className="print:columns-2">
          {map.screws.map((screw) => (
            <li key={screw.id}>
              <span className="font-semibold">{screw.id}:</span> {screwWords(screw) || "not described"}
            </li>
          ))}
          {assumedWords(map) && <li className="text-soft">{assumedWords(map)}</li>}
        </ul>
      </div>
    </>
  );
}

/** Minutes of hands and from when to when, station by station. */
function Steps({ marks }: { marks: readonly StepMarkInput[] }) {
  const rows = STATIONS.flatMap(({ id, title }) => {
    const own = marks.filter((mark) => mark.station === id);
    const [first, last] = [own[0], own.at(-1)];
    return first && last
      ? [{ id, title, done: own.filter(({ what }) => what === "done").length, from: first.at, until: last.at, own }]
      : [];
  });
  if (rows.length === 0) return <p className="text-soft">No steps were led.</p>;
  return (
    <table className="w-full text-left text-sm">
      <thead className="text-soft">
        <tr>
          <th className="font-medium">Station</th>
          <th className="font-medium">Steps</th>
          <th className="text-right font-medium">Hands min</th>
          <th className="text-right font-medium">Begun</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ id, title, done, from, own }) => (
          <tr key={id} className="border-t border-line">
            <td>{title}</td>
            <td>{done}</td>
            <td className="text-right">{Math.round(handTime(own, Date.parse).minutes)}</td>
            <td className="text-right">{dateTime(from)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** How the old compound lay, as cells over the die. */
function Imprint({ marks }: { marks: readonly StepMarkInput[] }) {
  const cells = readImprint(valueOf(foldMarks(marks.filter(({ station }) => station === "strip")), STEP.imprint));
  if (!cells) return null;
  return (
    <svg
      viewBox={`0 0 ${IMPRINT_SIZE} ${IMPRINT_SIZE}`}
      className="mt-2 w-24 border border-line"
      role="img"
      aria-label="Imprint of the old compound"
    >
      {cells.map((cell, at) => (
        <rect
          // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place
          key={at}
          x={at % IMPRINT_SIZE}
          y={Math.floor(at / IMPRINT_SIZE)}
          width={1}
          height={1}
          fill="var(--ice)"
          opacity={SHADES[cell]}
        />
      ))}
    </svg>
  );
}
const SHADES = { covered: 0.9, thin: 0.4, bare: 0.05 } as const;
