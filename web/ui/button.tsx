import type { ButtonHTMLAttributes, ReactNode } from "react";
import { Link } from "react-router";

const LOOKS = {
  main: "bg-ice text-on-ice hover:bg-ice-deep border-transparent",
  plain: "bg-sheet text-ink border-edge hover:border-ice hover:text-ice",
  quiet: "bg-transparent text-ice border-transparent hover:underline",
  danger: "bg-sheet text-danger border-danger hover:bg-danger-wash",
} as const;

const SHAPE =
  "inline-flex min-h-11 items-center justify-center gap-2 rounded-lg border px-4 py-2 font-semibold whitespace-nowrap transition-colors disabled:cursor-not-allowed disabled:opacity-55";

interface Look {
  look?: keyof typeof LOOKS;
  children: ReactNode;
}

export function Button({
  look = "plain",
  className = "",
  type = "button",
  ...rest
}: Look & ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button
      type={type === "submit" ? "submit" : "button"}
      className={`${SHAPE} ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}

export function LinkButton({
  look = "plain",
  className = "",
  to,
  children,
}: Look & { to: string; className?: string }) {
  return (
    <Link to={to} className={`${SHAPE} ${LOOKS[look]} ${className}`}>
      {children}
    </Link>
  );
}
