import { Popover, PopoverButton, PopoverPanel } from "@headlessui/react";
import type { ReactNode } from "react";

/** Words of the trade, each explained as one would across the bench. */
export const TERMS = {
  rise: ["Rise", "How much warmer than the room air a part runs, in kelvin. A warm room does not make it look worse."],
  theta: [
    "θ (theta)",
    "Rise divided by power: how many kelvin each watt costs. Runs of different power can be compared by it.",
  ],
  gap: [
    "Hotspot gap",
    "The hottest point of the chip minus the sensor at its rim. A gap that grows means that the cooler presses unevenly or the compound does not reach everywhere.",
  ],
  edge: ["Edge", "The sensor at the rim of the chip: what most programs call its temperature."],
  hotspot: ["Hotspot", "The hottest of many points within the chip. It meets its limit first."],
  settled: ["Steady", "Nothing moves any more but noise. It takes ten to fifteen minutes of the same load."],
  throttling: [
    "Throttling",
    "The card lowers its clock or power by itself, because it is too hot or at its power limit.",
  ],
  equal: [
    "At equal conditions",
    "The change that would have been measured with the same power, fan speed and room as before: what differed was reckoned out.",
  ],
  width: [
    "±",
    "In 95 of 100 cases the true figure lies within it. A change smaller than its ± is no change one can rely on.",
  ],
  mounting: [
    "Mounting scatter",
    "Taken off and mounted again with nothing changed, a card runs by so much warmer or cooler.",
  ],
  softness: ["Softness", "How hard a pad has to be pressed to be squeezed by a share of its thickness."],
  vrm: [
    "VRM",
    "The parts that turn the supply’s voltage into what the chip needs. They get hot and want pads of their own.",
  ],
} as const satisfies Record<string, readonly [name: string, meaning: string]>;

/** A term of the trade with its explanation behind a question mark. */
export function Term({ of, children }: { of: keyof typeof TERMS; children: ReactNode }) {
  const [name, meaning] = TERMS[of];
  return (
    <span className="inline-flex items-center gap-1">
      {children}
      <Popover as="span" className="no-print relative inline-flex">
        <PopoverButton
          aria-label={`What is ${name}?`}
          className="group inline-flex size-6 items-center justify-center text-xs leading-none font-semibold text-soft hover:text-ice"
        >
          <span className="inline-flex size-4 items-center justify-center rounded-full border border-edge group-hover:border-ice">
            ?
          </span>
        </PopoverButton>
        <PopoverPanel
          anchor={{ to: "bottom", gap: 6, padding: 12 }}
          className="z-50 w-72 rounded-lg border border-edge bg-sheet p-3 text-left text-sm font-normal text-ink shadow-xl"
        >
          <p className="font-semibold">{name}</p>
          <p>{meaning}</p>
        </PopoverPanel>
      </Popover>
    </span>
  );
}
