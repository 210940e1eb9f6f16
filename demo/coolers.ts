import { type Cooler, EMPTY_COOLER } from "#core/coolers/index.ts";

/** About the die: memory left, right, above and below it. */
const MEMORY_FACES: Cooler["faces"] = [
  { id: "f1", xMm: -32, yMm: 0, widthMm: 15, heightMm: 30, levelMm: -0.5, for: "pad" },
  { id: "f2", xMm: 32, yMm: 0, widthMm: 15, heightMm: 30, levelMm: -0.5, for: "pad" },
  { id: "f3", xMm: 0, yMm: 28, widthMm: 30, heightMm: 15, levelMm: -0.5, for: "pad" },
  { id: "f4", xMm: 0, yMm: -28, widthMm: 30, heightMm: 15, levelMm: -0.5, for: "pad" },
];

const fourPosts = (holeDepthMm: number, levelMm: number): Cooler["posts"] =>
  [
    [-26, -26],
    [26, -26],
    [-26, 26],
    [26, 26],
  ].map(([xMm = 0, yMm = 0], index) => ({ id: `p${index + 1}`, xMm, yMm, thread: "M2.5", holeDepthMm, levelMm }));

/** Invented coolers: a block of water, a big one for air, and the one that a model came with. */
export const DEMO_COOLERS: readonly Cooler[] = [
  {
    ...EMPTY_COOLER,
    name: "Torrin Flatbrook 70",
    kind: "waterblock",
    outline: { xMm: 25, yMm: 0, widthMm: 218, heightMm: 96 },
    plate: { xMm: 0, yMm: 0, widthMm: 46, heightMm: 40, metal: "nickel-plated copper" },
    faces: [
      ...MEMORY_FACES,
      { id: "f5", xMm: 92.5, yMm: 0, widthMm: 8, heightMm: 72, levelMm: -0.3, for: "pad" },
      { id: "f6", xMm: 103.5, yMm: 0, widthMm: 10, heightMm: 72, levelMm: 1.8, for: "pad" },
    ],
    posts: [
      ...fourPosts(4, 0.8),
      { id: "p5", xMm: 122.5, yMm: -40, thread: "M2.5", holeDepthMm: 5, levelMm: 2.8 },
      { id: "p6", xMm: 122.5, yMm: 40, thread: "M2.5", holeDepthMm: 5, levelMm: 2.8 },
    ],
    kit: [
      { id: "short", thread: "M2.5", lengthMm: 8, washerMm: 0.5, quantity: 6, shouldered: false },
      { id: "long", thread: "M2.5", lengthMm: 10, washerMm: 0.5, quantity: 4, shouldered: false },
    ],
    heightMm: 22,
    weightG: 720,
    dieKPa: 230,
    screwPullN: 27,
    springNPerMm: 12,
    water: {
      insideMl: 55,
      losses: [
        { lPerMin: 2, kPa: 3.6 },
        { lPerMin: 5, kPa: 18 },
      ],
      block: [
        { lPerMin: 2, kPerW: 0.088 },
        { lPerMin: 5, kPerW: 0.074 },
      ],
    },
    note: "Lies on its own box while the card is lowered onto it.",
  },
  {
    ...EMPTY_COOLER,
    name: "Ulmen Broadvane",
    kind: "air",
    outline: { xMm: 18, yMm: 0, widthMm: 246, heightMm: 108 },
    plate: { xMm: 0, yMm: 0, widthMm: 46, heightMm: 40, metal: "copper" },
    faces: MEMORY_FACES,
    posts: fourPosts(5, 0.5),
    fans: [
      { id: "fan1", xMm: -40, yMm: 0, widthMm: 92, heightMm: 92 },
      { id: "fan2", xMm: 76, yMm: 0, widthMm: 92, heightMm: 92 },
    ],
    mayTurn: true,
    kit: [{ id: "spring screw", thread: "M2.5", lengthMm: 8, washerMm: 0.5, quantity: 4, shouldered: false }],
    heightMm: 58,
    weightG: 890,
    screwPullN: 40,
    springNPerMm: 9,
    air: [
      { fanRpm: 900, kPerW: 0.155, dba: 27 },
      { fanRpm: 1500, kPerW: 0.126, dba: 35 },
      { fanRpm: 2100, kPerW: 0.112, dba: 42 },
    ],
    note: "No contact for the VRM: it needs heatsinks of its own, or air.",
  },
  {
    ...EMPTY_COOLER,
    name: "Skar 40, as delivered",
    kind: "original",
    outline: { xMm: 17, yMm: 0, widthMm: 198, heightMm: 94 },
    plate: { xMm: 0, yMm: 0, widthMm: 44, heightMm: 38, metal: "aluminium" },
    faces: MEMORY_FACES,
    posts: fourPosts(4.5, 0.3),
    fans: [
      { id: "fan1", xMm: -30, yMm: 0, widthMm: 85, heightMm: 85 },
      { id: "fan2", xMm: 65, yMm: 0, widthMm: 85, heightMm: 85 },
    ],
    kit: [{ id: "spring screw", thread: "M2.5", lengthMm: 7, washerMm: 0, quantity: 4, shouldered: false }],
    heightMm: 38,
    weightG: 430,
    screwPullN: 28,
    springNPerMm: 12,
    air: [{ fanRpm: 1700, kPerW: 0.31, dba: 38 }],
  },
  {
    ...EMPTY_COOLER,
    name: "Lillevang fin 14",
    kind: "heatsink",
    weightG: 2,
    fins: { widthMm: 14, lengthMm: 12, baseMm: 1.5, finHeightMm: 6, finThickMm: 0.8, count: 6 },
    note: "For one memory package.",
  },
  {
    ...EMPTY_COOLER,
    name: "Lillevang fin 6",
    kind: "heatsink",
    weightG: 1,
    fins: { widthMm: 6, lengthMm: 6, baseMm: 1, finHeightMm: 4, finThickMm: 0.8, count: 3 },
    note: "For one MOSFET.",
  },
];
