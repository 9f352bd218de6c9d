import type { KeyboardEvent } from "react";

interface StepperProps {
  label: string;
  value: string;
  unit: string;
  onUp: (() => void) | null;
  onDown: (() => void) | null;
  /** Shown beside the value when the pinned state differs. */
  was?: string | null;
  leverId?: string;
  /** A word before the value, where the unit alone would not say which lever it is. */
  tag?: string;
  compact?: boolean;
}

/** One lever: a value between two buttons; arrow keys press it too. */
export function Stepper({
  label,
  value,
  unit,
  onUp,
  onDown,
  was,
  leverId,
  tag,
  compact,
}: StepperProps) {
  const keys = (event: KeyboardEvent) => {
    if (event.key === "ArrowUp" && onUp) onUp();
    else if (event.key === "ArrowDown" && onDown) onDown();
    else return;
    event.preventDefault();
  };
  const side =
    "grid place-items-center text-[15px] leading-none text-ink hover:bg-shallow disabled:text-line disabled:cursor-default min-w-11 max-[359px]:min-w-9 sm:min-w-6.5";
  return (
    <div
      role="group"
      aria-label={`${label}, ${value} ${unit}`}
      data-lever={leverId}
      onKeyDown={keys}
      className="inline-flex h-11 shrink-0 items-stretch overflow-hidden rounded-md border border-line bg-raised sm:h-6.5"
      title={`${label}${was ? `; pinned at ${was} ${unit}` : ""}`}
    >
      <button
        type="button"
        className={`${side} border-r border-line`}
        aria-label={`${label} down`}
        disabled={onDown === null}
        onClick={() => onDown?.()}
      >
        −
      </button>
      <span
        className={`figure flex items-center justify-center text-ink gap-1 whitespace-nowrap text-[13px] ${compact ? "min-w-8 px-1" : "min-w-14 px-1.5"} ${was ? "bg-shallow" : ""}`}
      >
        {tag ? <small className="text-[11px] font-normal text-soft">{tag}</small> : null}
        {value}
        {unit ? <small className="text-[11px] font-normal text-soft">{unit}</small> : null}
      </span>
      <button
        type="button"
        className={`${side} border-l border-line`}
        aria-label={`${label} up`}
        disabled={onUp === null}
        onClick={() => onUp?.()}
      >
        +
      </button>
    </div>
  );
}
