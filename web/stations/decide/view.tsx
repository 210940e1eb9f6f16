import { useState } from "react";
import { Link } from "react-router";
import { toast } from "sonner";
import { type Advised, CHOICES, type ChoiceId } from "#contract";
import { bringing, OFFERED } from "#core/quote/index.ts";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { OtherCoolerNote } from "../../parts/cooler/other-cooler-note.tsx";
import { Causes } from "../../parts/run/causes.tsx";
import { NextLink } from "../../parts/service/next-link.tsx";
import { Skip } from "../../parts/service/skip.tsx";
import { Button, LinkButton } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { TextField } from "../../ui/field.tsx";
import { figure, roleName, widthOf } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet, Waiting } from "../../ui/page.tsx";
import type { StationProps } from "../station.ts";

const labelOf = (id: ChoiceId): string => CHOICES.find((choice) => choice.id === id)?.label ?? id;

/** Open it or leave it? The recommendation with its reasons, each with its figure; overruled with a reason. */
export function DecideStation({ cardId, service }: StationProps) {
  const { data, error } = api.useAdviceQuery(service.id);
  const { data: settings } = api.useSettingsQuery();
  if (!data) return error ? <FaultNote error={error} /> : <Waiting what="what speaks for and against" />;
  const { advice } = data;
  if (!advice)
    return (
      <div className="space-y-4">
        <Note title="Nothing to decide on yet">
          A baseline run comes first: without it neither a cause nor a gain can be told.
        </Note>
        <LinkButton to={`/cards/${cardId}/baseline`} look="main">
          To the baseline
        </LinkButton>
        <Skip service={service} station="decide" />
      </div>
    );
  return (
    <div className="space-y-4">
      {data.decision && (
        <div className="flex flex-wrap items-center justify-between gap-3">
          <p className="text-lg">
            Decided: <span className="font-semibold">{labelOf(data.decision.choice)}</span>
            {data.decision.reason && <span className="text-soft"> · {data.decision.reason}</span>}
          </p>
          <NextLink cardId={cardId} service={service} from="decide" />
        </div>
      )}
      <p>
        <Link to={`/cards/${cardId}/quote`} className="font-semibold text-ice hover:underline">
          Quote: options side by side, with what they cost
        </Link>
      </p>
      <OtherCoolerNote serviceId={service.id} cardId={cardId} wanted={data.decision?.choice === "cooler"} />
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="space-y-4">
          <Recommendation key={service.id} data={data} serviceId={service.id} currency={settings?.currency ?? ""} />
          <Rises data={data} />
        </div>
        <Sheet title="Likely causes">
          <Causes {...data} />
        </Sheet>
      </div>
    </div>
  );
}

function Recommendation({ data, serviceId, currency }: { data: Advised; serviceId: string; currency: string }) {
  const advice = data.advice;
  const [choice, setChoice] = useState<ChoiceId>(data.decision?.choice ?? advice?.recommended ?? "leave");
  const [reason, setReason] = useState(data.decision?.reason ?? "");
  const [decide, { error, isLoading }] = api.useDecideMutation();
  const fault = faultOf(error);
  if (!advice) return null;
  const effort = advice.efforts[choice];
  // What the quote says of the same work.
  const offered = OFFERED.find((one) => one === choice);
  const brings = offered && choice !== "leave" ? bringing(offered, data.findings, advice.expected) : null;
  const overruled = choice !== advice.recommended;
  const save = async (): Promise<void> => {
    const answer = await decide({ serviceId, body: { choice, recommended: advice.recommended, reason } });
    if (!("error" in answer)) toast("Decided");
  };
  return (
    <Sheet>
      <p className="text-sm text-soft">Recommended</p>
      <h2 className="text-3xl font-bold">{labelOf(advice.recommended)}</h2>
      <dl className="mt-3 grid gap-3 sm:grid-cols-3">
        <Fact
          label="Expected gain"
          value={
            brings === null || brings.gainK < 0.5
              ? "none to speak of"
              : `${figure(brings.gainK)} ± ${widthOf(brings.u95K)} K`
          }
        >
          {brings !== null &&
            `“${labelOf(choice)}” mends what is wrong in ${figure(100 * brings.mends, 0)} of 100 such cases. `}
          {advice.expected.words}
        </Fact>
        <Fact label="Hands and material" value={`${effort.minutes} min · ${figure(effort.material, 0)} ${currency}`}>
          For “{labelOf(choice).toLowerCase()}”; a rough figure of the trade.
        </Fact>
        <Fact label="Risk" value={effort.risk}>
          {effort.riskWords}
        </Fact>
      </dl>
      <h3 className="mt-4 font-semibold">Why</h3>
      <ul className="mt-1 divide-y divide-line">
        {advice.reasons.map((one) => (
          <li key={one.rule} className="grid gap-x-4 py-2 sm:grid-cols-[minmax(0,1fr)_9rem]">
            <span>
              {one.decides && (
                <span className="mr-2 rounded bg-frost px-1.5 text-sm font-semibold text-ice">decides</span>
              )}{" "}
              {one.text}
              <span className="block text-sm text-soft">
                speaks for: {labelOf(one.speaksFor).toLowerCase()} · source: {one.source}
              </span>
            </span>
            <span className="font-semibold sm:text-right">{one.figure}</span>
          </li>
        ))}
      </ul>
      <form
        className="mt-4 space-y-3 border-t border-line pt-4"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <Choice
          label="Your decision"
          value={choice}
          options={CHOICES.map((one) => ({ value: one.id, label: one.label }))}
          onChange={setChoice}
        />
        {overruled && (
          <TextField
            label="Why not as recommended"
            value={reason}
            error={fault?.errors.reason}
            onChange={(event) => setReason(event.target.value)}
          />
        )}
        {fault && !fault.errors.reason && <FaultNote fault={fault} />}
        <Button look="main" type="submit" disabled={isLoading || (overruled && reason.trim().length < 3)}>
          {overruled ? "Decide against the recommendation" : "Decide so"}
        </Button>
      </form>
    </Sheet>
  );
}

function Fact({ label, value, children }: { label: string; value: string; children: React.ReactNode }) {
  return (
    <div>
      <dt className="text-sm text-soft">{label}</dt>
      <dd>
        <span className="text-xl font-bold first-letter:uppercase">{value}</span>
        <span className="block text-sm text-soft">{children}</span>
      </dd>
    </div>
  );
}

/** This card against its board model in this shop, and against its limits. */
function Rises({ data }: { data: Advised }) {
  return (
    <Sheet title="Against its model and its limits">
      <div className="relative overflow-x-auto">
        <table className="w-full text-left">
          <caption className="sr-only">Settled temperatures, rises and limits</caption>
          <thead className="text-sm text-soft">
            <tr>
              <th className="py-1 font-medium">Sensor</th>
              <th className="text-right font-medium">Settles °C</th>
              <th className="text-right font-medium">Rise K</th>
              <th className="text-right font-medium">Limit °C</th>
            </tr>
          </thead>
          <tbody>
            {data.roles.map((one) => {
              const over = one.limitC !== null && one.valueC > one.limitC;
              return (
                <tr key={one.role} className="border-t border-line">
                  <th scope="row" className="py-1.5 font-semibold">
                    {roleName(one.role)}
                  </th>
                  <td className={`text-right ${over ? "font-bold text-amber" : ""}`}>
                    {figure(one.valueC)}
                    {over ? " over" : ""}
                  </td>
                  <td className="text-right">
                    {figure(one.riseK)}{" "}
                    {one.riseU95K !== null && <span className="text-sm text-soft">± {figure(one.riseU95K)}</span>}
                  </td>
                  <td className="text-right">{figure(one.limitC, 0)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <p className="mt-2 text-sm text-soft">
        {data.model
          ? `Edge of this board model in this shop, at these conditions: ${figure(data.model.meanK)} ± ${figure(2 * data.model.sdK)} K over room air; it rests on ${data.model.cards} ${data.model.cards === 1 ? "card" : "cards"}.`
          : "No other card of this board model has been serviced here yet: its usual range is not known."}
      </p>
    </Sheet>
  );
}
