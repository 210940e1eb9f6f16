import * as v from "valibot";
import { FindingsAsked, FindingsView, ImportView, LeaveOutInput, PaperImport, SheetMapping } from "../findings.ts";
import { add, get, post, put, removable } from "./route.ts";
import { FINDINGS } from "./stale.ts";

const counted = { answers: v.object({ ok: v.boolean() }), stale: FINDINGS } as const;
const imported = { answers: v.array(ImportView), fills: "paperImports", stale: FINDINGS } as const;

/** What all that was proved, here and on paper, comes to. */
export const findings = {
  findings: post("/findings", "What each kind of work brought at equal conditions, over all that was proved", {
    reads: true,
    takes: FindingsAsked,
    answers: FindingsView,
  }),
  leaveOut: put("/results/:resultId/left-out", "Leave a result out, with the reason", {
    takes: LeaveOutInput,
    ...counted,
  }),
  countAgain: put("/results/:resultId/counted", "Let a result count again", counted),
  paperImports: get("/paper-imports", "Spreadsheets and typed results that were taken in", {
    answers: v.array(ImportView),
  }),
  importPaper: add("/paper-imports", "Take results of before in, all or none", { takes: PaperImport, ...imported }),
  sheetMapping: post(
    "/paper-imports/mapping",
    "What columns with these names were the last time; null where they are new",
    {
      takes: v.object({ headers: v.pipe(v.array(v.pipe(v.string(), v.maxLength(300))), v.maxLength(200)) }),
      answers: v.object({ mapping: v.nullable(SheetMapping) }),
    },
  ),
  removeImport: removable("/paper-imports/:importId", "Take a whole import back, or put it back", imported),
};
