import { useEffect, useState } from "react";

/** The value as it was when it last stood still for so long, ms: what is asked while somebody types. */
export function useLater<T>(value: T, afterMs: number): T {
  const [later, setLater] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setLater(value), afterMs);
    return () => clearTimeout(timer);
  }, [value, afterMs]);
  return later;
}
