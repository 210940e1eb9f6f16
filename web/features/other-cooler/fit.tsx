import type { BoardMap } from "#core/boardmap/index.ts";
import {
  type Cooler,
  differences,
  type Fit,
  roomOf,
  turnedOverCooler,
  USUAL_DIE_TALL_MM,
  USUAL_MOMENT_LIMIT_NM,
} from "#core/coolers/index.ts";
import { api } from "../../app/api.ts";
import { useLearn } from "../../parts/board/use-learn.ts";
import type { FitAnswer } from "../../parts/cooler/fitted.ts";
import { fitMarks } from "../../parts/cooler/marks.ts";
import { CoolerOverlay } from "../../parts/cooler/overlay.tsx";
import { BoardPlan } from "../../ui/board-plan.tsx";
import { Button, LinkButton } from "../../ui/button.tsx";
import { figure } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { CoolerPartProps } from "./use-cooler-plan.ts";

/** Drawn on the map: what collides and by how much, what stays uncovered, which hole has no post; room in the case; weight on the slot. */
export function FitPart({ job, plan, cooler, answer }: CoolerPartProps & { cooler: Cooler; answer: FitAnswer }) {
  const { map, boardModelId } = job;
  if (!map || !boardModelId)
    return (
      <Note
        kind="caution"
        title={boardModelId ? `${job.boardName} has no map yet` : "This card has no board model yet"}
      >
        Coolers are laid onto the board’s map: die, holes and parts have to stand on it.
        {boardModelId && (
          <p className="mt-2">
            <LinkButton to={`/boards/${boardModelId}/map`} look="main">
              Draw the board map
            </LinkButton>
          </p>
        )}
      </Note>
    );
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <div className="min-w-0 space-y-4">
        {answer && "problem" in answer && (
          <Note kind="fault" title={answer.problem.what}>
            {answer.problem.remedy}
          </Note>
        )}
        {answer && "ok" in answer && (
          <>
            <Sheet>
              <BoardPlan
                map={{ ...map, cooler: answer.ok.mounted.map.cooler }}
                side="front"
                label={`${cooler.name} on ${job.boardName}: ${answer.ok.fit.fits ? "goes on" : "does not go on"}`}
                marks={fitMarks(answer.ok.fit)}
                overlay={<CoolerOverlay map={map} cooler={cooler} fit={answer.ok.fit} />}
              />
              <p className="mt-1 text-sm text-soft">
                Figures on parts are gaps to the cooler in mm. Amber: nothing reaches it. Red: it stands too tall, or a
                post without a hole.
              </p>
            </Sheet>
            {answer.ok.fit.looksMirrored && <Mirrored job={job} cooler={cooler} />}
            <Reasons fit={answer.ok.fit} map={map} />
          </>
        )}
      </div>
      <div className="space-y-4">
        {answer && "ok" in answer && <Layout map={map} cooler={cooler} fit={answer.ok.fit} />}
        <DieHeight boardModelId={boardModelId} map={map} />
        <Room job={job} plan={plan} cooler={cooler} map={map} />
      </div>
    </div>
  );
}

function Reasons({ fit, map }: { fit: Fit; map: BoardMap }) {
  const kindOf = new Map(map.parts.map(({ id, kind }) => [id, kind]));
  const bare = HOT.map(([kind, words]) => ({ words, ids: fit.uncovered.filter((id) => kindOf.get(id) === kind) }));
  const shown = fit.reasons.filter(({ code }) => code !== "part-uncovered");
  const isAll = shown.length === 0 && bare.every(({ ids }) => ids.length === 0);
  return (
    <Sheet title={fit.fits ? "What to know before it goes on" : "Why it does not go on"}>
      {isAll && <p>Nothing stands in the way: every post has its hole and its screw, nothing collides.</p>}
      <ul className="space-y-1">
        {shown.map(({ code, id, text }) => (
          <li key={`${code} ${id}`} className={code === "plate-metal" ? "text-amber" : "font-medium text-danger"}>
            {text}
          </li>
        ))}
        {bare.map(
          ({ words, ids }) =>
            ids.length > 0 && (
              <li key={words} className="text-amber">
                {words} {ids.join(", ")}: under no face for pad or paste, so{" "}
                {ids.length === 1 ? "it needs" : "they need"} air or contact of {ids.length === 1 ? "its" : "their"}{" "}
                own.
              </li>
            ),
        )}
      </ul>
      {fit.heightUnknown.length > 0 && (
        <p className="mt-2 text-sm text-soft">
          Nobody measured how tall {fit.heightUnknown.join(", ")} {fit.heightUnknown.length === 1 ? "stands" : "stand"}:
          whether they collide is not judged.
        </p>
      )}
    </Sheet>
  );
}

/** Parts that give off heat worth speaking of. */
const HOT = [
  ["memory", "Memory"],
  ["mosfet", "MOSFETs"],
  ["choke", "Chokes"],
] as const;

function Mirrored({ job, cooler }: { job: CoolerPartProps["job"]; cooler: Cooler }) {
  const { data } = api.useCoolerQuery(job.plan.coolerId ?? "", { skip: !job.plan.coolerId });
  const [change, { error, isLoading }] = api.useChangeCoolerMutation();
  return (
    <Note kind="caution" title="The drawing looks mirrored">
      <p className="mb-2">Every post would find its hole if it were turned over. Was it drawn from below?</p>
      <Button
        disabled={isLoading || !data}
        onClick={() =>
          data && void change({ coolerId: data.id, body: { cooler: turnedOverCooler(cooler), version: data.version } })
        }
      >
        Turn it over
      </Button>
      <FaultNote error={error} />
    </Note>
  );
}

/** Answered by what differs, not by a name. */
function Layout({ map, cooler, fit }: { map: BoardMap; cooler: Cooler; fit: Fit }) {
  const differs = differences(map, cooler, fit);
  return (
    <Sheet title="Is this the layout it was made for?">
      {differs.length === 0 ? (
        <p>Nothing speaks against it: posts, faces and parts lie where it expects them.</p>
      ) : (
        <ul className="list-disc space-y-1 pl-5">
          {differs.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
      <p className="mt-2 text-sm text-soft">
        Shift {figure(fit.shiftMm.x, 2)}, {figure(fit.shiftMm.y, 2)} mm{fit.turned ? ", turned by half a turn" : ""};
        the plate covers {figure(fit.dieCoveredPct, 0)} % of the die.
      </p>
    </Sheet>
  );
}

function DieHeight({ boardModelId, map }: { boardModelId: string; map: BoardMap }) {
  const { learn, map: shown, fault } = useLearn(boardModelId, map);
  const typed = shown.board.dieTallMm ?? null;
  return (
    <Sheet title="Height of the die">
      <NumberField
        label="Top of the die above the board"
        unit="mm"
        value={typed}
        optional
        least={0.2}
        most={20}
        hint={
          typed === null
            ? `Not measured: ${USUAL_DIE_TALL_MM} mm is assumed. All gaps and screws depend on it.`
            : "Belongs to the board model."
        }
        onValue={(dieTallMm) => learn({ edit: "board", more: { dieTallMm } })}
      />
      <FaultNote fault={fault} />
    </Sheet>
  );
}

function Room({ plan, cooler, map }: CoolerPartProps & { cooler: Cooler; map: BoardMap }) {
  const { room } = plan.value;
  const found = roomOf(cooler, map.die?.xMm ?? 0, room, room.supportNm);
  return (
    <Sheet title="Room and weight">
      <div className="grid grid-cols-2 items-end gap-2">
        <NumberField
          label="Room in the case"
          unit="slots"
          value={room.slots}
          optional
          least={1}
          most={10}
          onValue={(slots) => plan.change({ room: { ...room, slots } })}
        />
        <NumberField
          label="Length in the case"
          unit="mm"
          value={room.lengthMm}
          optional
          least={50}
          most={1000}
          onValue={(lengthMm) => plan.change({ room: { ...room, lengthMm } })}
        />
      </div>
      <p className="mt-3">
        {found.slots === null ? "Type its height on its drawing to know its slots." : `Takes ${found.slots} slots`}
        {found.lengthMm !== null && `, reaches ${figure(found.lengthMm, 0)} mm along the board`}.
      </p>
      {found.faults.map((one) => (
        <p key={one} className="mt-1 font-medium text-danger">
          {one}
        </p>
      ))}
      <p className="mt-2">
        {found.momentNm === null
          ? "Type its weight on its drawing to know what hangs on the slot."
          : `${figure(found.momentNm, 2)} N·m bend the slot: ${found.supportAdvised ? "put a support under its free end" : "no support needed"}.`}
      </p>
      {found.momentNm !== null && (
        <div className="mt-2 max-w-60">
          <NumberField
            label="Support advised from"
            unit="N·m"
            value={room.supportNm}
            least={0.1}
            most={20}
            onValue={(supportNm) => supportNm !== null && plan.change({ room: { ...room, supportNm } })}
          />
          {room.supportNm === USUAL_MOMENT_LIMIT_NM && (
            <p className="text-sm text-soft">{USUAL_MOMENT_LIMIT_NM} N·m is common practice.</p>
          )}
        </div>
      )}
    </Sheet>
  );
}
