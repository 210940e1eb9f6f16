import { Fragment } from "react";
import { USUAL_LIMITS, USUAL_SETTINGS } from "#contract";
import { comparePairs } from "#core/service/index.ts";
import { typedAnalysis } from "#core/soak/index.ts";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { useAppDispatch, useAppSelector } from "../../app/store.ts";
import { useElsewhere } from "../../app/use-elsewhere.ts";
import { ComparisonSheet } from "../../parts/run/comparison.tsx";
import { readTyped, TYPED_FIELDS, type TypedTexts, textsOf } from "../../parts/run/typed-figures.tsx";
import { Button } from "../../ui/button.tsx";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { Sheet } from "../../ui/page.tsx";
import { asRun, inputOf } from "./as-run.ts";
import { KeepAsCard } from "./keep-as-card.tsx";

const SIDES = ["before", "after"] as const;
type Side = (typeof SIDES)[number];

interface Draft {
  texts: Record<Side, TypedTexts>;
  rooms: Record<Side, string>;
}
const NOTHING_TYPED: Draft = {
  texts: { before: textsOf(null), after: textsOf(null) },
  rooms: { before: "", after: "" },
};
/** What was typed outlives the page; it goes once it is kept as a card. */
export const TYPED_BOTH = "typed both";

/** Both runs typed from paper, side by side: the verdict follows what is typed. */
export function TypeBoth({ onClose }: { onClose: () => void }) {
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => state.drafts[TYPED_BOTH]) as Draft | undefined;
  const { texts, rooms } = draft ?? NOTHING_TYPED;
  const keep = (more: Partial<Draft>): void =>
    void dispatch(keepDraft({ form: TYPED_BOTH, value: { texts, rooms, ...more } satisfies Draft }));
  useElsewhere(TYPED_BOTH, (value) => void dispatch(keepDraft({ form: TYPED_BOTH, value })));
  const { data: settings = USUAL_SETTINGS } = api.useSettingsQuery();
  const read = { before: readTyped(texts.before), after: readTyped(texts.after) };
  const roomsC = { before: numberOrNull(rooms.before), after: numberOrNull(rooms.after) };
  const runOf = (side: Side) => {
    const { [side]: one } = read;
    const ambientC = roomsC[side];
    if (!("typed" in one) || ambientC === null || Number.isNaN(ambientC)) return null;
    return asRun(side, { typed: one.typed, ambientC, analysis: typedAnalysis(one.typed, { ambientC }) });
  };
  const runs = { before: runOf("before"), after: runOf("after") };
  const pair =
    runs.before && runs.after
      ? comparePairs([runs.before, runs.after], { ...settings, limits: USUAL_LIMITS, complaint: "" })[0]
      : undefined;
  const errorOf = (side: Side, key: keyof TypedTexts): string | undefined => {
    const { [side]: one } = read;
    // One temperature is enough; which is not asked before something stands there.
    return "errors" in one && texts[side][key].trim() !== "" ? one.errors[key] : undefined;
  };
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[24rem_minmax(0,1fr)]">
      <Sheet title="Figures from paper" action={<Button onClick={onClose}>Drop logs instead</Button>}>
        <p className="mb-3 text-sm text-soft">
          What the display showed at the end of each run. One temperature and the room air of both are enough; power and
          fan make the answer narrower.
        </p>
        <div className="grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_minmax(0,1fr)] items-center gap-2">
          <span />
          <span className="text-sm font-medium text-soft">Before</span>
          <span className="text-sm font-medium text-soft">After</span>
          <span className="font-medium">Room air (°C)</span>
          {SIDES.map((side) => (
            <TextField
              key={side}
              hideLabel
              label={`Room air ${side} (°C)`}
              inputMode="decimal"
              value={rooms[side]}
              onChange={(event) => keep({ rooms: { ...rooms, [side]: event.target.value } })}
            />
          ))}
          {TYPED_FIELDS.map(({ key, label }) => (
            <Fragment key={key}>
              <span className="font-medium">{label}</span>
              {SIDES.map((side) => (
                <TextField
                  key={side}
                  hideLabel
                  label={label.replace(/( \()|$/, ` ${side}$1`)}
                  inputMode="decimal"
                  value={texts[side][key]}
                  onChange={(event) =>
                    keep({ texts: { ...texts, [side]: { ...texts[side], [key]: event.target.value } } })
                  }
                  error={errorOf(side, key)}
                />
              ))}
            </Fragment>
          ))}
        </div>
      </Sheet>
      {pair && runs.before && runs.after && (
        <div className="space-y-4">
          <ComparisonSheet pair={pair} before={runs.before} after={runs.after} limits={USUAL_LIMITS} isKept={false} />
          <KeepAsCard
            before={{ run: inputOf(runs.before) }}
            after={{ run: inputOf(runs.after) }}
            onKept={() => void dispatch(dropDraft(TYPED_BOTH))}
          />
        </div>
      )}
      {!pair && (
        <p className="self-center text-soft max-lg:hidden">
          The verdict stands here as soon as both sides have a temperature and their room air.
        </p>
      )}
    </div>
  );
}
