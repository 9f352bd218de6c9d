import type { ButtonHTMLAttributes } from "react";

type Kind = "plain" | "line" | "main";

const LOOK: Record<Kind, string> = {
  plain: "hover:bg-sunk px-2",
  line: "border border-line bg-raised hover:border-water px-3",
  main: "bg-water text-on-water hover:opacity-90 px-4 font-semibold",
};

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  kind?: Kind;
}

export function Button({ kind = "line", className = "", ...rest }: Props) {
  return (
    <button
      type="button"
      className={`inline-flex min-h-11 items-center justify-center gap-1.5 rounded-md text-[13px] whitespace-nowrap disabled:cursor-default disabled:opacity-40 sm:min-h-8 ${LOOK[kind]} ${className}`}
      {...rest}
    />
  );
}
