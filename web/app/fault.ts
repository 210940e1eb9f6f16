import type { FetchBaseQueryError } from "@reduxjs/toolkit/query";

/** What the server (or its absence) said, in words. */
export interface Fault {
  code: string;
  what: string;
  remedy: string;
  /** Message per field, where the input had faults. */
  errors: Record<string, string>;
}

const GONE: Fault = {
  code: "unreachable",
  what: "The server does not answer.",
  remedy: "Start the server again. What you typed is kept in this window.",
  errors: {},
};

/** What another try a moment later may well mend; anything else waits for the person. */
export const passes = (fault: Fault): boolean => fault.code === "unreachable" || fault.code === "database-locked";

/** Reads the problem document out of whatever a failed request left behind. */
export function faultOf(error: unknown): Fault | null {
  if (error === undefined || error === null) return null;
  const answer = error as Partial<FetchBaseQueryError>;
  if (answer.status === "FETCH_ERROR" || answer.status === "TIMEOUT_ERROR") return GONE;
  const data = answer.data as
    | { code?: string; what?: string; remedy?: string; errors?: Record<string, string> }
    | undefined;
  if (data && typeof data === "object" && data.what)
    return { code: data.code ?? "fault", what: data.what, remedy: data.remedy ?? "", errors: data.errors ?? {} };
  if (error instanceof Error) return { code: "fault", what: error.message, remedy: "", errors: {} };
  return { code: "fault", what: "Something went wrong.", remedy: "Nothing typed is lost; try again.", errors: {} };
}
