import type { Margin, MatchResult } from "../../api/types";
import { Button } from "../../ui/Button";
import { Term } from "../../ui/Term";
import type { TermId } from "../../ui/terms";
import { digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { PRICE } from "../../units/quantities";
import { Spread } from "../../units/Spread";
import { useValue } from "../../units/useValue";

interface Props {
  result: MatchResult;
  /** Where it stands in the list, which may be sorted anew. */
  place: number;
  /** Whether the one above it in the list is the one that it was held against. */
  follows: boolean;
  nameOf: (id: string) => string;
  marked: boolean;
  onMark: (rank: number | null) => void;
  onMake: (rank: number) => void;
  ticked: boolean;
  onTick: (() => void) | null;
}

/** One set of parts: what to buy, what it does, and which wish is nearest to giving way. */
export function ResultRow({
  result,
  place,
  follows,
  nameOf,
  marked,
  onMark,
  onMake,
  ticked,
  onTick,
}: Props) {
  const { parts } = result;
  const tight = tightest(result);
  return (
    <li
      className={`flex gap-x-3 border-b border-line py-2 pl-1 ${marked ? "bg-raised" : ""}`}
      onMouseEnter={() => onMark(result.rank)}
      onMouseLeave={() => onMark(null)}
    >
      <span className="figure w-6 shrink-0 text-[17px] font-semibold text-water">{place}</span>
      <div className="min-w-0 flex-1">
        <div className="flex flex-wrap items-start justify-between gap-x-3">
          <h3 className="min-w-0 flex-1 basis-56 text-[14.5px] font-semibold">
            {nameOf(parts.motor)}, {(parts.controllers ?? 1) > 1 ? `${parts.controllers} of ` : ""}
            {nameOf(parts.controller)}, {nameOf(parts.battery)}
            {parts.propeller ? `, ${nameOf(parts.propeller)}` : ""}
          </h3>
          <label className="flex min-h-11 items-center gap-1.5 text-[12.5px] text-soft sm:min-h-8">
            <input
              type="checkbox"
              checked={ticked}
              disabled={!ticked && onTick === null}
              onChange={() => onTick?.()}
              aria-label={`compare, number ${result.rank}`}
              className="size-4 accent-water"
            />
            compare
          </label>
          <Button
            onClick={() => onMake(result.rank)}
            aria-label={`To the bench, number ${result.rank}`}
          >
            To the bench
          </Button>
        </div>
        <p className="text-[12.5px] text-soft">{gearing(result)}</p>
        <Figures result={result} />
        <p className="text-[12.5px] text-soft">
          {tight ? (
            <>
              Smallest margin: {tight.label.toLowerCase()}{" "}
              <span className="figure">{digits((tight.margin ?? 0) * 100, 2)} %</span>.{" "}
            </>
          ) : null}
          {follows ? <NearTie differs={result.differs} /> : null}
        </p>
      </div>
    </li>
  );
}

function gearing({ parts, gearings, build }: MatchResult): string {
  if (parts.propeller) {
    const count = (build.motor as { count?: number } | undefined)?.count ?? 1;
    const each = count > 1 ? `${count} motors, a propeller on each` : "Straight on the shaft";
    const more = gearings > 1 ? `; ${gearings - 1} other propellers do` : "";
    return `${each}${more}`;
  }
  const stages = parts.gearing.map((stage) => `${stage.driver_teeth} to ${stage.driven_teeth}`);
  const how = stages.length ? `${stages.join(", ")} teeth, ` : "no gearing, ";
  const more = gearings > 1 ? `; ${(gearings - 1).toLocaleString("en-GB")} other gearings do` : "";
  return `${how}${digits(parts.ratio, 3)} to 1${more}`;
}

function Figures({ result }: { result: MatchResult }) {
  const { text, money } = useUnits();
  const { figures } = result;
  const said = (key: string, show: (value: number) => string) => {
    const value = figures[key];
    return value === null || value === undefined ? "not known" : show(value);
  };
  const items: Item[] = [
    [
      "top speed",
      "top_speed",
      "top_speed_kmh",
      said("top_speed_kmh", (v) => text(v / 3.6, "speed")),
      "km/h",
    ],
    ...(result.parts.propeller ? inAir(said, text, figures.climb_ms != null) : onRoad(said, text)),
    ["range", "range", "range_km", said("range_km", (v) => text(v, "distance")), "km"],
    ["adds", "added_mass", "added_mass_kg", said("added_mass_kg", (v) => text(v, "mass")), "kg"],
    ["winding", "winding", "winding_c", said("winding_c", (v) => text(v, "temperature", 2)), "C"],
    ["price", "price", "price", said("price", money), PRICE],
  ];
  return (
    <dl className="flex flex-wrap gap-x-3.5 text-[13px]">
      {items.map(([name, term, key, value, unit]) => (
        <div key={name} className="flex items-baseline gap-1">
          <dt className="text-soft">
            <Term id={term}>{name}</Term>
          </dt>
          <dd>
            <span className="figure">{value}</span>
            <Spread band={result.bands[key]} unit={unit} />
          </dd>
        </div>
      ))}
    </dl>
  );
}

type Item = [name: string, term: TermId, key: string, value: string, unit: string];
type Said = (key: string, show: (value: number) => string) => string;
type Text = ReturnType<typeof useUnits>["text"];

const onRoad = (said: Said, text: Text): Item[] => [
  ["up the hill", "climb", "climb_kmh", said("climb_kmh", (v) => text(v / 3.6, "speed")), "km/h"],
];

const climb = (said: Said, text: Text): Item => [
  "climbs",
  "climb_rate",
  "climb_ms",
  said("climb_ms", (v) => text(v, "climb", 2)),
  "m/s up",
];

/** What does not fly has no rate of climb. */
const inAir = (said: Said, text: Text, climbs: boolean): Item[] => [
  [
    "thrust over weight",
    "thrust_to_weight",
    "thrust_to_weight",
    said("thrust_to_weight", (v) => digits(v, 2)),
    "",
  ],
  ...(climbs ? [climb(said, text)] : []),
  ["out", "endurance", "endurance_min", said("endurance_min", (v) => `${digits(v, 2)} min`), "min"],
];

/** What a result that is nearly as good as the one before has more or less of. */
function NearTie({ differs }: { differs: MatchResult["differs"] }) {
  const value = useValue();
  if (differs === null) return null;
  const said = differs.map((one) => one.say.replace("{}", value(one.by, one.unit)));
  return (
    <>
      Nearly as good as the one before: it{" "}
      {said.length > 0 ? said.join(", ") : "differs in nothing that counts"}.
    </>
  );
}

/** The wish with the smallest margin; parts that fit or don't have none. */
export function tightest(result: MatchResult): Margin | null {
  const margins = Object.values(result.margins).filter(
    (margin) => margin.margin !== null && margin.unit !== "" && margin.at !== "always",
  );
  margins.sort((a, b) => (a.margin ?? 0) - (b.margin ?? 0));
  return margins[0] ?? null;
}
