import type { RideShown } from "../../api/types";
import { useValue } from "../../units/useValue";

type Ledger = RideShown["told"]["ledger_wh"];
type Part = keyof Ledger | "wake" | "blades" | "water";

const PARTS: [Part, string, string][] = [
  ["air", "air", "bg-water"],
  ["water", "water", "bg-deep"],
  ["wake", "wake", "bg-water/50"],
  ["blades", "blade drag", "bg-water/50"],
  ["tyres", "tyres", "bg-deep"],
  ["climb", "height that is left", "bg-shallow"],
  ["kinetic", "motion that is left", "bg-shallow"],
  ["motor_heat", "heat of the motors", "bg-ember"],
  ["auxiliaries", "what runs along", "bg-water"],
  ["gearing_heat", "heat of the gearing", "bg-ember"],
  ["controller_heat", "heat of the controller", "bg-ember"],
  ["pack_heat", "heat of the pack", "bg-ember"],
  ["brakes", "brakes", "bg-stop"],
];

/** Where the watt-hours of the cells went, the largest first. */
export function Spent({ ledger }: { ledger: Ledger }) {
  const value = useValue();
  // Of a craft there are parts of which a vehicle on wheels has none.
  const of = (key: Part) => (ledger as Partial<Record<Part, number>>)[key] ?? 0;
  const craft = "wake" in ledger;
  const most = Math.max(...PARTS.map(([key]) => Math.abs(of(key))), 1e-9);
  const sorted = [...PARTS].sort(([a], [b]) => of(b) - of(a));
  return (
    <section aria-label="Where it went" className="mt-4">
      <h2 className="text-[15px] font-semibold">
        Where {value(ledger.cells, "Wh", 3)} of the cells went
      </h2>
      <ul>
        {sorted
          .filter(([key]) => Math.abs(of(key)) >= most / 1000)
          .map(([key, words, colour]) => (
            <li key={key} className="flex items-center gap-3 border-t border-line py-1">
              <span className="w-36">
                {key === "brakes" && craft ? "held back to slow down" : words}
              </span>
              <span className="h-2.5 flex-1">
                <span
                  className={`block h-full ${colour}`}
                  style={{ width: `${(100 * Math.max(of(key), 0)) / most}%` }}
                />
              </span>
              <span className="figure w-16 text-right">{value(of(key), "Wh", 2)}</span>
            </li>
          ))}
      </ul>
    </section>
  );
}
