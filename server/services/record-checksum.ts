import { createHash } from "node:crypto";
import type { HandOverInput } from "#contract";
import { Problem } from "#core/problem/index.ts";

const FORMAT = "algidus-record";
const VERSION = 1;

export interface RecordFile {
  format: typeof FORMAT;
  version: number;
  madeAt: string;
  workshop: { name: string; address: string };
  card: { maker: string; model: string; serial: string; board: string | null };
  service: { openedAt: string; closedAt: string | null };
  found: { complaint: string; seal: string; warranty: string; noted: string[] };
  done: {
    notes: Array<{ on: string; by: string; work: string[]; compound: string; text: string }>;
    steps: string[];
    handMin: number | null;
  };
  used: Array<{ what: string; amount: number; unit: string }>;
  results: Array<{
    beforeRun: string;
    afterRun: string;
    /** When they were made, by their logs' own clocks where those tell a date; missing in older records. */
    beforeAt?: string;
    afterAt?: string;
    headline: string;
    roomC: { before: number | null; after: number | null };
    fanRpm: { before: number | null; after: number | null };
    powerW: { before: number | null; after: number | null };
    atEqualConditions: Record<string, { changeK: number; u95K: number }> | null;
  }>;
  /** Null where no layer was renewed. */
  nextService: { dueOn: string; notBefore: string; notAfter: string | null; reason: string } | null;
  watch: string;
  leavesWithCard: HandOverInput["leaves"];
  checksum: { algorithm: "sha-256"; value: string };
}

/** The same text for the same content: keys in order, nothing between. */
function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join(",")}]`;
  if (value !== null && typeof value === "object") {
    const entries = Object.entries(value).filter(([, entry]) => entry !== undefined);
    return `{${entries
      .toSorted(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, entry]) => `${JSON.stringify(key)}:${canonical(entry)}`)
      .join(",")}}`;
  }
  return JSON.stringify(value);
}

const checksumOf = (content: object): string => createHash("sha256").update(canonical(content)).digest("hex");

/** @returns the content with the checksum of all of it */
export function sealed(content: Omit<RecordFile, "checksum" | "format" | "version">): RecordFile {
  const all = { format: FORMAT, version: VERSION, ...content } as const;
  return { ...all, checksum: { algorithm: "sha-256", value: checksumOf(all) } };
}

/**
 * Whether a record is as it was made. It shows what was changed by hand or in transit; it is no signature.
 * @throws Problem `not-a-record`, `newer-record`, `changed-record`
 */
export function verifyRecord(document: unknown): RecordFile {
  const file = document as Partial<RecordFile> | null;
  if (typeof file !== "object" || file === null || file.format !== FORMAT || typeof file.checksum?.value !== "string")
    throw new Problem({
      code: "not-a-record",
      what: "This is no record of a service.",
      remedy: "Give the JSON file that was saved on the record’s page.",
    });
  if (typeof file.version !== "number" || file.version > VERSION)
    throw new Problem({
      code: "newer-record",
      what: `This record is of version ${file.version}.`,
      remedy: "Bring Algidus up to date to check it.",
    });
  const { checksum, ...content } = file as RecordFile;
  const own = checksumOf(content);
  if (own !== checksum.value)
    throw new Problem({
      code: "changed-record",
      what: `This record was changed after it was made: it says checksum ${checksum.value.slice(0, 12)}…, its content gives ${own.slice(0, 12)}….`,
      remedy: "Ask the workshop for the original.",
    });
  return file as RecordFile;
}
