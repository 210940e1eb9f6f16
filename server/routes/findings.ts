import { WIRES } from "#contract";
import { type Route, serve } from "../http/route.ts";
import type { Context } from "../services/context.ts";
import { leaveOut } from "../services/left-out.ts";
import { importPaper, knownMapping, listImports, setImportRemoved } from "../services/paper.ts";

export const findingsRoutes = (context: Context): Route[] =>
  serve(WIRES.findings, {
    findings: ({ body }) => context.findings.run({ kind: "findings", asked: body }),
    leaveOut: async ({ params, body }) => {
      await leaveOut(context, params.resultId, body.reason);
      return { ok: true };
    },
    countAgain: async ({ params }) => {
      await leaveOut(context, params.resultId, null);
      return { ok: true };
    },
    paperImports: () => listImports(context),
    importPaper: ({ body }) => importPaper(context, body),
    sheetMapping: async ({ body }) => ({ mapping: await knownMapping(context, body.headers) }),
    removeImport: ({ params, body }) => setImportRemoved(context, params.importId, body.removed),
  });
