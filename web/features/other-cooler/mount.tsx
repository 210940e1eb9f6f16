import { useMemo } from "react";
import { DIE_ID } from "#core/boardmap/index.ts";
import { dieRangeKPa, type KitScrew, ON_DIE_MM, padForGap, screwNamed } from "#core/coolers/index.ts";
import { foldMarks } from "#core/handwork/index.ts";
import { DIE_PRESSURE_KPA } from "#core/trade/index.ts";
import { api } from "../../app/api.ts";
import type { FitAnswer, Fitted } from "../../parts/cooler/fitted.ts";
import { KitScrews } from "../../parts/cooler/kit-screws.tsx";
import { CoolerOverlay } from "../../parts/cooler/overlay.tsx";
import { FACE_WORDS } from "../../parts/cooler/words.ts";
import { TurnsProblem } from "../../parts/steps/turns-waiting.tsx";
import { useTurns } from "../../parts/steps/use-turns.ts";
import { BoardPlan, type PlanMarks } from "../../ui/board-plan.tsx";
import { Button } from "../../ui/button.tsx";
import { figure } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { usePadSession } from "../../workers/use-pad-session.ts";
import type { CoolerPartProps } from "./use-cooler-plan.ts";

/** The sheet that lies beside the card: which screw in which hole, which pad on which face, in which order and how far to turn. */
export function MountPart({ job, cardName, answer, plan }: CoolerPartProps & { cardName: string; answer: FitAnswer }) {
  if (!answer || "problem" in answer)
    return (
      <Note kind="caution" title={answer ? answer.problem.what : "There is no board map to mount it on"}>
        {answer?.problem.remedy}
      </Note>
    );
  const { ok } = answer;
  return (
    <div className="space-y-4">
      {!ok.fit.fits && (
        <Note kind="caution" title="It does not go on as it is">
          What follows holds for the posts that have a hole. See “Does it go on?” for what stands in the way.
        </Note>
      )}
      <div className="flex flex-wrap items-center justify-between gap-2">
        <p className="text-soft">
          {ok.cooler.name} on {job.boardName}, {cardName}. Seen from the component side.
        </p>
        <Button className="no-print" look="main" onClick={() => print()}>
          Print the mount sheet
        </Button>
      </div>
      <div className="grid items-start gap-4 lg:grid-cols-2">
        <div className="space-y-4">
          <Sheet title="Screws">
            <Screws fitted={ok} />
          </Sheet>
          <Turning fitted={ok} />
        </div>
        <div className="space-y-4">
          <Sheet title="Pads and paste">
            <BoardPlan
              map={ok.mounted.map}
              side="front"
              label={`Pads and paste under ${ok.cooler.name}`}
              marks={padMarks(ok)}
              overlay={<CoolerOverlay map={ok.mounted.map} cooler={ok.cooler} fit={ok.fit} />}
            />
            <Places fitted={ok} />
          </Sheet>
        </div>
      </div>
      <div className="no-print">
        <Sheet title="More screws from the drawer">
          <p className="mb-3 text-soft">
            Beside the kit of {ok.cooler.name}: what would do for a post without a screw.
          </p>
          <FromStores drawer={plan.value.drawer} onScrews={(drawer) => plan.change({ drawer })} />
          <KitScrews screws={plan.value.drawer} onScrews={(drawer) => plan.change({ drawer })} />
        </Sheet>
      </div>
    </div>
  );
}

function Screws({ fitted: { fit, screws } }: { fitted: Fitted }) {
  return (
    <table className="w-full text-left [&_td]:pr-2 [&_th]:pr-2">
      <thead>
        <tr className="align-bottom text-sm text-soft">
          <th className="py-1 font-normal">Hole</th>
          <th className="font-normal">Post</th>
          <th className="font-normal">Screw</th>
          <th className="font-normal">Washer (mm)</th>
          <th className="font-normal">Spacer, most (mm)</th>
          <th className="text-right font-normal">Holds by (mm)</th>
        </tr>
      </thead>
      <tbody>
        {fit.posts.map((post) => {
          const kind = screws.find(({ id }) => id === post.screwId);
          return (
            <tr key={post.postId} className="border-t border-line">
              <th scope="row" className="py-2">
                {post.holeId ?? <span className="text-danger">none</span>}
              </th>
              <td className="py-2">{post.postId}</td>
              <td className="font-semibold">
                {kind ? (
                  `${kind.id}, ${kind.thread} × ${kind.lengthMm} mm`
                ) : (
                  <span className="text-danger">none fits</span>
                )}
              </td>
              <td>{kind && kind.washerMm > 0 ? kind.washerMm : "–"}</td>
              <td>{post.standsOffMm >= LEAST_SPACER_MM ? figure(post.standsOffMm, 2) : "–"}</td>
              <td className="text-right">{post.engagementMm === null ? "–" : figure(post.engagementMm, 2)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Thinner ones are not to be had. */
const LEAST_SPACER_MM = 0.2;

/** Screws of the stores whose name says thread and length, with how many there are. */
function FromStores({ drawer, onScrews }: { drawer: readonly KitScrew[]; onScrews: (screws: KitScrew[]) => void }) {
  const { data: stores } = api.useStoresQuery();
  const offered = (stores?.materials ?? []).flatMap((material) => {
    const named = material.kind === "screw" ? screwNamed(material.name) : null;
    const id = material.name.slice(0, 30);
    if (!named || drawer.some((one) => one.id === id)) return [];
    const quantity = stores?.lots
      .filter(({ materialId }) => materialId === material.id)
      .reduce((sum, lot) => sum + lot.amount, 0);
    return quantity
      ? [{ id, ...named, washerMm: 0, quantity: Math.min(1000, Math.floor(quantity)), shouldered: false }]
      : [];
  });
  if (offered.length === 0) return null;
  return (
    <div className="mb-3 flex flex-wrap gap-2">
      {offered.slice(0, MOST_OFFERED).map((screw) => (
        <Button key={screw.id} onClick={() => onScrews([...drawer, screw])}>
          {screw.id}: {screw.quantity} in the stores
        </Button>
      ))}
    </div>
  );
}
const MOST_OFFERED = 12;

function padMarks({ fit, cooler }: Fitted): PlanMarks {
  const useOf = new Map(cooler.faces.map((face) => [face.id, face.for]));
  return Object.fromEntries([
    [DIE_ID, { text: "paste", wash: 0.5 }],
    ...fit.gaps.toReversed().map(({ partId, faceId, gapMm }) => {
      if (useOf.get(faceId) === "paste") return [partId, { text: "paste", wash: 0.5 }];
      const pad = gapMm === null ? null : padForGap(gapMm);
      return [partId, pad === null ? { text: "?", tone: "amber" as const } : { text: String(pad), hatchMm: pad }];
    }),
  ]);
}

/** By face and gap: how many places take which pad. */
function Places({ fitted: { fit, cooler } }: { fitted: Fitted }) {
  const rows = cooler.faces.flatMap((face) => {
    const gaps = fit.gaps.filter(({ faceId, gapMm }) => faceId === face.id && gapMm !== null);
    const byGap = new Map<string, string[]>();
    for (const { gapMm, partId } of gaps) {
      const key = (gapMm ?? 0).toFixed(2);
      byGap.set(key, [...(byGap.get(key) ?? []), partId]);
    }
    return [...byGap].map(([gap, ids]) => ({ face, gap: Number(gap), ids }));
  });
  return (
    <table className="mt-3 w-full text-left">
      <thead>
        <tr className="text-sm text-soft">
          <th className="py-1 pr-3 font-normal">Face</th>
          <th className="font-normal">Parts</th>
          <th className="text-right font-normal">Gap</th>
          <th className="pl-3 font-normal">Takes</th>
        </tr>
      </thead>
      <tbody>
        <tr className="border-t border-line align-top">
          <th scope="row" className="py-2 pr-3">
            plate
          </th>
          <td className="py-2">Die</td>
          <td className="py-2 text-right whitespace-nowrap">{ON_DIE_MM} mm</td>
          <td className="py-2 pl-3 font-semibold">
            paste{cooler.plate?.metal === "aluminium" && ", no liquid metal: it eats aluminium"}
          </td>
        </tr>
        {rows.map(({ face, gap, ids }) => {
          const pad = padForGap(gap);
          return (
            <tr key={`${face.id} ${gap}`} className="border-t border-line align-top">
              <th scope="row" className="py-2 pr-3">
                {face.id}
              </th>
              <td className="py-2">{ids.join(", ")}</td>
              <td className="py-2 text-right whitespace-nowrap">{figure(gap, 2)} mm</td>
              <td className="py-2 pl-3 font-semibold">
                {face.for === "paste" ? (
                  FACE_WORDS.paste
                ) : pad === null ? (
                  <span className="text-danger">no usual pad: spacer, or another face</span>
                ) : (
                  <span className="whitespace-nowrap">pad of {pad} mm</span>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const NOTHING_MARKED = foldMarks([]);

/** A pressure is met within this share of it (common practice, no source). */
const TARGET_WITHIN = 0.15;

/** Pressure on the die with its springs, and the order of turns. */
function Turning({ fitted: { cooler, mounted } }: { fitted: Fitted }) {
  const remote = usePadSession();
  const map = useMemo(() => (mounted.map.die && mounted.map.screws.length > 0 ? mounted.map : null), [mounted]);
  const turning = useTurns(remote, "tighten", map, null, NOTHING_MARKED);
  const { fastening, problem, progress } = turning;
  const { die } = mounted.map;
  if (problem) return <TurnsProblem turning={turning} />;
  if (!fastening || !die)
    return (
      <Sheet title="How to tighten">
        <p role="status" className="text-soft">
          {progress === null ? "No screw pulls yet." : `Working out the turns: ${Math.round(100 * progress)} %`}
        </p>
      </Sheet>
    );
  const kPa = (1000 * fastening.final.dieForceN) / (die.widthMm * die.heightMm);
  const { lowKPa, highKPa } = dieRangeKPa(mounted.map, kPa);
  const [leastKPa, mostKPa] =
    cooler.dieKPa === null
      ? [DIE_PRESSURE_KPA.usualLow, DIE_PRESSURE_KPA.usualHigh]
      : [cooler.dieKPa * (1 - TARGET_WITHIN), cooler.dieKPa * (1 + TARGET_WITHIN)];
  const target =
    cooler.dieKPa === null
      ? `${figure(leastKPa, 0)} to ${figure(mostKPa, 0)} kPa is usual`
      : `it is made for ${figure(cooler.dieKPa, 0)} kPa`;
  return (
    <Sheet title="How to tighten">
      <p>
        All tight, pads left out: <strong>{figure(kPa, 0)} kPa</strong> on the die, {figure(lowKPa, 0)} to{" "}
        {figure(highKPa, 0)} as screws scatter,{" "}
        {kPa < leastKPa
          ? "less than it should be: a washer under each spring adds pull"
          : kPa > mostKPa
            ? "more than it should be: fewer or thinner washers, no turn further"
            : "as it should be"}{" "}
        ({target}; {ON_DIE_MM} mm of compound).
      </p>
      {cooler.screwPullN === null && (
        <p className="mt-1 text-amber">Nobody typed what its screws pull: 35 N each is assumed.</p>
      )}
      <ol className="mt-3 list-decimal space-y-1 pl-6">
        <li>All screws to first bite, none further.</li>
        {fastening.tighten.map((turn, index) => (
          <li key={`${turn.screwId} ${turn.totalTurns}`}>
            {turn.screwId} by {figure(turn.turns, 2)} turns
            {index === fastening.tighten.length - 1 ? ", then none further" : ""}
          </li>
        ))}
        <li>Look along the edge: every pad touches, the board is flat. If not, loosen and begin again.</li>
      </ol>
    </Sheet>
  );
}
