import { Plus } from "lucide-react";
import { useRef } from "react";
import { Link } from "react-router";
import { type ServiceLine, stationOf } from "#contract";
import { api } from "../../app/api.ts";
import { useKeys } from "../../app/keys.ts";
import { NowPanel } from "../../parts/day/now-panel.tsx";
import { useDay } from "../../parts/day/use-day.ts";
import { useLines } from "../../parts/lines/use-lines.ts";
import { useRows } from "../../parts/lines/use-rows.ts";
import { plural } from "../../parts/stores/size.ts";
import { LinkButton } from "../../ui/button.tsx";
import { ClockLine } from "../../ui/clock.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Page, Waiting } from "../../ui/page.tsx";
import { RiseLadder } from "../../ui/rise-ladder.tsx";
import { useClockTitle } from "../../ui/title.ts";
import { DayPart } from "./day.tsx";
import { Due } from "./due.tsx";

const OPEN = { find: "", closed: false, limit: 100 };
/** Of what was handed over the last few are shown; the rest is under Cards. */
const HANDED_OVER = { find: "", closed: true, limit: 8 };
const ROW_PX = 88;

/** Today: every open card with the station it has reached, its one figure, and what to do next. */
export function OverviewPage() {
  const open = useLines(OPEN);
  const closed = useLines(HANDED_OVER);
  const { day, isLoading: isDayLoading } = useDay();
  const stores = api.useStoresQuery();
  const due = api.useDueQuery();
  // All at once: what came later would push away what somebody is about to tap.
  const isLoading = open.isLoading || isDayLoading || stores.isLoading || due.isLoading;
  const list = useRef<HTMLHeadingElement>(null);
  useKeys((key) => {
    if (key !== "a") return;
    list.current?.scrollIntoView();
    list.current?.focus({ preventScroll: true });
  });
  useClockTitle(open.lines.flatMap(({ clocks }) => clocks));
  return (
    <Page
      title="Bench"
      lead={open.known ? `${open.total} ${open.total === 1 ? "card" : "cards"} in work` : "\u00a0"}
      action={
        <div className="flex flex-wrap gap-2">
          <LinkButton to="/compare">Compare two logs</LinkButton>
          <LinkButton to="/take-in" look="main">
            <Plus aria-hidden className="size-5" />
            Take in a card
          </LinkButton>
        </div>
      }
    >
      <FaultNote error={open.error} />
      {isLoading ? (
        <Waiting what="the bench" />
      ) : (
        <>
          {day && open.total > 0 && <NowPanel day={day} />}
          <TestBenchStrip />
          {open.known && open.total === 0 && <NoCardYet />}
          {day && open.total > 0 && <DayPart day={day} />}
          <LowStock />
          <Due />
          {open.total > 0 && (
            <h2 ref={list} tabIndex={-1} className="mt-8 mb-2 scroll-mt-4 text-lg font-semibold outline-none">
              All cards in work
            </h2>
          )}
          <LineList label="Cards in work" lines={open.lines} total={open.total} reach={open.reach} />
          {closed.lines.length > 0 && <HandedOver lines={closed.lines} total={closed.total} />}
        </>
      )}
    </Page>
  );
}

function HandedOver({ lines, total }: Pick<LineListProps, "lines" | "total">) {
  return (
    <>
      <h2 className="mt-8 mb-2 text-lg font-semibold">Handed over</h2>
      <LineList
        label="Handed over lately"
        lines={lines.slice(0, HANDED_OVER.limit)}
        total={total}
        reach={() => undefined}
      />
      {total > HANDED_OVER.limit && (
        <Link to="/cards" className="mt-2 inline-block min-h-11 content-center font-medium text-ice hover:underline">
          All {total} under Cards
        </Link>
      )}
    </>
  );
}

interface LineListProps {
  label: string;
  lines: readonly ServiceLine[];
  total: number;
  reach: (index: number) => void;
}

function LineList({ label, lines, total, reach }: LineListProps) {
  const { list, drawn, measure, before, after } = useRows<HTMLUListElement>(lines.length, ROW_PX, reach);
  const { data: running = [] } = api.useRunningLiveQuery();
  return (
    <ul ref={list} aria-label={label} style={{ paddingTop: before, paddingBottom: after }}>
      {drawn.map(({ index }) => {
        const line = lines[index];
        return (
          line && (
            <li
              key={line.serviceId}
              ref={measure}
              data-index={index}
              aria-setsize={total}
              aria-posinset={index + 1}
              className="pb-2"
            >
              <LineRow line={line} isRunning={running.some((live) => live.cardId === line.cardId)} />
            </li>
          )
        );
      })}
    </ul>
  );
}

/** What runs on the test benches, and whose hands are needed. */
function TestBenchStrip() {
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
    <p className="mt-4 rounded-xl border border-line bg-amber-wash px-4 py-2">
      <span className="font-semibold">Low: </span>
      {low.map((one) => `${one.name} (${one.left} ${plural(one.left, one.unit)})`).join(", ")}{" "}
      <Link to="/stores" className="font-medium text-ice hover:underline">
        Go to the stores
      </Link>
    </p>
  );
}

function LineRow({ line, isRunning }: { line: ServiceLine; isRunning: boolean }) {
  return (
    <Link
      to={`/cards/${line.cardId}/${stationOf(line.station).path}`}
      className="grid grid-cols-1 items-center gap-x-4 gap-y-1 rounded-xl border border-line bg-sheet px-4 py-3 hover:border-ice sm:grid-cols-[minmax(0,1.2fr)_7rem_minmax(0,1.3fr)_7.5rem]"
    >
      <span className="min-w-0">
        <span className="block truncate font-semibold">
          {line.maker} {line.model}
        </span>
        <span className="block truncate text-sm text-soft">
          {line.serial || "no serial"} · {line.holder === "stock" ? "stock" : line.ownerName || "owner unknown"}
        </span>
      </span>
      <span className="text-sm">
        <span className="inline-block rounded-md border border-edge px-2 py-0.5 font-medium">
          {line.closed ? "Handed over" : line.stationTitle}
        </span>
        {isRunning && <span className="mt-1 block font-semibold text-ice">running now</span>}
      </span>
      <span className="min-w-0">
        <span
          className={`block text-lg font-bold break-words ${line.verdict === "worse" ? "text-danger" : line.verdict === "not-comparable" ? "text-amber" : ""}`}
        >
          {line.figure || <span className="text-base font-medium text-soft">no run yet</span>}
        </span>
        {!line.closed && <span className="block text-sm font-medium text-ice">{line.next}</span>}
        {line.clocks.map((clock) => (
          <ClockLine key={clock.id} clock={clock} />
        ))}
      </span>
      <span className="hidden justify-end sm:flex">
        {line.ladder.length > 0 && (
          <RiseLadder
            compact
            columns={line.ladder}
            label={`Rises of ${line.maker} ${line.model}, before hollow, after solid`}
          />
        )}
      </span>
    </Link>
  );
}

function NoCardYet() {
  return (
    <div className="rounded-xl border border-dashed border-edge p-8 text-center">
      <p className="text-lg font-semibold">No card on the bench</p>
      <p className="mx-auto mt-1 mb-4 max-w-prose text-soft">
        Take a card in, run a load on it and drop the log: you will see how warm it runs over room air, and after the
        work whether it helped. Sample logs are there to try.
      </p>
      <div className="flex flex-wrap justify-center gap-2">
        <LinkButton to="/take-in" look="main">
          Take in the first card
        </LinkButton>
        <LinkButton to="/compare">Compare two logs first</LinkButton>
      </div>
    </div>
  );
}
