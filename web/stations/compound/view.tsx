import { useSearchParams } from "react-router";
import { type BoardMap, nearDie } from "#core/boardmap/index.ts";
import {
  COMPOUND,
  compoundFault,
  compoundSteps,
  cureClocks,
  currentStep,
  type HandStep,
  sheetSize,
  usedGrams,
  valueOf,
} from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import { Glue } from "../../parts/steps/glue.tsx";
import { HandStationPage } from "../../parts/steps/hand-station.tsx";
import { StepPlan } from "../../parts/steps/step-plan.tsx";
import { Choice } from "../../ui/choice.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet, Waiting } from "../../ui/page.tsx";
import { useClockTitle } from "../../ui/title.ts";
import type { StationProps } from "../station.ts";
import { Choose } from "./choose.tsx";
import { DiePicture } from "./die-picture.tsx";
import { PutOn } from "./put-on.tsx";
import { Schools } from "./schools.tsx";
import { type Compound, useCompound } from "./use-compound.ts";
import { Weighed } from "./weighed.tsx";

/** Which compound, how much of it, how it is put on, and what it comes to when the cooler comes down. */
export function CompoundStation(props: StationProps) {
  return <Pasting key={`${props.service.id} ${props.service.attempts.length}`} {...props} />;
}

const MASK_MM = 4;
const PLATES = [
  { value: "unknown", label: "not known" },
  { value: "copper", label: "copper" },
  { value: "nickel", label: "nickel plate" },
  { value: "aluminium", label: "aluminium" },
] as const;
type Plate = (typeof PLATES)[number]["value"];

function Pasting({ cardId, service }: StationProps) {
  const [search] = useSearchParams();
  const { data: card } = api.useCardQuery(cardId);
  const compound = useCompound(service, search.get("do") === "steps");
  const { marks, map, plan, die } = compound;
  const maskMm = Number(valueOf(marks.folded, "mask-mm") ?? MASK_MM);
  const input = {
    plan,
    doseUl: compound.doseUl,
    die,
    mask: nearDie(map, maskMm),
    maskMm,
    marks: marks.marks,
    folded: marks.folded,
    msOf: Date.parse,
  };
  const clocks = cureClocks(input);
  const steps = die ? compoundSteps(input) : [];
  useClockTitle(clocks);
  if (!card || !compound.ready)
    return compound.error ? <FaultNote error={compound.error} /> : <Waiting what="the compound" />;
  const plate = PLATES.find(({ value }) => value === valueOf(marks.folded, "plate"))?.value ?? "unknown";
  const plannedMg = plan?.densityGPerMl ? compound.doseUl * plan.densityGPerMl : null;
  return (
    <HandStationPage
      cardId={cardId}
      service={service}
      station="compound"
      path="compound"
      title={`Compound · ${card.maker} ${card.model}`}
      steps={steps}
      marks={marks}
      ended={plan ? `${plan.name} is on` : "Choose the compound first"}
      picture={<Picture compound={compound} map={map} step={currentStep(steps, marks.folded) ?? null} />}
      idle={plan?.kind === "phase-change" && <SheetSize die={die} />}
      below={plan && die && plan.kind !== "phase-change" && <PutOn compound={compound} />}
      faultAt={(stepId, folded) => compoundFault(stepId, folded, plannedMg)}
      above={<Before compound={compound} plate={plate} maskMm={maskMm} />}
    >
      <Weighed serviceId={service.id} compound={compound} usedG={usedGrams(marks.folded)} />
      <Choose compound={compound} plate={plate} />
      {plan && plan.kind !== "phase-change" && <Schools compound={compound} />}
      {die && <Glue marks={marks} clock={clocks[0]} />}
    </HandStationPage>
  );
}

/** What has to be known first: the die's size and the plate's metal. */
function Before({ compound, plate, maskMm }: { compound: Compound; plate: Plate; maskMm: number }) {
  const { marks, hasMapDie, typed, typeDie, plan } = compound;
  return (
    <>
      {!hasMapDie && (
        <Sheet title="How large is the die?">
          <p className="mb-2 text-soft">
            Its board has no die on its map yet. Measure it with a caliper, along and across.
          </p>
          <div className="flex flex-wrap gap-3">
            <NumberField
              label="Along the board"
              unit="mm"
              value={typed.width === null ? null : Number(typed.width)}
              least={2}
              most={60}
              onValue={(mm) => mm !== null && typeDie("width", mm)}
            />
            <NumberField
              label="Across the board"
              unit="mm"
              value={typed.height === null ? null : Number(typed.height)}
              least={2}
              most={60}
              onValue={(mm) => mm !== null && typeDie("height", mm)}
            />
          </div>
        </Sheet>
      )}
      <div className="flex flex-wrap items-end gap-6">
        <Choice
          label="The plate is"
          value={plate}
          options={PLATES}
          onChange={(value) => marks.mark({ stepId: "plate", what: "value", value })}
        />
        <NumberField
          label="Pressure on the die"
          unit="kPa"
          value={Math.round(compound.pressureKPa)}
          hint={
            compound.reckonedKPa === null
              ? "Usual: 207 to 276"
              : `By this card’s screws and pads: ${Math.round(compound.reckonedKPa)}. Usual: 207 to 276`
          }
          least={20}
          most={2000}
          onValue={(kPa) => kPa !== null && compound.typePressure(kPa)}
        />
        {plan?.kind === "liquid metal" && (
          <NumberField
            label="Mask within"
            unit="mm"
            value={maskMm}
            least={0.5}
            most={30}
            onValue={(mm) => mm !== null && marks.mark({ stepId: "mask-mm", what: "value", value: String(mm) })}
          />
        )}
      </div>
      {plan?.kind === "liquid metal" && plate !== "copper" && plate !== "nickel" && (
        <Note kind="caution" title={plate === "aluminium" ? "Not on aluminium" : "Is the plate aluminium?"}>
          Liquid metal destroys aluminium. Look at a scratch or a screw hole of the plate, and say what it is above.
        </Note>
      )}
    </>
  );
}

/** A sheet has no dose: it is cut. */
function SheetSize({ die }: { die: Compound["die"] }) {
  return (
    die && (
      <p>
        Cut it to <strong>{sheetSize(die)}</strong>, a little beyond the die on every side. It lies on the plate.
      </p>
    )
  );
}

function Picture({ compound, map, step }: { compound: Compound; map: BoardMap; step: HandStep | null }) {
  const { plan, die, pressed } = compound;
  if (step?.id === "mask" && map.parts.length > 0)
    return <StepPlan map={map} step={{ ...step, side: "front" }} isPast={() => false} />;
  if (!plan || !die) return null;
  if (step === null || plan.kind === "phase-change") return null;
  return (
    <DiePicture
      die={die}
      beads={step.id === COMPOUND.put ? plan.beads : []}
      film={plan.filmUm > 0}
      outline={pressed.found?.outline ?? []}
      label="The die with the compound as planned"
    />
  );
}
