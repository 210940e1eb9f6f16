/** Sample logs to try: made on the spot by the simulated card, the same each time. */
export const SAMPLES = [
  { id: "dusty", label: "Dusty card with dry paste, fixed fan", side: "before" },
  { id: "throttled", label: "Throttled baseline", side: "before" },
  { id: "serviced", label: "The dusty card after its service", side: "after" },
] as const;
export type SampleId = (typeof SAMPLES)[number]["id"];

/** The text of a sample as a file. Loads the simulation only when asked. */
export async function sampleFile(id: SampleId): Promise<File> {
  const { MIDSIZE, logText, simulate } = await import("#core/virtualcard/index.ts");
  const steps = [
    { durationS: 60, load: 0 },
    { durationS: 1200, load: 1 },
    { durationS: 90, load: 0 },
  ];
  const specs = {
    dusty: { seed: 71, build: MIDSIZE, faults: { dryPaste: 0.8, dust: 0.5 }, bench: { fan: 62, roomC: 21.9 }, steps },
    throttled: {
      seed: 72,
      build: { ...MIDSIZE, edgeLimitC: 78 },
      faults: { dryPaste: 1, dust: 0.9 },
      bench: { fan: 45, roomC: 24 },
      steps,
    },
    serviced: { seed: 73, build: MIDSIZE, bench: { fan: 62, roomC: 23.1 }, steps },
  } as const;
  return new File([logText(simulate(specs[id]))], `sample-${id}.csv`, { type: "text/csv" });
}
