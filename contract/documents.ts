import * as v from "valibot";
import type { Analysis, Symptoms } from "#core";
import { LEVEL_ROLES, TEMPERATURE_ROLES } from "#core/runfile/index.ts";

/** Shapes of what the computation made and the database keeps, for what comes from another machine. */

const figure = v.number();
const maybe = v.nullable(figure);
const text = v.pipe(v.string(), v.maxLength(10_000));
const short = v.pipe(v.string(), v.maxLength(400));
const many = <S extends v.GenericSchema>(schema: S) => v.pipe(v.array(schema), v.maxLength(100_000));

const temperature = {
  meanC: maybe,
  u95K: maybe,
  maxC: maybe,
  riseK: maybe,
  riseU95K: maybe,
  thetaKPerW: maybe,
  finalC: maybe,
  finalU95K: maybe,
  budget: v.nullable(v.object({ samples: figure, sd: figure, effective: figure, scatter: figure, resolution: figure })),
  timeConstantsS: many(figure),
};
const TemperatureFigures = v.object(temperature);
const LevelFigures = v.object({ mean: maybe, u95: maybe });
const stretch = { fromS: figure, toS: figure };
const roles = Object.fromEntries([
  ...TEMPERATURE_ROLES.map((role) => [role, v.optional(TemperatureFigures)] as const),
  ...LEVEL_ROLES.map((role) => [role, v.optional(LevelFigures)] as const),
]);

export const AnalysisFile: v.GenericSchema<unknown, Analysis> = v.object({
  typed: v.optional(v.literal(true)),
  samples: figure,
  durationS: figure,
  intervalS: figure,
  columns: many(
    v.object({ header: text, role: v.nullable(short), unit: v.nullable(short), sure: v.boolean(), mean: maybe }),
  ),
  cards: v.optional(
    many(v.object({ index: figure, name: text, headers: many(text), meanPowerW: maybe, chosen: v.boolean() })),
  ),
  phases: many(v.object({ kind: v.picklist(["idle", "warmup", "steady", "cooldown"]), ...stretch })),
  ambient: v.nullable(v.object({ valueC: figure, u95K: figure, source: v.picklist(["column", "option"]) })),
  steady: v.object({ reached: v.boolean(), fromS: maybe, toS: maybe, minutesNeeded: maybe, byHand: v.boolean() }),
  roles: v.object(roles),
  probes: many(v.object({ header: text, ...temperature })),
  hotspotGapK: v.nullable(v.object({ mean: figure, u95: figure })),
  throttling: v.object({ detected: v.boolean(), shareOfLoad: figure, kinds: many(short) }),
  spikes: figure,
  notices: many(v.object({ code: short, text })),
  fingerprint: v.optional(short),
  version: figure,
});

/** What the log could not give is left out, or null. */
const given = <S extends v.GenericSchema>(schema: S) =>
  v.pipe(
    v.optional(v.nullable(schema), null),
    v.transform((value) => value ?? undefined),
  );
const measured = given(v.object({ value: figure, sd: figure }));

export const SymptomsFile: v.GenericSchema<unknown, Symptoms> = v.object({
  powerW: given(figure),
  fanRpm: given(figure),
  fanPct: given(figure),
  fastK: measured,
  step: given(v.object({ kPerW: figure, sd: figure, seenK: figure, withinS: figure })),
  slowK: measured,
  edgeRiseK: given(figure),
  gapK: measured,
  memoryK: measured,
  vrmK: measured,
  guessed: given(many(v.picklist(["memory", "vrm"]))),
  twinLn: measured,
  fansRpm: many(figure),
  rpmPerPctLn: measured,
  roomC: measured,
  throttled: v.boolean(),
  stepK: figure,
  intervalS: figure,
});
