import type { ReactNode } from "react";
import { windings } from "../../api/gearing";
import { type FigureRow, FigureTable, WordRow } from "../../plots/FigureTable";
import { digits } from "../../units/format";
import { Passing, SetIt, useAsked, type ViewProps, Waiting } from "./common";

type WindingsAnswer = Awaited<ReturnType<typeof windings>>;
type One = WindingsAnswer["windings"][number];
type Key = {
  [key in keyof One]: One[key] extends number | null | undefined ? key : never;
}[keyof One];
type Row = [label: string, unit: string, key: Key, better: FigureRow["better"]];

const ROWS: Row[] = [
  ["Torque for each amp", "N.m/A", "torque_per_amp_nm", null],
  ["Resistance", "ohm", "resistance_ohm", null],
  ["Amps the copper stands", "A", "lasting_a", null],
  ["Torque for long, nearly the same for each", "N.m", "lasting_torque_nm", "more"],
  ["Copper heat at that torque", "W", "copper_w", "less"],
  ["Greatest power at these volts", "W", "power_w", "more"],
  ["Top speed on today's teeth", "km/h", "top_speed_kmh", "more"],
  ["Most motor amps", "A", "motor_peak_a", "less"],
  ["Winding after the hill", "C", "winding_climb_c", "less"],
];

/** The windings of one can side by side, and the teeth that keep today's speed with each. */
export function Windings({ document, onSet }: ViewProps) {
  const { data, error } = useAsked([document, "windings"], () => windings(document));
  if (!data) return <Waiting error={error} what="Winding" />;
  return (
    <>
      <Passing error={error} />
      <p className="max-w-3xl py-1 text-[13.5px]">{data.say}</p>
      {data.windings.length > 0 ? <Table answer={data} onSet={onSet} /> : null}
    </>
  );
}

function Table({ answer: data, onSet }: { answer: WindingsAnswer; onSet: ViewProps["onSet"] }) {
  const all = data.windings;
  const columns = all.map((one) => ({
    id: String(one.number),
    head: (
      <span className={one.own ? "text-water" : ""}>
        {digits(one.number)} {data.unit}
        <small className="block font-normal text-soft">{one.own ? "as it is" : " "}</small>
      </span>
    ),
  }));
  const rows: FigureRow[] = ROWS.map(([label, unit, key, better]) => ({
    id: key,
    label,
    unit,
    better,
    values: all.map((one) => one[key]),
    bands: all.map((one) => one.bands[key]),
  }));
  const cell = (one: One, say: ReactNode) => ({ id: String(one.number), say });
  return (
    <FigureTable
      caption="The windings of the can"
      columns={columns}
      rows={rows}
      against={Math.max(
        all.findIndex((one) => one.own),
        0,
      )}
    >
      <WordRow
        label="Gear ratio that keeps today's speed"
        cells={all.map((one) =>
          cell(
            one,
            <>
              <span className="figure">{digits(one.keeps_ratio)} : 1</span>
              {one.keeps_teeth ? (
                <small className="block text-soft">
                  {one.keeps_teeth[0]} to {one.keeps_teeth[1]} teeth
                </small>
              ) : null}
            </>,
          ),
        )}
      />
      <WordRow label="What it does" cells={all.map((one) => cell(one, one.say))} />
      <WordRow
        label="Try it"
        cells={all.map((one) =>
          cell(
            one,
            one.own ? null : (
              <span className="inline-flex flex-col items-start gap-1">
                <SetIt label={`winding ${one.number}`} onClick={() => onSet(one.change)} />
                {one.keeps_teeth ? (
                  <SetIt
                    label={`winding ${one.number} at today's speed`}
                    onClick={() => onSet(one.keeps_change)}
                  >
                    With those teeth
                  </SetIt>
                ) : null}
              </span>
            ),
          ),
        )}
      />
    </FigureTable>
  );
}
