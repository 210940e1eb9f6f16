import type { Plugin } from "vite";

/** One file of `contract/api` without what only the server needs of it. */
export function withoutSchemas(code: string): string;
/** A file whose constants made by calls may go where nobody uses them. */
export function withPureConstants(code: string): string;
export function leanPage(): Plugin;
