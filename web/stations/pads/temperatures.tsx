import { USUAL_POWER_W } from "#core/padplan/index.ts";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import { Working } from "../../ui/working.tsx";
import type { PadStepProps } from "./step-props.ts";

/** What the estimated temperatures rest on; the cooler's face can be typed. */
export function Temperatures({ job, plan }: Pick<PadStepProps, "job" | "plan">) {
  return (
    <Sheet title="Temperatures assume">
      <NumberField
        label="Cooler face"
        unit="°C"
        value={plan.plan.faceC}
        optional
        least={0}
        most={120}
        hint={plan.plan.faceC === null ? `${job.face.valueC} °C: ${job.face.source}` : "typed; empty it for the run’s"}
        onValue={(value) => plan.change({ faceC: value })}
      />
      <Working title="Show the assumptions">
        <p>
          Heat per part: memory {USUAL_POWER_W.memory} W, MOSFET {USUAL_POWER_W.mosfet} W, choke {USUAL_POWER_W.choke}{" "}
          W, controller {USUAL_POWER_W.controller} W (common practice, not measured).
        </p>
        <p>
          θ = bond line ÷ (k × area) + joints of 12 to 40 mm²K/W by pressure, spread from the silicon in the middle of
          the package; beside it 30 K/W into the board. Good for comparing choices, not for promises.
        </p>
      </Working>
    </Sheet>
  );
}
