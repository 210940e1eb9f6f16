import * as v from "valibot";
import { CAUSES } from "#core/diagnose/index.ts";
import { CARD_SENSORS, LEVEL_ROLES, ROLES, TEMPERATURE_ROLES } from "#core/runfile/index.ts";
import { VERDICTS } from "./choices.ts";

export const Clock = v.object({
  id: v.string(),
  what: v.string(),
  fromMs: v.number(),
  untilMs: v.nullable(v.number()),
});
export const LadderRung = v.object({
  role: v.string(),
  beforeK: v.nullable(v.number()),
  afterK: v.nullable(v.number()),
  u95K: v.nullable(v.number()),
});
const RunStart = v.object({
  epochS: v.number(),
  clock: v.picklist(["utc", "wall"]),
  dayOnly: v.boolean(),
});
const CardInLog = v.object({
  index: v.number(),
  name: v.string(),
  headers: v.array(v.string()),
  meanPowerW: v.nullable(v.number()),
  chosen: v.boolean(),
});
const Stretch = v.object({
  fromS: v.number(),
  toS: v.number(),
});
const LoadInLog = v.object({
  ...Stretch.entries,
  index: v.number(),
  meanPowerW: v.nullable(v.number()),
  steady: v.boolean(),
  chosen: v.boolean(),
});
const PhaseStretch = v.object({
  ...Stretch.entries,
  kind: v.picklist(["idle", "warmup", "steady", "cooldown"]),
});
const TemperatureFigures = v.object({
  meanC: v.nullable(v.number()),
  u95K: v.nullable(v.number()),
  maxC: v.nullable(v.number()),
  riseK: v.nullable(v.number()),
  riseU95K: v.nullable(v.number()),
  thetaKPerW: v.nullable(v.number()),
  finalC: v.nullable(v.number()),
  finalU95K: v.nullable(v.number()),
  budget: v.nullable(
    v.object({
      samples: v.number(),
      sd: v.number(),
      effective: v.number(),
      scatter: v.number(),
      resolution: v.number(),
    }),
  ),
  timeConstantsS: v.array(v.number()),
});
const LevelFigures = v.object({
  mean: v.nullable(v.number()),
  u95: v.nullable(v.number()),
});
const RoleFigures = v.object({
  ...v.entriesFromList(TEMPERATURE_ROLES, v.exactOptional(TemperatureFigures)),
  ...v.entriesFromList(LEVEL_ROLES, v.exactOptional(LevelFigures)),
});
const Throttling = v.object({
  detected: v.boolean(),
  shareOfLoad: v.number(),
  kinds: v.array(v.string()),
});
const FanDrive = v.object({
  mode: v.picklist(["fixed", "automatic"]),
  pct: v.nullable(v.number()),
});
const Notice = v.object({
  code: v.string(),
  text: v.string(),
});
export const Analysis = v.object({
  typed: v.optional(v.literal(true)),
  samples: v.number(),
  durationS: v.number(),
  start: v.optional(v.nullable(RunStart)),
  intervalS: v.number(),
  columns: v.array(
    v.object({
      header: v.string(),
      role: v.nullable(v.string()),
      unit: v.nullable(v.string()),
      sure: v.boolean(),
      mean: v.nullable(v.number()),
    }),
  ),
  cards: v.optional(v.array(CardInLog)),
  loads: v.optional(v.array(LoadInLog)),
  phases: v.array(PhaseStretch),
  ambient: v.nullable(
    v.object({
      valueC: v.number(),
      u95K: v.number(),
      source: v.picklist(["column", "option"]),
    }),
  ),
  steady: v.object({
    reached: v.boolean(),
    fromS: v.nullable(v.number()),
    toS: v.nullable(v.number()),
    minutesNeeded: v.nullable(v.number()),
    byHand: v.boolean(),
  }),
  roles: RoleFigures,
  probes: v.array(v.object({ header: v.string(), ...TemperatureFigures.entries })),
  hotspotGapK: v.nullable(
    v.object({
      mean: v.number(),
      u95: v.number(),
    }),
  ),
  throttling: Throttling,
  fanDrive: v.optional(v.nullable(FanDrive)),
  spikes: v.number(),
  notices: v.array(Notice),
  fingerprint: v.optional(v.string()),
  version: v.number(),
});
const TuningDifference = v.object({
  what: v.picklist(["coreOffsetMHz", "memoryOffsetMHz", "undervoltMv", "frameCapFps", "powerLimitPct"]),
  before: v.nullable(v.number()),
  after: v.nullable(v.number()),
  means: v.string(),
});
const Change = v.object({
  before: v.number(),
  after: v.number(),
  change: v.number(),
  u95: v.number(),
});
const Gains = v.object({
  coreClockMHz: v.nullable(Change),
  frameRateFps: v.nullable(Change),
  score: v.nullable(Change),
  coreRoomMHz: v.nullable(
    v.object({
      before: v.number(),
      after: v.number(),
      change: v.number(),
    }),
  ),
  memoryRoomMHz: v.nullable(
    v.object({
      before: v.number(),
      after: v.number(),
      change: v.number(),
    }),
  ),
});
const handled = v.picklist(["same", "corrected", "not-correctable"]);
const Difference = v.variant("what", [
  v.object({
    what: v.picklist(["ambient", "power", "load", "fan", "clocks", "duration", "sampling"]),
    before: v.nullable(v.number()),
    after: v.nullable(v.number()),
    handled,
  }),
  v.object({ what: v.picklist(["case", "loadName"]), before: v.string(), after: v.string(), handled }),
]);
const RoleComparison = v.object({
  beforeRiseK: v.number(),
  afterRiseK: v.number(),
  changeK: v.number(),
  u95K: v.number(),
  verdict: v.picklist(["cooler", "no-real-change", "hotter"]),
});
const EqualComparison = v.object({
  changeK: v.number(),
  u95K: v.number(),
  verdict: v.nullable(v.picklist(["cooler", "no-real-change", "hotter"])),
  correctionK: v.object({
    power: v.number(),
    fan: v.number(),
  }),
  budget: v.object({
    readings: v.number(),
    scatter: v.number(),
    power: v.number(),
    fan: v.number(),
    air: v.number(),
  }),
});
const Claim = v.object({
  role: v.picklist(TEMPERATURE_ROLES),
  changeK: v.number(),
  u95K: v.number(),
});
const Doubt = v.object({
  code: v.picklist(["power", "clocks", "sensors"]),
  before: v.number(),
  after: v.number(),
});
const Cooling = v.object({
  share: v.number(),
  shareSd: v.number(),
  exponent: v.number(),
  exponentSd: v.number(),
  source: v.picklist(["usual", "own runs"]),
});
const Comparison = v.object({
  comparable: v.boolean(),
  air: v.picklist(["room", "intake"]),
  reason: v.nullable(v.string()),
  differences: v.array(Difference),
  roles: v.object(v.entriesFromList(TEMPERATURE_ROLES, v.exactOptional(RoleComparison))),
  atEqualConditions: v.nullable(
    v.object({
      powerW: v.nullable(v.number()),
      fanRpm: v.nullable(v.number()),
      ambientC: v.number(),
      roles: v.object(v.entriesFromList(TEMPERATURE_ROLES, v.exactOptional(EqualComparison))),
    }),
  ),
  hotspotGap: v.nullable(
    v.object({
      beforeK: v.number(),
      afterK: v.number(),
      changeK: v.number(),
      u95K: v.number(),
      verdict: v.picklist(["no-real-change", "smaller", "larger"]),
    }),
  ),
  verdict: v.picklist(VERDICTS),
  worst: v.nullable(Claim),
  best: v.nullable(Claim),
  sameRun: v.boolean(),
  doubts: v.array(Doubt),
  detectableK: v.nullable(v.number()),
  worth: v.nullable(
    v.object({
      fanRpm: v.number(),
      changeRpm: v.number(),
      soundDb: v.number(),
      lowRpm: v.nullable(v.number()),
      highRpm: v.nullable(v.number()),
    }),
  ),
  scatter: v.object({
    mountK: v.number(),
    runK: v.number(),
  }),
  cooling: Cooling,
  version: v.number(),
});
const SensorOutcome = v.object({
  role: v.picklist(CARD_SENSORS),
  changeK: v.number(),
  u95K: v.number(),
  jointU95K: v.number(),
  verdict: v.picklist(["cooler", "no-real-change", "hotter"]),
  known: v.boolean(),
  beforeC: v.number(),
  afterC: v.number(),
  limitC: v.nullable(v.number()),
  overLimit: v.boolean(),
});
const Outcome = v.object({
  verdict: v.picklist(["better", "no-real-change", "worse", "not-comparable", "mixed", "over-limit"]),
  sensors: v.array(SensorOutcome),
  gap: v.nullable(
    v.object({
      changeK: v.number(),
      u95K: v.number(),
      jointU95K: v.number(),
      verdict: v.picklist(["no-real-change", "smaller", "larger"]),
    }),
  ),
  fanSlowerPct: v.nullable(v.number()),
  warmestRoomC: v.number(),
  known: v.boolean(),
  minutesNeeded: v.nullable(v.number()),
  short: v.nullable(v.picklist(["before", "after", "both"])),
  tells: v.array(v.picklist(["edge", "hotspot", "memory", "vrm", "gap", "fan"])),
});
export const PairFacts = v.object({
  beforeId: v.string(),
  afterId: v.string(),
  beforeIds: v.array(v.string()),
  afterIds: v.array(v.string()),
  tuning: v.array(TuningDifference),
  gains: Gains,
  comparison: Comparison,
  outcome: Outcome,
});
export const Finding = v.object({
  cause: v.picklist(CAUSES),
  probability: v.number(),
  evidence: v.array(v.string()),
  nextCheck: v.string(),
});
export const BenchChannel = v.object({
  header: v.string(),
  role: v.nullable(v.picklist(ROLES)),
  unit: v.nullable(v.string()),
});
const FanSetting = v.union([v.literal("automatic"), v.number()]);
const Setting = v.object({
  load: v.number(),
  fan: FanSetting,
  powerPct: v.number(),
});
const Outlook = v.object({
  settles: v.record(
    v.string(),
    v.optional(
      v.object({
        finalC: v.number(),
        u95K: v.number(),
      }),
    ),
  ),
  dieU95K: v.nullable(v.number()),
  known: v.boolean(),
  minutesLeft: v.nullable(v.number()),
  ambientC: v.nullable(v.number()),
});
export const RunnerState = v.object({
  step: v.number(),
  phase: v.picklist(["load", "done", "idle", "stopped", "matching", "rest", "cool"]),
  setting: Setting,
  segment: v.number(),
  label: v.string(),
  minutesLeft: v.number(),
  outlook: v.nullable(Outlook),
  reason: v.nullable(v.string()),
  cycle: v.number(),
  hands: v.nullable(v.string()),
});
export const ProblemDetail = v.object({
  code: v.string(),
  what: v.string(),
  where: v.optional(v.string()),
  remedy: v.string(),
});
export const CoolerNow = v.object({
  runName: v.string(),
  powerW: v.nullable(v.number()),
  fanRpm: v.nullable(v.number()),
  dba: v.nullable(v.number()),
  edgeK: v.nullable(v.number()),
  edgeU95K: v.nullable(v.number()),
  memoryK: v.nullable(v.number()),
  vrmK: v.nullable(v.number()),
});
export const CoolerPoint = v.object({
  fanRpm: v.number(),
  kPerW: v.number(),
  dba: v.nullable(v.number()),
  runs: v.number(),
});
