/** What was asked for and did not come. */
export const shortfalls: string[] = [];

/** Says what came of something; where that is not what was asked for, the whole run ends as failed. */
export function asked(is: boolean, words: string): void {
  console.log(`${is ? "  " : "NOT"} ${words}`);
  if (!is) shortfalls.push(words);
}
