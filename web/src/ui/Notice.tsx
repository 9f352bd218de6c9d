import type { ReactNode } from "react";

/** Something the user should know, with what to do about it. */
export function Notice({
  tone,
  children,
}: {
  tone: "watch" | "stop" | "calm";
  children: ReactNode;
}) {
  const edge = { watch: "border-watch", stop: "border-stop", calm: "border-water" }[tone];
  return (
    <div
      role="status"
      className={`flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 bg-raised px-4 py-2 text-[13.5px] ${edge}`}
    >
      {children}
    </div>
  );
}
