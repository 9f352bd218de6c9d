import { useState } from "react";
import type { Answer, BoardRow, FigureId } from "../../api/types";
import { Button } from "../../ui/Button";
import { Term } from "../../ui/Term";
import type { TermId } from "../../ui/terms";
import { useValue } from "../../units/useValue";
import { StopsThen } from "../bench/levers/StopsThen";
import { SetIt } from "./common";

interface Props {
  answer: Answer;
  onPress: (lever: string, step: 1 | -1) => void;
}

const WISHES: [FigureId, string][] = [
  ["top_speed_kmh", "Faster"],
  ["endurance_min", "Longer"],
  ["thrust_to_weight", "Easier to launch"],
];

const COLUMNS: [FigureId, TermId, string][] = [
  ["top_speed_kmh", "top_speed", "km/h"],
  ["thrust_to_weight", "thrust_to_weight", ""],
  ["climb_ms", "climb_rate", "m/s up"],
  ["endurance_min", "endurance", "min"],
  ["pack_peak_a", "pack_current", "A"],
];

/** What a road is a change of: the propeller, the winding, or the cells. */
const ROADS = /^(propeller\.|winding|motor\.kv|battery\.(series|parallel))/;

/** Pitch, diameter, blades, winding and cells side by side, each a press, by what is wished for. */
export function ThreeRoads({ answer, onPress }: Props) {
  const value = useValue();
  const [wish, setWish] = useState<FigureId>("top_speed_kmh");
  const { now, rows, ranked } = answer.board;
  const order = ranked[wish] ?? [];
  const roads = rows
    .map((row, at) => ({ row, rank: order.indexOf(at) }))
    .filter(({ row, rank }) => ROADS.test(row.lever) && rank >= 0)
    .sort((one, other) => one.rank - other.rank);
  const after = (row: BoardRow, id: FigureId) => {
    const [effect] = row.effects[id] ?? [];
    const stands = now[id];
    return effect === undefined || stands == null ? null : stands + effect;
  };
  return (
    <section aria-label="Three roads to more" className="text-[13px]">
      <div className="flex flex-wrap items-center gap-2 pb-2">
        <h2 className="mr-2 text-[15px] font-semibold">Faster, longer, or easier to launch?</h2>
        <div role="radiogroup" aria-label="What is wished for" className="flex gap-1.5">
          {WISHES.filter(([id]) => id in now).map(([id, title]) => (
            <Button
              key={id}
              role="radio"
              aria-checked={id === wish}
              className={id === wish ? "border-water font-semibold" : ""}
              onClick={() => setWish(id)}
            >
              {title}
            </Button>
          ))}
        </div>
      </div>
      <p className="max-w-[75ch] pb-2 text-soft">
        Torque goes with the square of the turns, and pitch acts nearly in proportion: a cell or a
        faster winding turns every blade faster and asks far more amps than an inch of pitch. How
        much, on this propeller:
      </p>
      <div className="overflow-x-auto">
        <table className="w-full max-w-5xl">
          <thead className="text-left text-[12px] text-soft">
            <tr>
              <th className="w-2/5 min-w-40 font-normal">One press</th>
              {COLUMNS.map(([id, term]) => (
                <th key={id} className="px-2 align-bottom font-normal">
                  <Term id={term} />
                </th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody>
            <tr className="border-t border-line font-semibold">
              <th scope="row" className="py-1.5 text-left">
                As it is
              </th>
              {COLUMNS.map(([id, , unit]) => (
                <td key={id} className="figure px-2 whitespace-nowrap">
                  {value(now[id], unit)}
                </td>
              ))}
              <td />
            </tr>
            {roads.map(({ row }) => (
              <tr key={`${row.lever}${row.step}`} className="border-t border-line">
                <th scope="row" className="py-1.5 pr-3 text-left font-normal">
                  {row.say}
                  <StopsThen row={row} />
                </th>
                {COLUMNS.map(([id, , unit]) => (
                  <td
                    key={id}
                    className={`px-2 whitespace-nowrap ${id === wish ? "figure" : "tabular-nums"}`}
                  >
                    {value(after(row, id), unit)}
                  </td>
                ))}
                <td className="text-right">
                  <SetIt label={row.say} onClick={() => onPress(row.lever, row.step)} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {roads.length === 0 ? (
        <p className="py-2">No single change of these gives more of it.</p>
      ) : null}
    </section>
  );
}
