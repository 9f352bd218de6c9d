import { useState } from "react";
import { roads } from "../../api/gearing";
import type { RoadsAnswer } from "../../api/types";
import { digits } from "../../units/format";
import { Spread } from "../../units/Spread";
import { useValue } from "../../units/useValue";
import { Ask, SetIt, useAsked, type ViewProps, Waiting } from "./common";

const FIGURES = [
  ["climb_kmh", "Climbs at", "km/h"],
  ["launch_s", "Acceleration", "s"],
  ["range_km", "Goes", "km"],
  ["motor_peak_a", "Most motor amps", "A"],
  ["pack_peak_a", "Most pack amps", "A"],
  ["winding_c", "Winding after the hill", "C"],
  ["case_c", "Case after the hill", "C"],
] as const;

/** So much faster: by teeth, winding, cells or timing, each worked to the same speed. */
export function Roads({ document, onSet, nowKmh }: ViewProps & { nowKmh: number | null }) {
  const [asked, setAsked] = useState<number | null>(null);
  const wish = asked ?? (nowKmh === null ? null : Math.round(nowKmh) + 8);
  const { data, error } = useAsked(
    [document, wish, "roads"],
    () => roads(document, wish ?? 0),
    wish !== null,
  );
  return (
    <>
      <div className="py-1">
        <Ask label="Top speed wished for" unit="km/h" value={wish} onValue={setAsked} />
      </div>
      {data ? (
        <Table answer={data} onSet={onSet} />
      ) : (
        <Waiting error={error} what="Trying each road" />
      )}
      {data && error ? <Waiting error={error} what="" /> : null}
    </>
  );
}

function Table({ answer, onSet }: { answer: RoadsAnswer; onSet: ViewProps["onSet"] }) {
  const value = useValue();
  return (
    <div className="relative overflow-x-auto">
      <table className="border-separate border-spacing-0 text-[13px]">
        <thead>
          <tr>
            <td />
            <th scope="col" className="min-w-24 px-3 pb-1 text-right align-bottom text-soft">
              now, <span className="whitespace-nowrap">{value(answer.now_kmh, "km/h")}</span>
            </th>
            {answer.roads.map((road) => (
              <th key={road.id} scope="col" className="min-w-36 px-3 pb-1 text-right align-bottom">
                {road.title}
                <small className="block font-normal">
                  {road.reached ? road.measure : "does not lead there"}
                </small>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {FIGURES.map(([key, label, unit]) => (
            <tr key={key}>
              <th scope="row" className="border-t border-line py-1 pr-4 text-left font-normal">
                {label}
              </th>
              <td className="border-t border-line px-3 text-right whitespace-nowrap text-soft">
                {value(answer.now[key], unit)}
                <Spread band={answer.bands[key]} unit={unit} block />
              </td>
              {answer.roads.map((road) => (
                <td key={road.id} className="figure border-t border-line px-3 text-right">
                  {road.reached ? value(road.figures[key], unit) : "–"}
                  {road.reached ? <Spread band={road.bands[key]} unit={unit} block /> : null}
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <th
              scope="row"
              className="border-t border-line py-1 pr-4 text-left align-top font-normal"
            >
              To buy or set
            </th>
            <td className="border-t border-line" />
            {answer.roads.map((road) => (
              <td
                key={road.id}
                className="max-w-56 border-t border-line px-3 py-1 text-right align-top text-[12.5px]"
              >
                {road.parts.length > 0 ? bought(road) : road.reached ? "nothing new" : ""}
                <small className="block text-soft">{road.why}</small>
                {road.stops.map((stop) => (
                  <small key={stop} className="block text-stop">
                    Stop: {stop}
                  </small>
                ))}
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row" className="border-t border-line py-1 pr-4 text-left font-normal">
              Try it
            </th>
            <td className="border-t border-line" />
            {answer.roads.map((road) => (
              <td key={road.id} className="border-t border-line px-3 py-1 text-right">
                {road.reached ? (
                  <SetIt label={road.title} onClick={() => onSet(road.change)} />
                ) : null}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <p className="pt-1 text-[12.5px] text-soft">
        Figures are at exactly {value(answer.wish_kmh, "km/h")} by every road, and lie between the
        small ones four times in five; what can be bought comes near it.
      </p>
    </div>
  );
}

/** What a road needs that is not there yet, and what that costs. */
function bought({ parts, price }: RoadsAnswer["roads"][number]): string {
  if (price == null) return `${parts.join(", ")}; its price is not known`;
  return price > 0 ? `${parts.join(", ")}; about ${digits(price, 2)} more` : parts.join(", ");
}
