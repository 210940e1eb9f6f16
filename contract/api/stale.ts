/** Reads that rest on one thing each: what they tell may be another once it has changed. */

export const LINES = ["lines", "history", "due", "openPads", "next", "day", "findings", "model"] as const;
export const SERVICE = [
  "service",
  "run",
  "diagnosis",
  "history",
  "next",
  "quote",
  "compoundFacts",
  "advice",
  "liveOfService",
] as const;
export const CARD = ["card", "history", "quote", "advice"] as const;
export const LIVE = ["runningLive", "live", "liveOfService", "day"] as const;
export const COOLERS = ["coolers", "cooler", "coolerSeen"] as const;
export const BOARD = ["boards", "model"] as const;
export const FINDINGS = ["findings", "model"] as const;
