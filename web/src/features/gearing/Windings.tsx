import { windings } from "../../api/gearing";
import { digits } from "../../units/format";
import { Spread } from "../../units/Spread";
import { useValue } from "../../units/useValue";
import { Passing, SetIt, useAsked, type ViewProps, Waiting } from "./common";

type WindingsAnswer = Awaited<ReturnType<typeof windings>>;
type One = WindingsAnswer["windings"][number];
type Key = {
  [key in keyof One]: One[key] extends number | null | undefined ? key : never;
}[keyof One];
type Row = [label: string, unit: string, key: Key];

const ROWS: Row[] = [
  ["Torque for each amp", "N.m/A", "torque_per_amp_nm"],
  ["Resistance", "ohm", "resistance_ohm"],
  ["Amps the copper stands", "A", "lasting_a"],
  ["Torque for long, nearly the same for each", "N.m", "lasting_torque_nm"],
  ["Copper heat at that torque", "W", "copper_w"],
  ["Greatest power at these volts", "W", "power_w"],
  ["Top speed on today's teeth", "km/h", "top_speed_kmh"],
  ["Most motor amps", "A", "motor_peak_a"],
  ["Winding after the hill", "C", "winding_climb_c"],
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
  const value = useValue();
  return (
    <div className="relative overflow-x-auto">
      <table className="border-separate border-spacing-0 text-[13px]">
        <thead>
          <tr>
            <td />
            {data.windings.map((one) => (
              <th
                key={one.number}
                scope="col"
                className={`px-3 pb-1 text-right ${one.own ? "text-water" : ""}`}
              >
                {digits(one.number)} {data.unit}
                <small className="block font-normal text-soft">{one.own ? "as it is" : " "}</small>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ROWS.map(([label, unit, key]) => (
            <tr key={label}>
              <th scope="row" className="border-t border-line py-1 pr-4 text-left font-normal">
                {label}
              </th>
              {data.windings.map((one) => (
                <td
                  key={one.number}
                  className={`figure border-t border-line px-3 py-1 text-right whitespace-nowrap ${one.own ? "bg-raised" : ""}`}
                >
                  {value(one[key], unit)}
                  <Spread band={one.bands[key]} unit={unit} block />
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <th scope="row" className="border-t border-line py-1 pr-4 text-left font-normal">
              Reduction that keeps today's speed
            </th>
            {data.windings.map((one) => (
              <td key={one.number} className="border-t border-line px-3 py-1 text-right">
                <span className="figure">{digits(one.keeps_ratio)} : 1</span>
                {one.keeps_teeth ? (
                  <small className="block text-soft">
                    {one.keeps_teeth[0]} to {one.keeps_teeth[1]} teeth
                  </small>
                ) : null}
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row" className="border-t border-line py-1 pr-4 text-left font-normal">
              What it does
            </th>
            {data.windings.map((one) => (
              <td
                key={one.number}
                className="min-w-36 border-t border-line px-3 py-1 text-right align-top text-[12px]"
              >
                {one.say}
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row" className="border-t border-line py-1 pr-4 text-left font-normal">
              Try it
            </th>
            {data.windings.map((one) => (
              <td key={one.number} className="border-t border-line px-3 py-1 text-right">
                {one.own ? null : (
                  <span className="inline-flex flex-col items-end gap-1">
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
                )}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </div>
  );
}
