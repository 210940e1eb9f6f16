import { expect, it } from "vitest";
import { screwNamed } from "./threads.ts";

it.each([
  ["cross head M2.5 × 8, black", { thread: "M2.5", lengthMm: 8 }],
  ["m3x6,5", { thread: "M3", lengthMm: 6.5 }],
  ["6-32 UNC x 10", { thread: "6-32 UNC", lengthMm: 10 }],
  ["M99 × 8", null],
  ["M2 × 0", null],
  ["screws, mixed", null],
])("reads thread and length of “%s”", (name, found) => {
  expect(screwNamed(name)).toEqual(found);
});
