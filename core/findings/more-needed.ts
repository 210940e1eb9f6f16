/** Beyond this nobody waits for an answer. */
const MOST = 200;

/**
 * How many more services until two groups would be told apart, if the difference stays as it is: half-widths fall with the square root of how
 * many there are. 0 where they are told apart; undefined where it would take more than 200.
 * @param differenceK of the two, with the half-width of its interval, K
 * @param count services in both groups together
 * @example
 * ```ts
 * moreNeeded(1.2, 2.4, 3) // => 9
 * ```
 */
export function moreNeeded(differenceK: number, u95K: number, count: number): number | undefined {
  const ratio = (u95K / differenceK) ** 2;
  const more = ratio <= 1 ? 0 : Math.ceil(count * (ratio - 1));
  return more <= MOST ? more : undefined;
}
