import { useState } from "react";
import { overvolt } from "../../api/gearing";
import type { OvervoltAnswer } from "../../api/types";
import { type FigureRow, FigureTable } from "../../plots/FigureTable";
import { MiniStream } from "../../stream/MiniStream";
import { SeverityMark } from "../../ui/Severity";
import { Ask, Passing, SetIt, useAsked, type ViewProps, Waiting } from "./common";

/** A higher pack beside the present one: conditions, not a yes or no. */
export function Volts({ document, onSet }: ViewProps) {
  const own = document.battery.series;
  const [asked, setAsked] = useState<number | null>(null);
  const series = asked !== null && asked > own ? Math.round(asked) : own + 1;
  const { data, error } = useAsked([document, series, "volts"], () => overvolt(document, series));
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
          <Sides answer={data} motors={document.motor.count ?? 1} />
        </div>
      )}
    </>
  );
}

const FIGURES = [
  ["full_v", "Straight off the charger", "V", null],
  ["free_rpm", "Free rpm, wheels in the air", "rpm", null],
  ["loaded_rpm", "Rpm at top speed", "rpm", null],
  ["top_speed_kmh", "Top speed", "km/h", "more"],
  ["pack_limit_a", "Pack amps limit", "A", null],
  ["pack_peak_w", "Most watts from the pack", "W", null],
  ["winding_climb_c", "Winding after the hill", "C", "less"],
  ["case_climb_c", "Can after the hill", "C", "less"],
] as const;

/** The present pack and the higher one on common scales, each with its stream at top speed. */
function Sides({ answer, motors }: { answer: OvervoltAnswer; motors: number }) {
  const sides = [answer.now, answer.then];
  const most = Math.max(...sides.map((side) => side.state.cells_w));
  const columns = sides.map((side, at) => ({
    id: at === 0 ? "now" : "then",
    head: (
      <>
        {side.series} cells{at === 0 ? ", now" : ""}
        <MiniStream
          state={side.state}
          motors={motors}
          most={most}
          label={`Stream at top speed with ${side.series} cells`}
        />
      </>
    ),
  }));
  const rows: FigureRow[] = FIGURES.map(([key, label, unit, better]) => ({
    id: key,
    label,
    unit,
    better,
    values: sides.map((side) => side[key]),
    bands: sides.map((side) => side.bands[key]),
  }));
  return <FigureTable caption="Now and with more cells" columns={columns} rows={rows} />;
}
