import { useRef } from "react";

/** Does one thing after the other: each begins when the one before has its answer, whatever that was. */
export function useInTurn(): (work: () => Promise<unknown>) => void {
  const last = useRef<Promise<unknown>>(Promise.resolve());
  return (work) => {
    last.current = last.current.then(work, work);
  };
}
