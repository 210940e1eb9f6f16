import * as v from "valibot";
import { FindingsAsked, LeaveOutInput, PaperImport } from "#contract";
import { bare, get, param, post, put, type Route, removable } from "../http/route.ts";
import type { Context } from "../services/context.ts";
import { leaveOut } from "../services/left-out.ts";
import { importPaper, knownMapping, listImports, setImportRemoved } from "../services/paper.ts";

const Headers = v.object({ headers: v.pipe(v.array(v.pipe(v.string(), v.maxLength(300))), v.maxLength(200)) });

export const findingsRoutes = (context: Context): Route[] => [
  post(
    "/findings",
    "What each kind of work brought at equal conditions, over all that was proved",
    FindingsAsked,
    ({ body }) => context.findings.run({ kind: "findings", asked: body }),
    { status: 200 },
  ),
  put("/results/:id/left-out", "Leave a result out, with the reason", LeaveOutInput, async ({ params, body }) => {
    await leaveOut(context, param(params, "id"), body.reason);
    return { ok: true };
  }),
  bare("put", "/results/:id/counted", "Let a result count again", async ({ params }) => {
    await leaveOut(context, param(params, "id"), null);
    return { ok: true };
  }),
  get("/paper-imports", "Spreadsheets and typed results that were taken in", () => listImports(context)),
  post("/paper-imports", "Take results of before in, all or none", PaperImport, ({ body }) =>
    importPaper(context, body),
  ),
  post(
    "/paper-imports/mapping",
    "What columns with these names were the last time; null where they are new",
    Headers,
    async ({ body }) => ({ mapping: await knownMapping(context, body.headers) }),
    { status: 200 },
  ),
  removable("/paper-imports/:id", "Take a whole import back, or put it back", (params, removed) =>
    setImportRemoved(context, param(params, "id"), removed),
  ),
];
