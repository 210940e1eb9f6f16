import type { Cooler, FaceUse } from "#core/coolers/index.ts";
import type { FitAnswer, Fitted } from "./fitted.ts";

export const KIND_WORDS: Readonly<Record<Cooler["kind"], string>> = {
  original: "original cooler",
  air: "air cooler",
  waterblock: "waterblock",
  hybrid: "water and air",
  heatsink: "add-on heatsink",
};

export const FACE_WORDS: Readonly<Record<FaceUse, string>> = {
  pad: "a pad",
  paste: "paste",
  none: "nothing",
};

/** Memory or VRM that nothing of the cooler reaches, in words; empty where all is reached. */
export function lostContacts({ fit, mounted }: Fitted): string {
  const kindOf = new Map(mounted.map.parts.map(({ id, kind }) => [id, kind]));
  const lost = [
    fit.uncovered.some((id) => kindOf.get(id) === "memory") ? "memory" : "",
    fit.uncovered.some((id) => kindOf.get(id) === "mosfet") ? "VRM" : "",
  ].filter(Boolean);
  if (lost.length === 0) return "";
  return lost.length === 1 ? `${lost[0]} loses its contact` : "memory and VRM lose their contact";
}

/** Whether it goes on, in a few words. */
export function fitHeadline(answer: FitAnswer): string {
  if (answer === null) return "not judged without a board map";
  if ("problem" in answer) return answer.problem.what;
  const { fits, turned, reasons, looksMirrored } = answer.ok.fit;
  const lost = lostContacts(answer.ok);
  if (fits) return `goes on${turned ? ", turned by half a turn" : ""}${lost ? `; ${lost}` : ""}`;
  if (looksMirrored) return "does not go on; its drawing looks mirrored";
  const hinders = reasons.filter(({ code }) => code !== "plate-metal" && code !== "part-uncovered");
  return `does not go on: ${hinders[0]?.text ?? ""}${hinders.length > 1 ? ` And ${hinders.length - 1} more.` : ""}`;
}
