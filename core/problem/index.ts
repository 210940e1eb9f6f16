/** Refusals in words, and the check of documents that come from files. */
export { idText, listOf, numberFrom, readDocument, said, typeWords } from "./document.ts";
export type { Notice, ProblemDetail } from "./problem.ts";
export { Problem } from "./problem.ts";
