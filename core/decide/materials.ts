import type { Effort, Work } from "./terms.ts";

/**
 * What each kind of service takes. Common practice of the trade, no source: a simple job is 25 to 60 minutes of hands, cleaning fans
 * 15, a heatsink 30; prices are those of small amounts and can only be rough.
 */
export const EFFORT: Record<Work, Effort> = {
  leave: { material: 0, minutes: 0, risk: "none", riskWords: "Nothing is opened." },
  clean: { material: 2, minutes: 25, risk: "low", riskWords: "Cooler stays on; fans and fins only." },
  fans: { material: 15, minutes: 35, risk: "low", riskWords: "Shroud off; cables and plugs can tear." },
  repaste: {
    material: 6,
    minutes: 50,
    risk: "some",
    riskWords: "Cooler off: screws, plugs and the bare die are at risk; pads may tear.",
  },
  pads: { material: 22, minutes: 70, risk: "some", riskWords: "A wrong thickness holds the cooler off the die." },
  premium: {
    material: 48,
    minutes: 80,
    risk: "high",
    riskWords: "Premium compounds can conduct electricity or eat aluminium.",
  },
  cooler: {
    material: 90,
    minutes: 110,
    risk: "high",
    riskWords: "It has to fit this very board; memory and VRM may lose their contact.",
  },
  "not-worth": { material: 0, minutes: 0, risk: "none", riskWords: "Nothing is opened." },
};
