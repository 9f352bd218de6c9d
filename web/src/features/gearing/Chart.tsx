import { useState } from "react";
import { speedChart } from "../../api/gearing";
import { digits } from "../../units/format";
import { Cell } from "./Cell";
import { Passing, useAsked, type ViewProps, Waiting } from "./common";

const STATES = {
  charger: "straight off the charger",
  full: "full, settled",
  nominal: "at nominal volts",
  storage: "at storage charge",
  empty: "empty",
};

const LOOKS = { over: "stopped", window: "good", "": "plain" } as const;

/** Packs against windings: rpm free and loaded, with the motor's limit and both schools. */
export function Chart({ document, onSet }: ViewProps) {
  const { data, error } = useAsked([document, "chart"], () => speedChart(document));
  const [state, setState] = useState<keyof typeof STATES>("storage");
  if (!data) return <Waiting error={error} what="Working out the chart" />;
  const at = Math.max(0, data.states.indexOf(state));
  const limit = data.limit_rpm;
  const judged = (rpm: number | null | undefined): keyof typeof LOOKS => {
    if (rpm == null) return "";
    if (limit != null && rpm > limit) return "over";
    const [low, high] = data.window_rpm ?? [];
    if (low !== undefined && high !== undefined && rpm >= low && rpm <= high) return "window";
    return "";
  };
  return (
    <>
      <Passing error={error} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-[13.5px]">
        <label className="flex items-center gap-2">
          The pack is
          <select
            value={state}
            onChange={(event) => setState(event.target.value as keyof typeof STATES)}
            className="min-h-11 rounded-md border border-line bg-raised px-2 sm:min-h-8"
          >
            {data.states.map((id) => (
              <option key={id} value={id}>
                {STATES[id]}
              </option>
            ))}
          </select>
        </label>
        <span className="text-soft">
          {limit != null
            ? `The motor may turn ${limit.toLocaleString("en-GB")} rpm.`
            : "The motor's highest rpm is not stated."}
        </span>
      </div>
      <p className="max-w-3xl py-1 text-[12.5px] text-soft">{data.schools}</p>
      <div className="relative overflow-x-auto">
        <table className="border-separate border-spacing-1 text-[12.5px]">
          <thead>
            <tr>
              <th scope="col" className="pr-3 text-left font-normal text-soft">
                cells, by winding {data.unit}
              </th>
              {data.windings.map((number) => (
                <th key={number} scope="col" className="figure px-1.5 text-left">
                  {number || "its own"}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {data.rows.map((row, line) => (
              <tr key={data.cells[line]}>
                <th scope="row" className="figure pr-3 text-right">
                  {data.cells[line]}
                </th>
                {row.map((cell, column) => {
                  const free = cell.free_rpm[at];
                  const loaded = cell.loaded_rpm[at];
                  const own = line === data.own[0] && column === data.own[1];
                  const is = judged(free);
                  const show = (rpm: number | null | undefined) =>
                    rpm == null ? "–" : Math.round(rpm).toLocaleString("en-GB");
                  return (
                    <Cell
                      key={data.windings[column]}
                      label={`${data.cells[line]} cells, ${data.windings[column]} ${data.unit}`}
                      on={own}
                      look={LOOKS[is]}
                      onPress={() => onSet(cell.change)}
                      figure={show(free)}
                      beneath={`${show(loaded)} loaded${is ? `, ${is}` : ""}`}
                    />
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="max-w-3xl text-[12.5px] text-soft">
        Above: free rpm with the wheels in the air; below it rpm at top speed on the level. Press a
        cell of the chart to try it; undo brings the build back.
        {data.within_pct != null && data.within_pct >= 0.5
          ? ` As the motor is known now, all of them may be off by ${digits(data.within_pct, 2)} % either way, four times in five.`
          : ""}
      </p>
    </>
  );
}
