import { useState } from "react";
import { woundField } from "../../api/conversion";
import type { WoundField } from "../../api/types";
import { Ask } from "../../ui/Ask";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";

type Key = "armature_ohm" | "series_ohm" | "shunt_ohm" | "volts" | "free_rpm" | "amps";

const MEASURED: [Key, string, string][] = [
  ["armature_ohm", "Armature", "ohm"],
  ["series_ohm", "Thick winding", "ohm"],
  ["shunt_ohm", "Thin winding", "ohm"],
  ["volts", "On", "V"],
  ["free_rpm", "it runs free at", "rpm"],
  ["amps", "and then carries", "A"],
];

type Measured = Partial<Record<Key, number | null>>;

/** What a salvaged motor is by the ohms at its terminals: series, shunt or compound. */
export function Terminals() {
  const [told, setTold] = useState<Measured>({});
  const [sense, setSense] = useState<NonNullable<WoundField["sense"]>>("cumulative");
  const { armature_ohm: armature, series_ohm: series, shunt_ohm: shunt } = told;
  const ready = Boolean(armature && (series || shunt));
  const { data, error } = useAsked(
    [told, sense, "wound-field"],
    () => woundField({ ...told, sense } as WoundField),
    ready,
  );
  return (
    <section aria-label="What the terminals say" className="mt-6">
      <h2 className="text-[15px] font-semibold">A motor without papers: what its terminals say</h2>
      <p className="max-w-3xl pb-1 text-[13px] text-soft">
        Count them, lift the brushes, and measure each winding alone. Two thick ones beside the
        armature are a series field, two thin ones a shunt field; with all four it is a compound
        motor.
      </p>
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        {MEASURED.map(([key, label, unit]) => (
          <Ask
            key={key}
            label={label}
            unit={unit}
            value={told[key] ?? null}
            onValue={(value) => setTold({ ...told, [key]: value })}
          />
        ))}
        {series && shunt ? (
          <label className="flex items-center gap-2 text-[13.5px]">
            thick winding
            <select
              value={sense}
              onChange={(event) => setSense(event.target.value as typeof sense)}
              className="min-h-11 rounded-md border border-line bg-raised px-2 sm:min-h-8"
            >
              <option value="cumulative">helps the thin one</option>
              <option value="differential">works against it</option>
            </select>
          </label>
        ) : null}
      </div>
      {ready ? (
        data ? (
          <p className="max-w-3xl py-2 text-[13.5px]" aria-live="polite">
            {data.say}
            {data.rpm != null
              ? ` With ${told.amps} A it turns ${Math.round(data.rpm).toLocaleString("en-GB")} rpm.`
              : ""}
          </p>
        ) : (
          <Waiting error={error} what="Looking at the terminals" />
        )
      ) : null}
    </section>
  );
}
