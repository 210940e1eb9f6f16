import { closeSync, openSync, readSync } from "node:fs";

export const PIECE_BYTES = 1 << 20;

/** A file's bytes in order, a megabyte at a time. Throws what `node:fs` throws. */
export function* filePieces(path: string): Generator<Uint8Array> {
  const file = openSync(path, "r");
  try {
    for (;;) {
      const buffer = new Uint8Array(PIECE_BYTES);
      const count = readSync(file, buffer);
      if (count === 0) return;
      yield buffer.subarray(0, count);
    }
  } finally {
    closeSync(file);
  }
}
