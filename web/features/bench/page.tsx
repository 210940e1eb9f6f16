import { Plus } from "lucide-react";
import { Link } from "react-router";
import type { BenchEntry } from "#contract";
import { api } from "../../app/api.ts";
import { LinkButton } from "../../ui/button.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Page, Waiting } from "../../ui/page.tsx";
import { RiseLadder } from "../../ui/rise-ladder.tsx";

/** Today: every open card with the station it has reached, its one figure, and what to do next. */
export function BenchPage() {
  const { data, error, isLoading } = api.useBenchQuery();
  const open = data?.filter((entry) => !entry.closed) ?? [];
  const closed = data?.filter((entry) => entry.closed) ?? [];
  return (
    <Page
      title="Bench"
      lead={data ? `${open.length} ${open.length === 1 ? "card" : "cards"} in work` : undefined}
      action={
        <LinkButton to="/take-in" look="main">
          <Plus aria-hidden className="size-5" />
          Take in a card
        </LinkButton>
      }
    >
      <BenchStrip />
      <LowStock />
      {isLoading && <Waiting what="the bench" />}
      <FaultNote error={error} />
      {data && open.length === 0 && <EmptyBench />}
      <ul className="space-y-2">
        {open.map((entry) => (
          <BenchRow key={entry.cardId} entry={entry} />
        ))}
      </ul>
      {closed.length > 0 && (
        <>
          <h2 className="mt-8 mb-2 text-lg font-semibold">Handed over</h2>
          <ul className="space-y-2">
            {closed.map((entry) => (
              <BenchRow key={entry.cardId} entry={entry} />
            ))}
          </ul>
        </>
      )}
    </Page>
  );
}

/** What runs on the test benches, and whose hands are needed. */
function BenchStrip() {
  const { data: running = [] } = api.useRunningLiveQuery(undefined, { pollingInterval: 5000 });
  return (
    <section
      aria-label="Test bench"
      className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2 rounded-xl border border-line bg-frost px-4 py-2"
    >
      {running.length === 0 && <span className="text-soft">Nothing runs on a test bench</span>}
      {running.map((live) => (
        <Link key={live.id} to={`/live/${live.id}`} className="min-h-11 content-center hover:underline">
          <span className="font-semibold">{live.cardName}</span>: {live.protocol.name}
          {live.state?.hands ? (
            <span className="font-semibold text-amber"> · {live.state.hands}</span>
          ) : (
            <span className="text-soft">
              {" "}
              · at most {Math.ceil(live.state?.minutesLeft ?? 0)} min of this part left
            </span>
          )}
        </Link>
      ))}
      <Link to="/test-bench" className="ml-auto min-h-11 content-center font-medium text-ice hover:underline">
        Test benches
      </Link>
    </section>
  );
}

/** What runs out, so that nobody is left with bare chokes. */
function LowStock() {
  const { data } = api.useStoresQuery();
  const low = data?.low ?? [];
  if (low.length === 0) return null;
  return (
    <p className="mb-4 rounded-xl border border-line bg-amber-wash px-4 py-2">
      <span className="font-semibold">Low: </span>
      {low.map((one) => `${one.name} (${one.left} ${one.unit})`).join(", ")}{" "}
      <Link to="/stores" className="font-medium text-ice hover:underline">
        Go to the stores
      </Link>
    </p>
  );
}

const STATION_PATH: Record<BenchEntry["station"], string> = {
  takeIn: "take-in",
  baseline: "baseline",
  decide: "decide",
  pads: "pads",
  work: "work",
  prove: "prove",
  record: "record",
};

function BenchRow({ entry }: { entry: BenchEntry }) {
  return (
    <li>
      <Link
        to={`/cards/${entry.cardId}/${STATION_PATH[entry.station]}`}
        className="grid grid-cols-1 items-center gap-x-4 gap-y-1 rounded-xl border border-line bg-sheet px-4 py-3 hover:border-ice sm:grid-cols-[minmax(0,1.2fr)_7rem_minmax(0,1.3fr)_7.5rem]"
      >
        <span className="min-w-0">
          <span className="block truncate font-semibold">
            {entry.maker} {entry.model}
          </span>
          <span className="block truncate text-sm text-soft">
            {entry.serial || "no serial"} · {entry.holder === "stock" ? "stock" : entry.ownerName || "owner unknown"}
          </span>
        </span>
        <span className="text-sm">
          <span className="inline-block rounded-md border border-edge px-2 py-0.5 font-medium">
            {entry.closed ? "Handed over" : entry.stationTitle}
          </span>
        </span>
        <span className="min-w-0">
          <span
            className={`block text-lg font-bold break-words ${entry.verdict === "worse" ? "text-danger" : entry.verdict === "not-comparable" ? "text-amber" : ""}`}
          >
            {entry.figure || <span className="text-base font-medium text-soft">no run yet</span>}
          </span>
          {!entry.closed && <span className="block text-sm font-medium text-ice">{entry.next}</span>}
        </span>
        <span className="hidden justify-end sm:flex">
          {entry.ladder.length > 0 && (
            <RiseLadder
              compact
              columns={entry.ladder}
              label={`Rises of ${entry.maker} ${entry.model}, before hollow, after solid`}
            />
          )}
        </span>
      </Link>
    </li>
  );
}

function EmptyBench() {
  return (
    <div className="rounded-xl border border-dashed border-edge p-8 text-center">
      <p className="text-lg font-semibold">No card on the bench</p>
      <p className="mx-auto mt-1 mb-4 max-w-prose text-soft">
        Take a card in, run a load on it and drop the log: you will see how warm it runs over room air, and after the
        work whether it helped. Sample logs are there to try.
      </p>
      <LinkButton to="/take-in" look="main">
        Take in the first card
      </LinkButton>
    </div>
  );
}
