import { useState } from "react";
import { speedChart } from "../../api/ways";
import { Passing, useAsked, type ViewProps, Waiting } from "./common";

const STATES = {
  charger: "straight off the charger",
  full: "full, settled",
  nominal: "nominal",
  storage: "storage",
  empty: "empty",
};

/** Packs against windings: rpm free and loaded, with the motor's limit and both schools. */
export function Chart({ document, onSet }: ViewProps) {
  const { data, error } = useAsked([document, "chart"], () => speedChart(document));
  const [state, setState] = useState<keyof typeof STATES>("storage");
  if (!data) return <Waiting error={error} what="Working out the chart" />;
  const at = Math.max(0, data.states.indexOf(state));
  const limit = data.limit_rpm;
  const judged = (rpm: number | null | undefined) => {
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
                <th key={number} scope="col" className="figure px-2 text-right">
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
                    <td key={data.windings[column]} className="p-0">
                      <button
                        type="button"
                        aria-pressed={own}
                        onClick={() => onSet(cell.change)}
                        className={`min-h-11 w-full min-w-22 rounded px-2 text-right leading-tight ${own ? "border-2 border-water bg-shallow" : is === "over" ? "border border-dashed border-stop" : is === "window" ? "border-2 border-fine bg-raised" : "border border-line bg-raised hover:border-water"}`}
                      >
                        <span className="sr-only">
                          {data.cells[line]} cells, {data.windings[column]} {data.unit}:{" "}
                        </span>
                        <span className="figure block">{show(free)}</span>
                        <span className={`block text-[11.5px] ${own ? "" : "text-soft"}`}>
                          {show(loaded)} loaded
                          {is === "over" ? ", over" : is === "window" ? ", window" : ""}
                        </span>
                      </button>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="text-[12.5px] text-soft">
        Above: free rpm with the wheels in the air; below it rpm at top speed on the level. Press a
        cell of the chart to try it; undo brings the build back.
      </p>
    </>
  );
}
