import { del, get, keys, set } from "idb-keyval";
import { useCallback, useEffect, useRef, useState } from "react";
import { MOST_LOG_BYTES } from "#contract";
import { isOpenElsewhere, lookAtWindows, ownWindow } from "./windows.ts";

const keyOf = (place: string): string => `files ${ownWindow()} ${place}`;

/** Files that were dropped at a place and not kept yet, in this window or in one that is closed by now. */
async function storedFiles(place: string): Promise<File[]> {
  await lookAtWindows();
  const files: File[] = [];
  for (const key of await keys<string>()) {
    const [, name = "", where] = /^files (\S+) (.*)$/.exec(key) ?? [];
    if (where !== place || isOpenElsewhere(name)) continue;
    files.push(...((await get<File[]>(key)) ?? []));
    if (key !== keyOf(place)) await del(key);
  }
  return files;
}

/** Files waiting at a place, which outlive the page; where the browser keeps none, they end with it. */
export function useKeptFiles(place: string): [files: readonly File[], change: (next: readonly File[]) => void] {
  const [files, setFiles] = useState<readonly File[]>([]);
  const latest = useRef<readonly File[]>(files);
  /** Whether what waits at the place is read: what is dropped before that joins it, and is not written over it. */
  const isRead = useRef(false);
  const reading = useRef(0);
  const change = useCallback(
    (next: readonly File[]) => {
      latest.current = next;
      setFiles(next);
      if (!isRead.current) return;
      // What is refused anyway for its size is not kept either.
      const worth = next.filter(({ size }) => size <= MOST_LOG_BYTES);
      const stored = worth.length > 0 ? set(keyOf(place), worth) : del(keyOf(place));
      stored.catch(() => undefined);
    },
    [place],
  );
  useEffect(() => {
    isRead.current = false;
    const mine = ++reading.current;
    void storedFiles(place)
      .catch((): File[] => [])
      .then((found) => {
        if (mine !== reading.current) return;
        isRead.current = true;
        if (found.length + latest.current.length > 0) change([...found, ...latest.current]);
      });
  }, [place, change]);
  return [files, change];
}
