/**
 * Text of a file as spreadsheets write it: UTF-8 or UTF-16 with or without a mark, else Windows-1252.
 * @example
 * ```ts
 * decodeText(Uint8Array.from([0xff, 0xfe, 0x4c, 0, 0x75, 0])) // => "Lu"
 * ```
 */
export function decodeText(bytes: Uint8Array): string {
  const [first, second] = bytes;
  if (first === 0xff && second === 0xfe) return new TextDecoder("utf-16le").decode(bytes);
  if (first === 0xfe && second === 0xff) return new TextDecoder("utf-16be").decode(bytes);
  const some = bytes.subarray(0, 2000);
  const zeros = (from: number): number => some.filter((value, at) => at % 2 === from && value === 0).length;
  if (zeros(1) > 0.2 * some.length) return new TextDecoder("utf-16le").decode(bytes);
  if (zeros(0) > 0.2 * some.length) return new TextDecoder("utf-16be").decode(bytes);
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}
