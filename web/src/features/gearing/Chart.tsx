import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useState } from "react";
import { speedChart } from "../../api/gearing";
import type { ChartAnswer } from "../../api/types";
import { Axes } from "../../plots/Axes";
import { useSize } from "../../ui/useSize";
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
  const [ref, width] = useSize();
  if (!data) return <Waiting error={error} what="Working out the chart" />;
  const at = Math.max(0, data.states.indexOf(state));
  const limit = data.limit_rpm;
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
            : "The motor's highest rpm is not stated."}{" "}
          Solid: free rpm, wheels in the air. Dashed: at top speed on the level. Press a ring to try
          it; undo brings the build back.
        </span>
      </div>
      <div ref={ref} className="mt-1">
        <Lines answer={data} at={at} width={width} onSet={onSet} />
      </div>
      <p className="max-w-4xl py-1 text-[12.5px] text-soft">
        {data.schools}
        {data.within_pct != null && data.within_pct >= 0.5
          ? ` As the motor is known now, all of them may be off by ${digits(data.within_pct, 2)} % either way, four times in five.`
          : ""}
      </p>
      <details className="text-[13px]">
        <summary className="cursor-pointer py-2 text-water">The figures as a table</summary>
        <Figures answer={data} at={at} onSet={onSet} />
      </details>
    </>
  );
}

/** Whether an rpm is above what the motor may turn, or where one school wants it. */
function judged(answer: ChartAnswer, rpm: number | null | undefined): keyof typeof LOOKS {
  if (rpm == null) return "";
  if (answer.limit_rpm != null && rpm > answer.limit_rpm) return "over";
  const [low, high] = answer.window_rpm ?? [];
  return low !== undefined && high !== undefined && rpm >= low && rpm <= high ? "window" : "";
}

interface Props {
  answer: ChartAnswer;
  at: number;
  onSet: ViewProps["onSet"];
}

const HEIGHT = 460;
const LEFT = 58;
const RIGHT = 74;
const TOP = 22;
const BOTTOM = 36;

/** Rpm over the windings, a line for each pack. */
function Lines({ answer, at, onSet, width }: Props & { width: number }) {
  if (width < 220) return null;
  const { windings, cells, rows, own, limit_rpm: limit } = answer;
  const numbers = windings.map((number, column) => (number > 0 ? number : column + 1));
  const ends = [Math.min(...numbers), Math.max(...numbers)] as [number, number];
  const room = (ends[1] - ends[0]) * 0.05 || ends[0] * 0.2;
  const x = scaleLinear([ends[0] - room, ends[1] + room], [LEFT, width - RIGHT]);
  const most = Math.max(
    ...rows.flatMap((row) => row.map((cell) => cell.free_rpm[at] ?? 0)),
    (limit ?? 0) * 1.04,
  );
  const y = scaleLinear([0, most * 1.03], [HEIGHT - BOTTOM, TOP]).nice();
  const path = (values: (number | null | undefined)[]) =>
    line<number>()
      .defined((column) => values[column] != null)
      .x((column) => x(numbers[column] ?? 0))
      .y((column) => y(values[column] ?? 0))(numbers.map((_, column) => column)) ?? "";
  const [low, high] = answer.window_rpm ?? [];
  return (
    <svg
      width={width}
      height={HEIGHT}
      role="group"
      aria-label="Rpm over the windings of the can, a line for each number of cells"
    >
      <text x={4} y={12} className="text-[11.5px]">
        rpm
      </text>
      {low !== undefined && high !== undefined ? (
        <g>
          <rect
            x={LEFT}
            width={width - RIGHT - LEFT}
            y={y(Math.min(high, most))}
            height={Math.max(0, y(low) - y(Math.min(high, most)))}
            className="fill-shallow opacity-40"
          />
          <text x={LEFT + 6} y={y(Math.min(high, most)) + 13} className="text-[11px]">
            where one school aims
          </text>
        </g>
      ) : null}
      <Axes x={x} y={y} xTicks={windings.length > 1 ? windings : []} />
      <text x={width - RIGHT} y={HEIGHT - 3} textAnchor="end" className="fill-soft text-[11px]">
        winding, {answer.unit}
      </text>
      {limit == null ? null : (
        <>
          <line
            x1={LEFT}
            x2={width - RIGHT}
            y1={y(limit)}
            y2={y(limit)}
            className="stroke-stop"
            strokeWidth={1.5}
            strokeDasharray="7 4"
          />
          <text x={LEFT + 6} y={y(limit) - 5} className="text-[11px]">
            {width < 700
              ? "the motor's limit"
              : "what the motor may turn; the other school takes all below"}
          </text>
        </>
      )}
      {rows.map((row, packs) => {
        const mine = packs === own[0];
        const free = row.map((cell) => cell.free_rpm[at]);
        const last = free.findLastIndex((rpm) => rpm != null);
        return (
          <g key={cells[packs]}>
            <path
              d={path(free)}
              className={`fill-none ${mine ? "stroke-water" : "stroke-soft"}`}
              strokeWidth={mine ? 2.5 : 1.25}
            />
            <path
              d={path(row.map((cell) => cell.loaded_rpm[at]))}
              className={`fill-none ${mine ? "stroke-water" : "stroke-soft"} opacity-70`}
              strokeWidth={mine ? 1.75 : 1}
              strokeDasharray="4 4"
            />
            {last < 0 ? null : (
              <text
                x={x(numbers[last] ?? 0) + 10}
                y={y(free[last] ?? 0) + 4}
                className={`text-[11.5px] ${mine ? "font-semibold" : ""}`}
              >
                {cells[packs]} cells
              </text>
            )}
          </g>
        );
      })}
      {rows.map((row, packs) =>
        row.map((cell, column) => {
          const rpm = cell.free_rpm[at];
          if (rpm == null) return null;
          const here = packs === own[0] && column === own[1];
          const over = judged(answer, rpm) === "over";
          return (
            // The table below sets the same by keyboard.
            // biome-ignore lint/a11y/noStaticElementInteractions: the table below does it by keyboard
            <circle
              key={`${cells[packs]} ${windings[column]}`}
              cx={x(numbers[column] ?? 0)}
              cy={y(rpm)}
              r={here ? 7 : 5}
              className={`cursor-pointer ${here ? "fill-water stroke-ink" : over ? "fill-paper stroke-stop opacity-70" : "fill-paper stroke-water"}`}
              strokeWidth={here ? 2 : 1.5}
              strokeDasharray={over && !here ? "2 2" : undefined}
              onClick={() => onSet(cell.change)}
            >
              <title>
                {`${cells[packs]} cells, ${windings[column] || "its own"} ${answer.unit}: ${Math.round(rpm).toLocaleString("en-GB")} rpm free, ${cell.loaded_rpm[at] == null ? "does not reach a steady speed" : `${Math.round(cell.loaded_rpm[at] as number).toLocaleString("en-GB")} loaded`}${over ? "; above what the motor may turn" : ""}`}
              </title>
            </circle>
          );
        }),
      )}
    </svg>
  );
}

/** The same figures, plain; each sets its pack and winding. */
function Figures({ answer: data, at, onSet }: Props) {
  return (
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
          {data.rows.map((row, packs) => (
            <tr key={data.cells[packs]}>
              <th scope="row" className="figure pr-3 text-right">
                {data.cells[packs]}
              </th>
              {row.map((cell, column) => {
                const is = judged(data, cell.free_rpm[at]);
                const show = (rpm: number | null | undefined) =>
                  rpm == null ? "–" : Math.round(rpm).toLocaleString("en-GB");
                return (
                  <Cell
                    key={data.windings[column]}
                    label={`${data.cells[packs]} cells, ${data.windings[column]} ${data.unit}`}
                    on={packs === data.own[0] && column === data.own[1]}
                    look={LOOKS[is]}
                    onPress={() => onSet(cell.change)}
                    figure={show(cell.free_rpm[at])}
                    beneath={`${show(cell.loaded_rpm[at])} loaded${is ? `, ${is}` : ""}`}
                  />
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
