import { useState } from "react";
import { roads } from "../../api/gearing";
import type { RoadsAnswer } from "../../api/types";
import { type FigureRow, FigureTable, WordRow } from "../../plots/FigureTable";
import { MiniStream } from "../../stream/MiniStream";
import { TERMS } from "../../ui/terms";
import { digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { useValue } from "../../units/useValue";
import { Ask, SetIt, useAsked, type ViewProps, Waiting } from "./common";

const FIGURES = [
  ["climb_kmh", TERMS.climb.term, "km/h", "more", "climb"],
  ["launch_s", TERMS.acceleration.term, "s", "less", "acceleration"],
  ["range_km", TERMS.range.term, "km", "more", "range"],
  ["motor_peak_a", "Most motor amps", "A", "less", "motor_current"],
  ["pack_peak_a", "Most pack amps", "A", "less", "pack_current"],
  ["winding_c", "Winding after the hill", "C", "less", "winding"],
  ["case_c", "Can after the hill", "C", "less", "can"],
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
  const value = useValue();
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-1 py-1">
        <Ask label="Top speed wished for" unit="km/h" value={wish} onValue={setAsked} />
        {data ? (
          <p className="text-[12.5px] text-soft">
            Each road worked to exactly {value(data.wish_kmh, "km/h")}, held against now (the
            upright line); what can be bought comes near it.
          </p>
        ) : null}
      </div>
      {data ? (
        <Beside answer={data} motors={document.motor.count ?? 1} onSet={onSet} />
      ) : (
        <Waiting error={error} what="Trying each road" />
      )}
      {data && error ? <Waiting error={error} what="" /> : null}
    </>
  );
}

interface BesideProps {
  answer: RoadsAnswer;
  motors: number;
  onSet: ViewProps["onSet"];
}

function Beside({ answer, motors, onSet }: BesideProps) {
  const value = useValue();
  const bought = useBought();
  const reached = answer.roads.filter((road) => road.reached);
  const most = Math.max(answer.state.cells_w, ...reached.map((road) => road.state?.cells_w ?? 0));
  const columns = [
    {
      id: "now",
      head: (
        <>
          Now, {value(answer.now_kmh, "km/h")}
          <small className="block font-normal text-soft">as it stands</small>
          <MiniStream
            state={answer.state}
            motors={motors}
            most={most}
            label="Stream at top speed now"
          />
        </>
      ),
    },
    ...answer.roads.map((road) => ({
      id: road.id,
      head: (
        <>
          {road.title}
          <small className="block font-normal">
            {road.reached ? road.measure : "does not lead there"}
          </small>
          {road.state ? (
            <MiniStream
              state={road.state}
              motors={motors}
              most={most}
              label={`Stream at the wished speed, ${road.title.toLowerCase()}`}
            />
          ) : null}
        </>
      ),
    })),
  ];
  const rows: FigureRow[] = FIGURES.map(([key, label, unit, better, term]) => ({
    id: key,
    term,
    label,
    unit,
    better,
    values: [answer.now[key], ...answer.roads.map((road) => road.figures[key])],
    bands: [answer.bands[key], ...answer.roads.map((road) => road.bands[key])],
  }));
  return (
    <FigureTable caption="Roads to the wished speed" columns={columns} rows={rows}>
      <WordRow
        label="To buy or set"
        cells={[
          { id: "now", say: "" },
          ...answer.roads.map((road) => ({
            id: road.id,
            say: (
              <>
                {road.parts.length > 0 ? bought(road) : road.reached ? "nothing new" : ""}
                <small className="block text-soft">{road.why}</small>
                {road.stops.map((stop) => (
                  <small key={stop} className="block text-stop">
                    Stop: {stop}
                  </small>
                ))}
              </>
            ),
          })),
        ]}
      />
      <WordRow
        label="Try it"
        cells={[
          { id: "now", say: "" },
          ...answer.roads.map((road) => ({
            id: road.id,
            say: road.reached ? (
              <SetIt label={road.title} onClick={() => onSet(road.change)} />
            ) : null,
          })),
        ]}
      />
    </FigureTable>
  );
}

/** What a road needs that is not there yet, and what that costs. */
function useBought() {
  const { money } = useUnits();
  return ({ parts, price }: RoadsAnswer["roads"][number]): string => {
    if (price == null) return `${parts.join(", ")}; its price is not known`;
    return price > 0
      ? `${parts.join(", ")}; about ${money(Number(digits(price, 2)))} more`
      : parts.join(", ");
  };
}
