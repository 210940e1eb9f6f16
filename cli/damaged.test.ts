import { describe, expect, it } from "vitest";
import { dry, readDry } from "#core/cleaning/index.ts";
import { readSpread, spread } from "#core/compound/index.ts";
import { contact, readStack } from "#core/contact/index.ts";
import { fit, readFit } from "#core/coolers/index.ts";
import { planCuts, readCuts } from "#core/cutting/index.ts";
import { readFasten } from "#core/fasteners/index.ts";
import { Problem } from "#core/problem/index.ts";
import { damages, type Json } from "#core/problem/tests/damages.ts";
import { readShop, schedule } from "#core/schedule/index.ts";

const STACK: Json = {
  board: { widthMm: 120, heightMm: 80, thicknessMm: 1.6, youngGPa: 22, poisson: 0.15 },
  die: { xMm: 60, yMm: 40, widthMm: 20, heightMm: 20 },
  screws: [
    [35, 15],
    [85, 15],
    [35, 65],
    [85, 65],
  ].map(([xMm = 0, yMm = 0], k) => ({ id: `s${k}`, xMm, yMm, forceN: 25, springNPerMm: 12 })),
  components: [
    {
      id: "m1",
      kind: "memory",
      xMm: 30,
      yMm: 40,
      widthMm: 14,
      heightMm: 12,
      gapMm: 0.9,
      pad: { material: "soft", thicknessMm: 1, layers: 1, widthMm: 14, heightMm: 12 },
    },
  ],
  materials: {
    soft: {
      conductivityWPerMK: 6,
      curve: [
        [0, 0],
        [0.2, 80],
        [0.5, 480],
      ],
    },
  },
};

/** A command's whole way from a document to what it prints, and a small document that it takes. */
const WAYS: ReadonlyArray<{ name: string; whole: Json; way: (document: unknown) => unknown; tries: number }> = [
  { name: "contact", whole: STACK, way: (document) => contact(readStack(document)), tries: 70 },
  { name: "fasten, its reading", whole: STACK, way: readFasten, tries: 300 },
  {
    name: "cut",
    whole: {
      pieces: [
        { id: "a", widthMm: 12, heightMm: 14, quantity: 3, thicknessMm: 1, material: "soft" },
        { id: "b", widthMm: 30, heightMm: 8, quantity: 1, thicknessMm: 1, material: "soft" },
      ],
      stock: [{ id: "sheet", thicknessMm: 1, material: "soft", widthMm: 90, heightMm: 50, quantity: null, price: 9.5 }],
      cutGapMm: 0,
      rotate: true,
      straightCuts: true,
    },
    way: (document) => planCuts(readCuts(document), soon()),
    tries: 120,
  },
  {
    name: "schedule",
    whole: {
      resources: [{ id: "bench", capacity: 1 }],
      jobs: [
        {
          id: "a",
          dueMin: 60,
          weight: 1,
          steps: [
            { id: "run", durationMin: 20, needs: ["bench"] },
            { id: "rest", durationMin: 30, needs: [], after: ["run"] },
          ],
        },
        { id: "b", dueMin: null, weight: 2, steps: [{ id: "run", durationMin: 15, needs: ["bench"], after: [] }] },
      ],
    },
    way: (document) => schedule(readShop(document), soon()),
    tries: 120,
  },
  {
    name: "spread",
    whole: {
      die: { widthMm: 12, heightMm: 10 },
      beads: [{ x1Mm: 6, y1Mm: 5, x2Mm: 6, y2Mm: 5, volumeUl: 5 }],
      filmUm: 0,
      bondLineUm: 50,
      pressureKPa: null,
      yieldPa: null,
      densityGPerMl: 2.5,
    },
    way: (document) => spread(readSpread(document)),
    tries: 60,
  },
  {
    name: "dry",
    whole: {
      airC: 23,
      partC: 23,
      relativeHumidityPct: 50,
      pressureKPa: 101.325,
      crevices: [{ id: "screw hole", depthMm: 3 }],
      solvent: { kind: "isopropanol", usedMl: 20, minutes: 30, roomM3: 30, airChangesPerHour: 1 },
    },
    way: (document) => dry(readDry(document)),
    tries: 300,
  },
  {
    name: "fit",
    whole: {
      board: {
        widthMm: 240,
        heightMm: 100,
        thicknessMm: 1.6,
        die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22, tallMm: 2.4 },
        parts: [{ id: "m1", kind: "memory", xMm: 85, yMm: 60, widthMm: 14, heightMm: 12, tallMm: 1.2 }],
        holes: [
          { id: "h1", xMm: 95, yMm: 25, diameterMm: 3.2 },
          { id: "h2", xMm: 145, yMm: 25, diameterMm: 3.2 },
        ],
      },
      cooler: {
        plate: { xMm: 0, yMm: 0, widthMm: 40, heightMm: 40, metal: "copper" },
        faces: [{ id: "f1", xMm: -35, yMm: 8, widthMm: 20, heightMm: 60, levelMm: 0.2, for: "pad" }],
        posts: [
          { id: "p1", xMm: -25, yMm: -27, thread: "M2.5", holeDepthMm: 5, levelMm: 0.6 },
          { id: "p2", xMm: 25, yMm: -27, thread: "M2.5", holeDepthMm: 5, levelMm: 0.6 },
        ],
        mayTurn: true,
      },
      screws: [{ id: "short", thread: "M2.5", lengthMm: 7.5, washerMm: 0.5, quantity: 8 }],
    },
    way: (document) => fit(readFit(document)),
    tries: 400,
  },
];

/** A tenth of a second for searches that go on as long as they are let. */
function soon(): { now: () => number; until: number } {
  const now = (): number => performance.now();
  return { now, until: now() + 100 };
}

/** Places with a number that is none: JSON would print them as null. */
function notNumbers(found: unknown, path = ""): string[] {
  if (typeof found === "number") return Number.isFinite(found) ? [] : [`${path}: ${found}`];
  if (found === null || typeof found !== "object") return [];
  return Object.entries(found).flatMap(([key, value]) => notNumbers(value, `${path}/${key}`));
}

describe.each(WAYS)("a damaged document for $name", ({ whole, way, tries }) => {
  it("is taken whole", () => {
    expect(notNumbers(way(structuredClone(whole)))).toEqual([]);
  });

  it("gets an answer in numbers, or a message that says what is wrong and what to do", () => {
    const faults: string[] = [];
    for (const { where, document } of damages(whole, 31, tries)) {
      try {
        faults.push(...notNumbers(way(document)).map((one) => `${where} → ${one}`));
      } catch (error) {
        if (!(error instanceof Problem)) faults.push(`${where} → ${String(error)}`);
        else if (error.detail().what.length < 5 || error.detail().remedy.length < 5)
          faults.push(`${where} → says nothing`);
        else if (error.message.length > 600) faults.push(`${where} → says too much`);
      }
    }
    expect(faults).toEqual([]);
  });
});
