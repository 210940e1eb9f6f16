import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, useState } from "react";

/** Rows beyond the screen that are drawn as well: some for a quick hand, few enough to draw in a frame. */
const OVERSCAN = 12;

/**
 * Of a long list in the page only the rows near the screen are drawn.
 * @param estimatePx usual height of a row with its gap; each is measured once it is drawn
 * @param reach is told the last row that is drawn
 */
export function useRows<T extends HTMLElement>(count: number, estimatePx: number, reach: (index: number) => void) {
  const list = useRef<T>(null);
  const [top, setTop] = useState(0);
  useEffect(() => {
    // What stands above the list may come late and move it.
    const watch = new ResizeObserver(() => {
      if (list.current) setTop(list.current.getBoundingClientRect().top + scrollY);
    });
    watch.observe(document.body);
    return () => watch.disconnect();
  }, []);
  const rows = useWindowVirtualizer({ count, estimateSize: () => estimatePx, overscan: OVERSCAN, scrollMargin: top });
  const drawn = rows.getVirtualItems();
  const last = drawn.at(-1)?.index ?? 0;
  useEffect(() => {
    if (count > 0) reach(last);
  });
  const before = drawn[0] ? drawn[0].start - top : 0;
  const after = drawn.length > 0 ? rows.getTotalSize() - ((drawn.at(-1)?.end ?? 0) - top) : 0;
  return { list, drawn, measure: rows.measureElement, before, after };
}
