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
      "Unplug, wait, ground yourself. Children and animals away.",
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
      "If it does not give: warm air by hand, then twist again. With a screw or plug out, no power and no load.",
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
  dirt: {
    title: "Dust, hair and mould",
    says: ["Wear a mask and eye protection; brush and blow outdoors or under extraction.", "Waste by local rules."],
  },
  solvent: {
    title: "Alcohol burns, its vapour is heavy",
    says: [
      "Air the room; no flame, no spark, no hot tool. Dry before power.",
      "Read its own safety data sheet: a remover is no alcohol. Wipes and rests are waste by local rules.",
    ],
  },
  air: {
    title: "Compressed air",
    says: ["Eye protection on; hold the can upright, short bursts.", "Block every rotor: a fan must not spin."],
  },
  wet: {
    title: "Water in a hole shorts a board",
    says: [
      "It is dry when its clock has run and no drop comes out.",
      "Warm air shortens it; no flame, no oven for plastic.",
    ],
  },
  liquidMetal: {
    title: "Liquid metal conducts, and eats aluminium",
    says: [
      "Gloves and eye protection; blunt needle; no aluminium tool, no jewellery. In an eye: rinse with water, see a doctor.",
      "Mask everything around the die first. Collect the waste by local rules.",
    ],
  },
  adhesive: {
    title: "Adhesive on skin and die",
    says: ["Gloves, fresh air, its safety data sheet.", "Try that the cooler closes before it sets."],
  },
  fans: {
    title: "Blades are sharp and may start",
    says: ["Unplugged before a finger goes in.", "Oil only a sleeve bearing; a sealed one is replaced."],
  },
  coast: {
    title: "A fan at full speed cuts",
    says: [
      "Power off first: block the other fans with a soft wedge, such as folded cloth; never hold one by hand.",
      "Then power on, fingers and cables away from all blades. Power off again before a wedge comes out.",
    ],
  },
  placePads: {
    title: "When you place them",
    says: [
      "Peel both films: a film left on is a known failure.",
      "Full size, centred; none over the die’s edge or a screw hole.",
      "Ground yourself: the board is bare. Gloves for putty.",
    ],
  },
  static: {
    title: "Static kills a bare board",
    says: [
      "Ground yourself and the board before a brush, air or a wipe touches it; a soft brush that does not charge.",
    ],
  },
  sharpFins: {
    title: "Fins cut",
    says: ["Hold the heatsink by its base, gloves on; brush along the fins, never across."],
  },
  warmAir: {
    title: "Warm air burns and sets fire",
    says: [
      "No flame, no oven; never while a solvent is still wet or anywhere near.",
      "Keep it moving, away from skin and plastic.",
    ],
  },
  twoHands: {
    title: "A cooler is heavy",
    says: ["Two hands, over a soft mat: one for the board, one for the cooler."],
  },
  coolant: {
    title: "Coolant on skin and floor",
    says: [
      "Gloves and eye protection; its safety data sheet. Wipe up at once: a wet floor is slippery.",
      "Supply off and unplugged until it is tight and everything is dry.",
    ],
  },
  blade: {
    title: "A blade slips",
    says: ["Cut away from the hand that holds, along a steel rule, with a new blade; its cap on when it rests."],
  },
  underLoad: {
    title: "Measuring under load",
    says: [
      "Fans spin, metal burns: keep fingers, hair and cables away; fix a probe before power, it slips.",
      "A probe’s bare tip shorts: insulate it.",
    ],
  },
} as const satisfies Record<string, { title: string; says: readonly string[] }>;
export type CautionId = keyof typeof CAUTIONS;
