import type { ReactNode } from "react";

/** 'How was this computed': opens the inputs, formula and source of a figure. */
export function Working({ children, title = "How was this computed" }: { children: ReactNode; title?: string }) {
  return (
    <details className="mt-2 text-sm">
      <summary className="inline-block min-h-6 cursor-pointer font-medium text-ice">{title}</summary>
      <div className="mt-2 space-y-1 rounded-lg bg-paper p-3">{children}</div>
    </details>
  );
}
