import { createHash } from "node:crypto";
import { gunzipSync } from "node:zlib";
import type { Client } from "@libsql/client/sqlite3";

/** Logs, samples and photos of a database: how many were read, and which are not what they were. */
export interface Stored {
  read: number;
  unreadable: Array<{ hash: string; what: string }>;
}

export interface Blob {
  hash: string;
  kind: string;
  bytes: Uint8Array;
}

export const hashOf = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");

/** More than any log or its samples come to: what unpacks to more was not made here. */
const MOST_UNPACKED = 512 * 1024 * 1024;

/** What is wrong with stored bytes; undefined where they are what they were. */
export function whatIsWrong({ kind, bytes, hash }: Blob): string | undefined {
  const unpacked = (): Buffer => gunzipSync(bytes, { maxOutputLength: MOST_UNPACKED });
  try {
    // A log is named by what it was before it was compressed, anything else by what is stored.
    const named = kind === "log" ? unpacked() : bytes;
    if (kind === "samples") unpacked();
    return hashOf(named) === hash ? undefined : `this ${kind} is not what it was`;
  } catch {
    return `this ${kind} can’t be unpacked`;
  }
}

/** Reads every stored log, its samples and every photo, one at a time. */
export async function readStored(client: Client): Promise<Stored> {
  const stored: Stored = { read: 0, unreadable: [] };
  for (let after = ""; ; ) {
    const { rows } = await client.execute({
      sql: "SELECT hash, kind, bytes FROM blobs WHERE hash > ? ORDER BY hash LIMIT 1",
      args: [after],
    });
    const [row] = rows;
    if (!row) return stored;
    after = String(row.hash);
    stored.read++;
    const bytes = row.bytes instanceof ArrayBuffer ? new Uint8Array(row.bytes) : new Uint8Array();
    const what = whatIsWrong({ hash: after, kind: String(row.kind), bytes });
    if (what) stored.unreadable.push({ hash: after, what });
  }
}
