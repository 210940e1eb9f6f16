import { useEffect } from "react";

export type Paper = "A4" | "letter";

/** Sizes without margins, the long side first, mm: ISO 216 and ANSI/ASME Y14.1 (from memory). */
export const PAPER_MM: Readonly<Record<Paper, readonly [long: number, short: number]>> = {
  A4: [297, 210],
  letter: [279.4, 215.9],
};

/** The page size of the print, as a rule of its own while what is printed is open. */
export function usePaper(paper: Paper, { marginMm = 12, landscape = false } = {}): void {
  useEffect(() => {
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(`@page { size: ${paper}${landscape ? " landscape" : ""}; margin: ${marginMm}mm; }`);
    document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
    return () => {
      document.adoptedStyleSheets = document.adoptedStyleSheets.filter((one) => one !== sheet);
    };
  }, [paper, marginMm, landscape]);
}
