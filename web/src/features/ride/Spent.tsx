import type { RideShown } from "../../api/types";
import { useValue } from "../../units/useValue";

type Ledger = RideShown["told"]["ledger_wh"];

const PARTS: [keyof Ledger, string, string][] = [
  ["air", "air", "bg-water"],
  ["tyres", "tyres", "bg-deep"],
  ["climb", "height that is left", "bg-shallow"],
  ["kinetic", "motion that is left", "bg-shallow"],
  ["motor_heat", "heat of the motors", "bg-ember"],
  ["gearing_heat", "heat of the gearing", "bg-ember"],
  ["controller_heat", "heat of the controller", "bg-ember"],
  ["pack_heat", "heat of the pack", "bg-ember"],
  ["brakes", "brakes", "bg-stop"],
];

/** Where the watt-hours of the cells went, the largest first. */
export function Spent({ ledger }: { ledger: Ledger }) {
  const value = useValue();
  const most = Math.max(...PARTS.map(([key]) => Math.abs(ledger[key])), 1e-9);
  const sorted = [...PARTS].sort(([a], [b]) => ledger[b] - ledger[a]);
  return (
    <section aria-label="Where it went" className="mt-4">
      <h2 className="text-[15px] font-semibold">
        Where {value(ledger.cells, "Wh", 3)} of the cells went
      </h2>
      <ul>
        {sorted
          .filter(([key]) => Math.abs(ledger[key]) >= most / 1000)
          .map(([key, words, colour]) => (
            <li key={key} className="flex items-center gap-3 border-t border-line py-1">
              <span className="w-36">{words}</span>
              <span className="h-2.5 flex-1">
                <span
                  className={`block h-full ${colour}`}
                  style={{ width: `${(100 * Math.max(ledger[key], 0)) / most}%` }}
                />
              </span>
              <span className="figure w-16 text-right">{value(ledger[key], "Wh", 2)}</span>
            </li>
          ))}
      </ul>
    </section>
  );
}
