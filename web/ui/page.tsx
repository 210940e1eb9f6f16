import { type ReactNode, useEffect, useRef } from "react";
import { useLocation } from "react-router";
import { isTyping } from "../app/keys.ts";

/** A place's heading, its one action, and its content. */
export function Page({
  title,
  lead,
  action,
  children,
  wide = false,
}: {
  title: string;
  lead?: ReactNode;
  action?: ReactNode;
  children: ReactNode;
  wide?: boolean;
}) {
  useEffect(() => {
    document.title = `${title} · Algidus`;
  }, [title]);
  const place = useRef<HTMLDivElement>(null);
  const { pathname, key } = useLocation();
  useEffect(() => {
    // The first page of a window has come by no way inside it, and something may be typed already.
    if (key === "default" || isTyping(document.activeElement)) return;
    const field = place.current?.querySelector<HTMLElement>("[data-first-field]");
    (field ?? place.current?.querySelector("h1"))?.focus({ preventScroll: true });
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- once for each place one comes to
  }, [pathname]);
  return (
    <div ref={place} className={`mx-auto px-4 py-6 sm:px-6 ${wide ? "max-w-[100rem]" : "max-w-6xl"}`}>
      <div className="page-head mb-5 flex flex-wrap items-end justify-between gap-3">
        <div className="min-w-0">
          <h1 tabIndex={-1} className="text-2xl font-bold break-words outline-none">
            {title}
          </h1>
          {lead && <p className="mt-1 text-soft">{lead}</p>}
        </div>
        {action}
      </div>
      {children}
    </div>
  );
}

export function Sheet({
  title,
  action,
  children,
  className = "",
}: {
  title?: string;
  action?: ReactNode;
  children: ReactNode;
  className?: string;
}) {
  return (
    <section className={`rounded-xl border border-line bg-sheet p-4 sm:p-5 ${className}`} aria-label={title}>
      {(title || action) && (
        <div className="mb-3 flex flex-wrap items-center justify-between gap-2">
          {title && <h2 className="text-lg font-semibold">{title}</h2>}
          {action}
        </div>
      )}
      {children}
    </section>
  );
}

export const Waiting = ({ what }: { what: string }) => (
  <p role="status" className="p-6 text-soft">
    Reading {what}…
  </p>
);
