import { CLEAN } from "./clean.ts";
import { COMPOUND } from "./compound.ts";

/** The last steps of cleaning and of putting compound on: once marked, that work is done. */
export const ENDS = [CLEAN.end, COMPOUND.end];
