import type { ReactNode } from "react";
import { ApiError } from "../../api/client";
import type { BuildDocument } from "../../api/types";
import { Button } from "../../ui/Button";
import { Notice } from "../../ui/Notice";
import { typed } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown, toStored } from "../../units/quantities";

export interface ViewProps {
  document: BuildDocument;
  pinned: BuildDocument | null;
  /** Makes a change of the build; it can be undone like any other. */
  onSet: (values: Record<string, unknown>) => void;
}

/** Said above a last answer that still stands while a new one does not come. */
export function Passing({ error }: { error: unknown }) {
  if (!(error instanceof ApiError && error.passing)) return null;
  return (
    <Notice tone="watch">
      {error.where ? `The ${error.where} ` : ""}
      {error.what}. What is shown is the last answer; asking again.
    </Notice>
  );
}

export { useAsked } from "../../ui/useAsked";
export { Waiting } from "../../ui/Waiting";

export function SetIt({
  children,
  label,
  onClick,
}: {
  children?: ReactNode;
  label: string;
  onClick: () => void;
}) {
  return (
    <Button
      onClick={onClick}
      aria-label={`${typeof children === "string" ? children : "Set it"}: ${label}`}
    >
      {children ?? "Set it"}
    </Button>
  );
}

/** A number asked for in the user's unit. */
export function Ask({
  label,
  unit,
  value,
  onValue,
}: {
  label: string;
  unit: string;
  value: number | null;
  onValue: (value: number | null) => void;
}) {
  const { choice } = useUnits();
  const own = documentUnit(unit, choice);
  const now = value === null ? "" : String(Number(toShown(value, own).toPrecision(5)));
  return (
    <label className="flex items-center gap-2 text-[13.5px]">
      {label}
      <input
        key={now}
        defaultValue={now}
        inputMode="decimal"
        onBlur={(event) => {
          const said = typed(event.target.value);
          const next = said === null ? null : toStored(said, own);
          if (next !== value) onValue(next);
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="min-h-11 w-20 rounded-md border border-line bg-raised px-2 tabular-nums sm:min-h-8"
      />
      <span className="text-soft">{own.sign}</span>
    </label>
  );
}

export const Mark = ({ stopped }: { stopped: string | null }) =>
  stopped ? (
    <span className="font-semibold text-stop">
      Stop: <span className="font-normal">{stopped}</span>
    </span>
  ) : (
    <span className="text-fine">Nothing stops it</span>
  );
