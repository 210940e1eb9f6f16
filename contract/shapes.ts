import * as v from "valibot";

export const number = (low: number, high: number, message: string) =>
  v.pipe(v.number(message), v.minValue(low, message), v.maxValue(high, message));
export const place = number(-2000, 2000, "A position lies between −2000 and 2000 mm.");
export const size = number(0.1, 2000, "A size lies between 0.1 and 2000 mm.");
export const shortName = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, "Give it a name."),
  v.maxLength(20, "At most 20 characters."),
);
export const BoxFile = v.object({ xMm: place, yMm: place, widthMm: size, heightMm: size });

/** Ids of the changes sent since the last answer, this one's last: the newest version may be one of them, its answer lost. */
export const changes = v.optional(v.pipe(v.array(v.pipe(v.string(), v.maxLength(40))), v.maxLength(5000)), []);
