export const CHOICES = [
  { id: "leave", label: "Leave it closed" },
  { id: "clean", label: "Clean only" },
  { id: "repaste", label: "Clean and repaste" },
  { id: "pads", label: "Clean, repaste and new pads" },
  { id: "fans", label: "Fans" },
  { id: "premium", label: "Repaste and pads with premium materials" },
  { id: "cooler", label: "Another cooler" },
  { id: "not-worth", label: "Not worth it" },
] as const;
export const CHOICE_IDS = CHOICES.map(({ id }) => id);
export type ChoiceId = (typeof CHOICES)[number]["id"];

/** What came of a service, as lists tell it. */
export const VERDICTS = ["better", "no-real-change", "worse", "not-comparable"] as const;
