import { createHash } from "node:crypto";
import type { RecordFile } from "#contract";
import { Problem } from "#core/problem/index.ts";

const FORMAT = "algidus-record";
const VERSION = 1;

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
