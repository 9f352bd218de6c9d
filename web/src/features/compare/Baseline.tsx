import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { baseline } from "../../api/builds";
import type { BuildDocument } from "../../api/types";
import { digits } from "../../units/format";

const STANDS = { below: "below the table", within: "as the table says", above: "above the table" };

/** What the trade's table by vehicle class says, beside what is computed, and why they differ. */
export function Baseline({ document, name }: { document: BuildDocument; name: string }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const told = useQuery({
    queryKey: ["baseline", document, chosen],
    queryFn: () => baseline(document, chosen),
    placeholderData: (before) => before,
  }).data;
  if (!told) return null;
  return (
    <section className="mt-6 border-t border-line pt-3">
      <h2 className="text-[15px] font-semibold">The other school: a table by vehicle</h2>
      <p className="mb-2 max-w-3xl text-[13px] text-soft">
        Some builders take motor, controller and cells from what vehicles of a class usually have,
        without computing. It is quick, and right where the vehicle is as usual as the table thinks.
      </p>
      <label className="text-[13px]">
        {name} as a{" "}
        <select
          value={told.chosen}
          onChange={(event) => setChosen(event.target.value)}
          className="min-h-11 max-w-full rounded-md border border-line bg-raised px-2 sm:min-h-8"
        >
          {told.classes.map((one) => (
            <option key={one.id} value={one.id}>
              {one.title}
            </option>
          ))}
        </select>
      </label>
      <p className="mt-1 text-[12.5px] text-soft">
        The table takes for granted: {told.assumes}. {told.say}
      </p>
      <ul className="mt-1">
        {told.rows.map((row) => (
          <li key={row.id} className="border-t border-line py-1.5 text-[13px]">
            <div className="flex flex-wrap items-baseline gap-x-4">
              <span className="w-48">{row.label}</span>
              <span>
                table{" "}
                <span className="figure">
                  {row.high == null
                    ? `at least ${digits(row.low ?? 0, 2)}`
                    : `${digits(row.low ?? 0, 2)} to ${digits(row.high, 2)}`}
                </span>{" "}
                {row.unit}
              </span>
              <span>
                computed <span className="figure">{digits(row.computed)}</span> {row.unit}
              </span>
              <span className={row.stands === "within" ? "text-fine" : "font-semibold text-watch"}>
                {STANDS[row.stands]}
              </span>
            </div>
            {row.stands === "within" ? null : (
              <p className="max-w-3xl text-[12.5px] text-soft">{row.why}</p>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
