/**
 * What may hurt a person or destroy a card, each told once; every place that warns takes its words from here. Common practice of the trade;
 * local rules, makers' documents, safety data sheets and licensed practice come first.
 */
const SUPPLY = "Mains and charged capacitors can kill: never open a power supply.";
const LOCAL = "Local rules and licensed practice come first.";
export const NO_BASELINE = "a later fault can’t be told from an old one";

export const CAUTIONS = {
  connect: {
    title: "Before you plug it in",
    says: ["Supply off while you connect.", SUPPLY, LOCAL],
  },
  switchOn: {
    title: "Before you switch on",
    says: ["Supply off and unplugged while you connect; no screw, tool or loose part on the board.", SUPPLY, LOCAL],
  },
  noBaseline: {
    title: "There is no baseline yet",
    says: [
      `Don’t open it: ${NO_BASELINE}.`,
      "Run the baseline first, or skip it there with a reason; then work can be noted.",
    ],
  },
  open: {
    title: "Before you open it",
    says: [
      "Unplug, wait, ground yourself.",
      "Fin edges and blades are sharp, a heatsink may be hot.",
      "Alcohol burns and its vapour is heavy: air the room, no flame, dry before power.",
      "Read the safety data sheets; owner’s consent first.",
    ],
  },
  openedBefore: {
    title: "Someone has been inside",
    says: ["Expect wrong pads, odd screws and too much paste."],
  },
  warranty: {
    title: "Under warranty",
    says: ["If it is healthy, leave it closed.", "If you open it, have the owner’s consent first."],
  },
  hotSurface: {
    title: "A heatsink may still be hot",
    says: ["Touch it with the back of a finger first; fin edges and blades are sharp."],
  },
  levering: {
    title: "Never lever",
    says: [
      "A lever cracks the die or tears parts off the board.",
      "If it does not turn, warm the card with a load and try again.",
    ],
  },
  cables: {
    title: "Hold the plug, not the cable",
    says: ["A cable that is pulled tears out of its plug or off the board."],
  },
  ribbons: {
    title: "A ribbon tears easily",
    says: ["Open its latch first; touch neither its contacts nor bend it sharply."],
  },
  overTight: {
    title: "No further than its end",
    says: ["An over-tight screw cracks the die or strips its thread."],
  },
  switchOnAgain: {
    title: "Before you switch on",
    says: [`No screw, tool or loose part on the board; supply off while you connect. ${SUPPLY}`, LOCAL],
  },
  placePads: {
    title: "When you place them",
    says: [
      "Peel both films: a film left on is a known failure.",
      "Full size, centred; none over the die’s edge or a screw hole.",
    ],
  },
} as const satisfies Record<string, { title: string; says: readonly string[] }>;
export type CautionId = keyof typeof CAUTIONS;
