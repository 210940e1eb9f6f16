/**
 * Asks one question at a time, the newest next; those in between are left out. What a worker answers while something is dragged.
 * @param ask answers a question
 * @param tell is told each answer, and whether a newer question waits already
 */
export function newestOnly<Q, A>(
  ask: (question: Q) => Promise<A>,
  tell: (answer: A, behind: boolean, question: Q) => void,
): (question: Q) => void {
  let newest: { question: Q } | undefined;
  let asking = false;
  const turn = async (): Promise<void> => {
    asking = true;
    try {
      while (newest) {
        const { question } = newest;
        newest = undefined;
        const answer = await ask(question);
        tell(answer, newest !== undefined, question);
      }
    } finally {
      asking = false;
    }
  };
  return (question) => {
    newest = { question };
    if (!asking) void turn();
  };
}
