import { useState } from "react";
import { overvolt } from "../../api/gearing";
import { SeverityMark } from "../../ui/Severity";
import { Spread } from "../../units/Spread";
import { useValue } from "../../units/useValue";
import { Ask, Passing, SetIt, useAsked, type ViewProps, Waiting } from "./common";

/** A higher pack beside the present one: conditions, not a yes or no. */
export function Volts({ document, onSet }: ViewProps) {
  const own = document.battery.series;
  const [asked, setAsked] = useState<number | null>(null);
  const series = asked !== null && asked > own ? Math.round(asked) : own + 1;
  const { data, error } = useAsked([document, series, "volts"], () => overvolt(document, series));
  const value = useValue();
  const mark = { fine: "ok", condition: "watch", stop: "stop" } as const;
  return (
    <>
      <div className="flex flex-wrap items-center gap-4 py-1">
        <Ask
          label={`Instead of ${own} cells in series,`}
          unit="cells"
          value={series}
          onValue={setAsked}
        />
        {data ? (
          <SetIt label={`${series} cells`} onClick={() => onSet(data.change)}>
            Try it with the lower limit
          </SetIt>
        ) : null}
      </div>
      {!data ? (
        <Waiting error={error} what="Working it out" />
      ) : (
        <div className="grid gap-x-8 gap-y-4 lg:grid-cols-2">
          <div>
            <Passing error={error} />
            <p className="text-[15px] font-semibold">{data.verdict}</p>
            <ul className="mt-1">
              {data.conditions.map((one) => (
                <li key={one.id} className="flex gap-2 border-t border-line py-1.5 text-[13.5px]">
                  <span className="pt-0.5">
                    <SeverityMark
                      severity={mark[one.weight]}
                      title={{ fine: "Fine", condition: "Condition", stop: "Stop" }[one.weight]}
                    />
                  </span>
                  {one.say}
                </li>
              ))}
            </ul>
            {data.schools.map((school) => (
              <p key={school} className="mt-2 text-[12.5px] text-soft">
                {school}
              </p>
            ))}
          </div>
          <table className="self-start border-separate border-spacing-0 text-[13px]">
            <thead>
              <tr>
                <td />
                <th scope="col" className="px-3 text-right">
                  {data.now.series} cells
                </th>
                <th scope="col" className="px-3 text-right">
                  {data.then.series} cells
                </th>
              </tr>
            </thead>
            <tbody>
              {(
                [
                  ["Straight off the charger", "full_v", "V"],
                  ["Free rpm, wheels in the air", "free_rpm", "rpm"],
                  ["Rpm at top speed", "loaded_rpm", "rpm"],
                  ["Top speed", "top_speed_kmh", "km/h"],
                  ["Pack amps limit", "pack_limit_a", "A"],
                  ["Most watts from the pack", "pack_peak_w", "W"],
                  ["Winding after the hill", "winding_climb_c", "C"],
                  ["Case after the hill", "case_climb_c", "C"],
                ] as const
              ).map(([label, key, unit]) => (
                <tr key={key}>
                  <th scope="row" className="border-t border-line py-1 pr-4 text-left font-normal">
                    {label}
                  </th>
                  <td className="figure border-t border-line px-3 text-right">
                    {value(data.now[key], unit)}
                    <Spread band={data.now.bands[key]} unit={unit} block />
                  </td>
                  <td className="figure border-t border-line px-3 text-right">
                    {value(data.then[key], unit)}
                    <Spread band={data.then.bands[key]} unit={unit} block />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}
