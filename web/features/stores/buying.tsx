import { useState } from "react";
import { Link } from "react-router";
import { toast } from "sonner";
import type { OpenPads, Stores } from "#contract";
import type { ProblemDetail } from "#core/problem/index.ts";
import { api } from "../../app/api.ts";
import { momentWords } from "../../parts/day/words.ts";
import { BuyTable } from "../../parts/pads/buy-table.tsx";
import {
  afterCutting,
  type BuyLine,
  buyList,
  buyListCsv,
  cuttingTask,
  keptPlan,
  piecesOfAll,
} from "../../parts/pads/cutting.ts";
import { Button } from "../../ui/button.tsx";
import { download } from "../../ui/download.ts";
import { figure, today } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { BROKEN, type RemotePads, usePadSession } from "../../workers/use-pad-session.ts";

const TOGETHER_S = 2;
const ALONE_S = 0.4;
/** Of more cards one by one, the wait is longer than the answer is worth. */
const MOST_ALONE = 12;

interface Found {
  lines: BuyLine[];
  cost: number;
  /** What the cards cost one after the other, left-overs used up as they come; null where that was not worked out. */
  aloneCost: number | null;
}

/** What is short for all open cards, cut together from the same sheets. */
export function BuyingPage() {
  const { data: open, error } = api.useOpenPadsQuery();
  const { data: stores } = api.useStoresQuery();
  return (
    <Page
      wide
      title="To buy"
      lead="What is short for all open cards whose pads are chosen, cut together from the same sheets"
      action={
        <Link to="/stores" className="min-h-11 content-center font-medium text-ice hover:underline">
          To the stores
        </Link>
      }
    >
      <FaultNote error={error} />
      {open && stores ? <Buying open={open} stores={stores} /> : !error && <Waiting what="the pads" />}
    </Page>
  );
}

function Buying({ open, stores }: { open: OpenPads[]; stores: Stores }) {
  const { data: settings } = api.useSettingsQuery();
  const remote = usePadSession();
  const [found, setFound] = useState<Found | null>(null);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  const [busy, setBusy] = useState(false);
  const currency = settings?.currency ?? "";
  const compute = async (session: RemotePads): Promise<void> => {
    setBusy(true);
    const answer = await together(session, open, stores).catch(() => ({ problem: BROKEN }));
    setBusy(false);
    setProblem("problem" in answer ? answer.problem : null);
    if ("ok" in answer) setFound(answer.ok);
  };
  const pieces = piecesOfAll(open, stores);
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <div className="space-y-4">
        {pieces.length === 0 && stores.low.length === 0 ? (
          <Note title="Nothing is short">
            Choose pads at the Pads station of a card; what no sheet in stock holds then stands here.
          </Note>
        ) : (
          <div className="flex flex-wrap items-center gap-3">
            <Button look="main" disabled={busy || !remote} onClick={() => remote && void compute(remote)}>
              {busy ? "Planning…" : "Plan what to buy"}
            </Button>
            {found && (
              <Button onClick={() => download("to-buy.csv", buyListCsv(found.lines), "text/csv")}>Save as CSV</Button>
            )}
          </div>
        )}
        {problem && (
          <Note kind="fault" title={problem.what}>
            {problem.remedy}
          </Note>
        )}
        {found && <FoundSheet found={found} stores={stores} currency={currency} />}
      </div>
      <Waiters open={open} />
    </div>
  );
}

/** All cards cut from the same sheets, and one after the other. */
async function together(
  session: RemotePads,
  open: readonly OpenPads[],
  stores: Stores,
): Promise<{ ok: Found } | { problem: ProblemDetail }> {
  const pieces = piecesOfAll(open, stores);
  if (pieces.length === 0) return { ok: { lines: buyList(NOTHING, [], stores), cost: 0, aloneCost: null } };
  const made = await session.cut(cuttingTask(pieces, stores), TOGETHER_S);
  if ("problem" in made) return made;
  const plan = keptPlan(made.ok, pieces, stores);
  let aloneCost: number | null = null;
  if (open.length > 1 && open.length <= MOST_ALONE) {
    aloneCost = 0;
    let left: Pick<Stores, "lots" | "offers"> = stores;
    for (const one of open) {
      const own = piecesOfAll([one], stores);
      const alone = await session.cut(cuttingTask(own, left), ALONE_S);
      if ("problem" in alone) return alone;
      aloneCost += keptPlan(alone.ok, own, left).cost;
      left = afterCutting(alone.ok, left);
    }
  }
  return { ok: { lines: buyList(plan, pieces, stores), cost: plan.cost, aloneCost } };
}
const NOTHING = { sheets: [], unplaced: [], cost: 0, lowerBoundCost: 0 };

function FoundSheet({
  found: { lines, cost, aloneCost },
  stores,
  currency,
}: {
  found: Found;
  stores: Stores;
  currency: string;
}) {
  const [addLot, { error, isLoading }] = api.useAddLotMutation();
  const [changeOffer, ordering] = api.useChangeOfferMutation();
  const [arrived, setArrived] = useState<ReadonlySet<BuyLine>>(new Set());
  if (lines.length === 0) return <Note title="Nothing has to be bought">All pieces come out of what is in stock.</Note>;
  const saved = aloneCost === null ? 0 : aloneCost - cost;
  const offerOf = ({ offerId }: BuyLine) => stores.offers.find(({ id }) => id === offerId);
  const order = async (line: BuyLine): Promise<void> => {
    const offer = offerOf(line);
    if (!offer) return;
    const { id, ...body } = offer;
    const made = await changeOffer({ offerId: id, body: { ...body, orderedOn: today() } });
    if (made.data) toast(`${line.quantity} × ${line.what} ordered`);
  };
  const book = async (line: BuyLine): Promise<void> => {
    const { thicknessMm, widthMm, heightMm, quantity, priceEach } = line;
    const materialId = offerOf(line)?.materialId;
    if (materialId === undefined) return;
    const made = await addLot({
      materialId,
      thicknessMm,
      widthMm,
      heightMm,
      price: priceEach ?? 0,
      label: line.note,
      amount: quantity,
      openedOn: null,
      useBefore: null,
    });
    if (!made.data) return;
    setArrived(new Set([...arrived, line]));
    toast(`${quantity} × ${line.what} put into stock`);
  };
  return (
    <Sheet title={`${figure(cost, 2)} ${currency} of sheets`}>
      {saved > 0.005 ? (
        <p className="mb-3">
          Cut together, the cards cost{" "}
          <strong>
            {figure(saved, 2)} {currency} less
          </strong>{" "}
          than one after the other ({figure(aloneCost, 2)} {currency}).
        </p>
      ) : (
        aloneCost !== null && <p className="mb-3 text-soft">One after the other they would cost the same.</p>
      )}
      <FaultNote error={error ?? ordering.error} />
      <BuyTable
        lines={lines}
        currency={currency}
        arrivals={{
          has: (line) => arrived.has(line),
          busy: isLoading || ordering.isLoading,
          orderedOn: (line) => offerOf(line)?.orderedOn ?? null,
          onOrdered: (line) => void order(line),
          onArrived: (line) => void book(line),
        }}
      />
    </Sheet>
  );
}

/** What pads lie under, or are cut for. */
const WITH_PADS: ReadonlySet<string> = new Set(["pads", "compound", "closeUp"]);

/** Cards that need pads, and when the plan comes to it. */
function Waiters({ open }: { open: readonly OpenPads[] }) {
  const { data: day } = api.useDayQuery();
  if (open.length === 0) return null;
  return (
    <Sheet title="For these cards">
      <ul className="divide-y divide-line">
        {open.map(({ serviceId, cardId, name, serial }) => {
          const block = day?.plan?.blocks
            .filter((one) => one.serviceId === serviceId && WITH_PADS.has(one.id))
            .toSorted((one, other) => one.startMs - other.startMs)[0];
          return (
            <li key={serviceId} className="py-2">
              <Link to={`/cards/${cardId}/pads?do=cut`} className="font-semibold text-ice hover:underline">
                {name} {serial}
              </Link>
              <span className="block text-sm text-soft">
                {block && day
                  ? `planned for ${momentWords(block.startMs, day.atMs)}${block.why === "waits for parts" ? ", waits for parts" : ""}`
                  : "not in the plan"}
              </span>
            </li>
          );
        })}
      </ul>
    </Sheet>
  );
}
