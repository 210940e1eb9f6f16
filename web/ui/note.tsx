import { CircleAlert, Info, TriangleAlert } from "lucide-react";
import type { ReactNode } from "react";
import { type Fault, faultOf } from "../app/fault.ts";

const KINDS = {
  info: { icon: Info, look: "border-ice bg-frost", word: "Note" },
  caution: { icon: TriangleAlert, look: "border-amber bg-amber-wash", word: "Caution" },
  fault: { icon: CircleAlert, look: "border-danger bg-danger-wash", word: "Problem" },
} as const;

export function Note({
  kind = "info",
  title,
  children,
  live = false,
}: {
  kind?: keyof typeof KINDS;
  title?: string;
  children?: ReactNode;
  live?: boolean;
}) {
  const { icon: Icon, look, word } = KINDS[kind];
  return (
    <div role={live ? "alert" : undefined} className={`flex gap-3 rounded-lg border-l-4 px-4 py-3 ${look}`}>
      <Icon aria-hidden className="mt-0.5 size-5 shrink-0" />
      <div className="min-w-0 break-words">
        <span className="sr-only">{word}: </span>
        {title && <p className="font-semibold">{title}</p>}
        {children && <div className="text-sm">{children}</div>}
      </div>
    </div>
  );
}

export function FaultNote({ error, fault, children }: { error?: unknown; fault?: Fault | null; children?: ReactNode }) {
  const found = fault ?? faultOf(error);
  if (!found) return null;
  return (
    <Note kind="fault" title={found.what} live>
      {found.remedy}
      {children}
    </Note>
  );
}
