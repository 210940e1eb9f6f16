import { useState } from "react";
import { Link } from "react-router";
import { type BenchInput, DRIVERS, EMPTY_BENCH, type LiveRun, type TestBench } from "#contract";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { figure, span } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";

/** The test benches: what each is connected to, what runs on it. */
export function TestBenchPage() {
  const { data: benches, error } = api.useTestBenchesQuery();
  const { data: running = [] } = api.useRunningLiveQuery(undefined, { pollingInterval: 3000 });
  const [adding, setAdding] = useState(false);
  const [made, setMade] = useState<TestBench | null>(null);
  return (
    <Page
      title="Test bench"
      lead="Where cards are loaded and logged. Start a protocol from a card’s Baseline or Prove station."
      action={
        <Button look="main" onClick={() => setAdding(true)}>
          Add a bench
        </Button>
      }
    >
      <div className="space-y-4">
        <FaultNote error={error} />
        {!benches && !error && <Waiting what="the benches" />}
        {made?.token && <Token bench={made} />}
        {(adding || benches?.length === 0) && (
          <AddBench
            onDone={(bench) => {
              setAdding(false);
              setMade(bench);
            }}
          />
        )}
        <ul className="space-y-2">
          {benches?.map((bench) => (
            <BenchLine key={bench.id} bench={bench} live={running.find((one) => one.benchId === bench.id)} />
          ))}
        </ul>
      </div>
    </Page>
  );
}

function BenchLine({ bench, live }: { bench: TestBench; live: LiveRun | undefined }) {
  const [remove, { error }] = api.useRemoveTestBenchMutation();
  const driver = DRIVERS.find((one) => one.id === bench.driver);
  return (
    <li className="rounded-xl border border-line bg-sheet p-4">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <div className="min-w-0">
          <p className="text-lg font-semibold">{bench.name}</p>
          <p className="text-sm text-soft">
            {driver?.label}
            {bench.driver === "simulated" && ` · hidden card ${bench.seed} · ${bench.speed} times real speed`}
            {bench.path && ` · ${bench.path}`} · a sample each {figure(bench.intervalS, bench.intervalS < 1 ? 1 : 0)} s
          </p>
          {bench.driver === "push" && <p className="text-sm text-soft">Bench number {bench.id}</p>}
        </div>
        {live ? (
          <div className="flex flex-wrap items-center gap-3">
            <p className="text-sm">
              <Link to={`/cards/${live.cardId}`} className="font-semibold hover:underline">
                {live.cardName}
              </Link>
              : {live.protocol.name}, {span(live.elapsedS)} min
            </p>
            <LinkButton to={`/live/${live.id}`} look="main">
              Watch it
            </LinkButton>
          </div>
        ) : (
          <div className="flex items-center gap-2">
            <span className="text-soft">Free</span>
            <Button
              look="quiet"
              onClick={() =>
                void withUndo(`${bench.name} removed`, (removed) => remove({ benchId: bench.id, body: { removed } }))
              }
            >
              Remove
            </Button>
          </div>
        )}
      </div>
      <FaultNote error={error} />
    </li>
  );
}

/** Address and token are shown once. */
function Token({ bench }: { bench: TestBench }) {
  const address = new URL(`/api/benches/${bench.id}/samples`, location.href).href;
  return (
    <Note title="Copy these now: the token is not shown again">
      <dl className="mt-1 space-y-1 break-all">
        <dt className="font-medium">Address</dt>
        <dd>
          <code>{address}</code>
        </dd>
        <dt className="font-medium">Token</dt>
        <dd>
          <code>{bench.token}</code>
        </dd>
      </dl>
      <p className="mt-1">docs/push.md has an example script.</p>
    </Note>
  );
}

function AddBench({ onDone }: { onDone: (bench: TestBench) => void }) {
  const [add, { error, isLoading }] = api.useAddTestBenchMutation();
  const [input, setInput] = useState<BenchInput>({ ...EMPTY_BENCH, name: "" });
  const [texts, setTexts] = useState({ interval: "1", seed: "1", speed: "60", path: "" });
  const fault = faultOf(error);
  const driver = DRIVERS.find((one) => one.id === input.driver);
  const save = async (): Promise<void> => {
    const answer = await add({
      ...input,
      path: texts.path,
      intervalS: numberOrNull(texts.interval) ?? Number.NaN,
      seed: numberOrNull(texts.seed) ?? Number.NaN,
      speed: numberOrNull(texts.speed) ?? Number.NaN,
    });
    if ("data" in answer && answer.data) onDone(answer.data);
  };
  return (
    <Sheet title="A new bench">
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <Choice
          label="Connected by"
          value={input.driver}
          options={DRIVERS.map((one) => ({ value: one.id, label: one.label }))}
          onChange={(chosen) => setInput({ ...input, driver: chosen })}
        />
        <p className="text-sm text-soft">{driver?.about}</p>
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField
            label="Name"
            value={input.name}
            error={fault?.errors.name}
            onChange={(event) => setInput({ ...input, name: event.target.value })}
          />
          <TextField
            label="Seconds between samples"
            inputMode="decimal"
            value={texts.interval}
            error={fault?.errors.intervalS}
            hint="0.1 to 10 s"
            onChange={(event) => setTexts({ ...texts, interval: event.target.value })}
          />
          {driver?.asks.map(({ field, label, hint }) => (
            <TextField
              key={field}
              label={label}
              inputMode={field === "path" ? "text" : "numeric"}
              value={texts[field]}
              error={fault?.errors[field]}
              hint={hint}
              onChange={(event) => setTexts({ ...texts, [field]: event.target.value })}
            />
          ))}
        </div>
        {fault && Object.keys(fault.errors).length === 0 && <FaultNote fault={fault} />}
        <div className="flex justify-end">
          <Button look="main" type="submit" disabled={isLoading}>
            Add it
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
