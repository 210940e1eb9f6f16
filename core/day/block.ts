import type { DayStep } from "./day.ts";

/** One step of the plan, where it lies. */
export interface PlannedBlock {
  serviceId: string;
  id: string;
  kind: DayStep["kind"];
  begun: boolean;
  held: boolean;
  startMs: number;
  endMs: number;
  /** Which bench or person of those there are, from 0; −1 for what needs neither. */
  lane: number;
  /** What it waits for, in words; empty where it begins at once or right behind what it comes after. */
  why: string;
}
