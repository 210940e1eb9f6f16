import type { Cooler, FaceUse } from "#core/coolers/index.ts";
import type { FitAnswer } from "./fitted.ts";

export const KIND_WORDS: Readonly<Record<Cooler["kind"], string>> = {
  original: "original cooler",
  air: "air cooler",
  waterblock: "waterblock",
  hybrid: "water and air",
};

export const FACE_WORDS: Readonly<Record<FaceUse, string>> = {
  pad: "a pad",
  paste: "paste",
  none: "nothing",
};

/** Whether it goes on, in a few words. */
export function fitHeadline(answer: FitAnswer): string {
  if (answer === null) return "not judged without a board map";
  if ("problem" in answer) return answer.problem.what;
  const { fits, turned, reasons, looksMirrored } = answer.ok.fit;
  if (fits) return turned ? "goes on, turned by half a turn" : "goes on";
  if (looksMirrored) return "does not go on; its drawing looks mirrored";
  const hinders = reasons.filter(({ code }) => code !== "plate-metal" && code !== "part-uncovered");
  return `does not go on: ${hinders[0]?.text ?? ""}${hinders.length > 1 ? ` And ${hinders.length - 1} more.` : ""}`;
}
