import type { ReactNode } from "react";

interface Props {
  /** What it would set, read out before its figures. */
  label: string;
  /** Whether the build is so now. */
  on: boolean;
  look?: "plain" | "stopped" | "good";
  title?: string;
  figure: ReactNode;
  beneath: ReactNode;
  onPress: () => void;
}

const LOOKS = {
  plain: "border border-line bg-raised hover:border-water",
  stopped: "border border-dashed border-stop text-soft",
  good: "border-2 border-fine bg-raised",
};

/** One cell of a table of choices: a figure, what goes with it, and a press that sets it. */
export function Cell({ label, on, look = "plain", title, figure, beneath, onPress }: Props) {
  return (
    <td className="p-0">
      <button
        type="button"
        aria-pressed={on}
        title={title}
        onClick={onPress}
        className={`min-h-11 w-full min-w-17 rounded px-1.5 text-left leading-tight whitespace-nowrap sm:min-h-9 ${
          on ? "border-2 border-water bg-shallow" : LOOKS[look]
        }`}
      >
        <span className="sr-only">{label}: </span>
        <span className="figure block">{figure}</span>
        <span className="block text-[11.5px]">{beneath}</span>
      </button>
    </td>
  );
}
