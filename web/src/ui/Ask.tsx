import { typed } from "../units/format";
import { useUnits } from "../units/preferences";
import { documentUnit, toShown, toStored } from "../units/quantities";

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
