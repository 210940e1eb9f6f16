import { MOST_LOG_BYTES } from "#contract";
import type { ProblemDetail } from "#core";

/** What is said of a log that is refused before it is read; undefined for one that is not too large. */
export function tooLarge(file: File): ProblemDetail | undefined {
  if (file.size <= MOST_LOG_BYTES) return undefined;
  return {
    code: "too-large",
    what: `${file.name} has ${Math.round(file.size / 1e6)} MB; a log may have ${Math.round(MOST_LOG_BYTES / 1e6)} MB.`,
    remedy: "Cut it to the load, or log once a second.",
  };
}
