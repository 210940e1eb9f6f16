import { closeSync, openSync, readSync } from "node:fs";

export const PIECE_BYTES = 1 << 20;

/**
 * A file's bytes in order, a megabyte at a time. Throws what `node:fs` throws.
 * @param anew whether the next piece may lie where this one did
 */
export function* filePieces(path: string, anew = false): Generator<Uint8Array> {
  const file = openSync(path, "r");
  try {
    let buffer = new Uint8Array(PIECE_BYTES);
    for (;;) {
      const count = readSync(file, buffer);
      if (count === 0) return;
      yield buffer.subarray(0, count);
      if (!anew) buffer = new Uint8Array(PIECE_BYTES);
    }
  } finally {
    closeSync(file);
  }
}
