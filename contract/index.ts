/** Shapes of the HTTP API and of open files, shared by server, page and command line. */
export * from "./card.ts";
export * from "./cautions.ts";
export * from "./coolers.ts";
export * from "./day.ts";
export * from "./decide.ts";
export * from "./documents.ts";
export * from "./export.ts";
export * from "./keeping.ts";
export * from "./live.ts";
export * from "./pads.ts";
export * from "./quote.ts";
export * from "./run.ts";
export * from "./service.ts";
export * from "./stations.ts";
export * from "./steps.ts";
export * from "./stores.ts";
