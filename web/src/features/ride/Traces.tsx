import { scaleLinear } from "d3-scale";
import { area } from "d3-shape";
import type { RideShown } from "../../api/types";
import { type Along, LinePlot, type PlotLine } from "../../plots/LinePlot";
import { useSize } from "../../ui/useSize";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { placeOf } from "./place";

interface Props {
  shown: RideShown;
  before: RideShown | null;
  /** What the one before is called. */
  beside: string;
  /** Whether the picture goes by the way, and not by the time. */
  overWay: boolean;
  at: number;
  onAt: (at: number) => void;
}

const LEFT = 42;
const RIGHT = 24;
const HEIGHT = 118;

interface Watched {
  name: string;
  key: string;
  className: string;
  dashed?: boolean;
}

const PLOTS: { title: string; unit: string; lines: Watched[] }[] = [
  {
    title: "Speed",
    unit: "km/h",
    lines: [
      { name: "asked", key: "asked_kmh", className: "stroke-soft", dashed: true },
      { name: "reached", key: "speed_kmh", className: "stroke-water" },
    ],
  },
  {
    title: "Amps",
    unit: "A",
    lines: [
      { name: "a motor", key: "motor_current_a", className: "stroke-ember" },
      { name: "pack", key: "battery_current_a", className: "stroke-water" },
    ],
  },
  {
    title: "Volts of a cell",
    unit: "V",
    lines: [{ name: "cell", key: "cell_voltage_v", className: "stroke-water" }],
  },
  {
    title: "Temperatures",
    unit: "C",
    lines: [
      { name: "winding", key: "winding_c", className: "stroke-ember" },
      { name: "can", key: "case_c", className: "stroke-deep" },
      { name: "controller", key: "controller_c", className: "stroke-water" },
      { name: "pack", key: "pack_c", className: "stroke-soft" },
    ],
  },
];

/** The road's height, and below it what people watch; one place is pointed at in all of them. */
export function Traces({ shown, before, beside, overWay, at, onAt }: Props) {
  const [ref, width] = useSize();
  const along = alongOf(shown, overWay);
  const last = along.at(-1) ?? 1;
  const x = scaleLinear([0, Math.max(last, 1e-6)], [LEFT, Math.max(width - RIGHT, LEFT + 1)]);
  const point = (event: React.PointerEvent<HTMLElement>) => {
    const left = event.currentTarget.getBoundingClientRect().left;
    onAt(placeOf(along, x.invert(event.clientX - left)));
  };
  const sign = overWay ? "km" : "min";
  return (
    <div
      ref={ref}
      data-ride-picture
      className="relative touch-pan-y"
      onPointerMove={(event) => (event.pointerType !== "touch" || event.buttons) && point(event)}
      onPointerDown={point}
    >
      <Height x={x} along={along} shown={shown} width={width} />
      {PLOTS.map((plot) => (
        <Plot
          key={plot.title}
          plot={plot}
          shown={shown}
          before={before}
          beside={beside}
          overWay={overWay}
          x={x}
          width={width}
        />
      ))}
      <Left shown={shown} overWay={overWay} x={x} width={width} />
      {width > 120 ? (
        <span
          className="pointer-events-none absolute top-0 bottom-6 w-px bg-ink"
          style={{ left: x(along[at] ?? 0) }}
        />
      ) : null}
      <label className="block pt-1 text-[12.5px] text-soft">
        <span className="sr-only">Place on the ride</span>
        <input
          type="range"
          min={0}
          max={Math.max(along.length - 1, 0)}
          value={at}
          aria-valuetext={`${(along[at] ?? 0).toFixed(2)} ${sign}`}
          onChange={(event) => onAt(Number(event.target.value))}
          className="h-11 w-full accent-water sm:h-6"
          style={{ paddingLeft: LEFT - 8, paddingRight: RIGHT - 8 }}
        />
      </label>
    </div>
  );
}

function Height({
  x,
  along,
  shown,
  width,
}: {
  x: Along;
  along: number[];
  shown: RideShown;
  width: number;
}) {
  const heights = shown.height_m;
  const most = Math.max(...heights, 0);
  if (most < 0.5 || width <= 120) return null;
  const y = scaleLinear([0, most], [54, 10]);
  const ground = area<number>(
    (_, at) => x(along[at] ?? 0),
    58,
    (value) => y(value),
  )(heights);
  return (
    <svg width={width} height={62} role="img" aria-label={`Height: ${Math.round(most)} m in all`}>
      <path d={ground ?? ""} className="fill-line stroke-soft" />
      <text x={LEFT - 6} y={16} textAnchor="end" className="text-[11.5px]">
        {Math.round(most)} m
      </text>
    </svg>
  );
}

/** How much further the pack goes from each place, with its band. */
function Left({
  shown,
  overWay,
  x,
  width,
}: {
  shown: RideShown;
  overWay: boolean;
  x: Along;
  width: number;
}) {
  const { choice } = useUnits();
  const own = documentUnit("km", choice);
  const left = shown.left_km ?? [];
  if (!left.some((one) => one !== null)) return null;
  const along = alongOf(shown, overWay);
  const inUnit = (values: (number | null | undefined)[]) =>
    values.map((one) => (one === null || one === undefined ? null : toShown(one, own)));
  const edge = (which: number): PlotLine => ({
    name: which === 0 ? "at worst" : "at best",
    thin: true,
    along,
    values: inUnit((shown.left_band ?? []).map((band) => band[which])),
    className: "stroke-water",
  });
  return (
    <LinePlot
      title={`Range that is left, ${own.sign}`}
      lines={[
        ...(shown.left_band?.length ? [edge(0), edge(2)] : []),
        { name: "left", along, values: inUnit(left), className: "stroke-water" },
      ]}
      x={x}
      sign={overWay ? "km" : "min"}
      width={width}
      height={HEIGHT}
      fromNought
      note={shown.left_band?.length ? "thin: eight times in ten between these" : undefined}
    />
  );
}

interface PlotProps {
  plot: (typeof PLOTS)[number];
  shown: RideShown;
  before: RideShown | null;
  /** What the one before is called. */
  beside: string;
  overWay: boolean;
  x: Along;
  width: number;
}

function Plot({ plot, shown, before, beside, overWay, x, width }: PlotProps) {
  const { choice } = useUnits();
  const own = documentUnit(plot.unit, choice);
  const linesOf = (of: RideShown, thin: boolean): PlotLine[] =>
    plot.lines
      .filter((one) => !(thin && one.dashed))
      .map((one) => ({
        ...one,
        thin,
        along: alongOf(of, overWay),
        values: (columnsOf(of)[one.key] ?? []).map((value) =>
          value === null ? null : toShown(value, own),
        ),
      }));
  return (
    <LinePlot
      title={`${plot.title} over the ride, ${own.sign}`}
      lines={[...(before ? linesOf(before, true) : []), ...linesOf(shown, false)]}
      x={x}
      sign={overWay ? "km" : "min"}
      width={width}
      height={HEIGHT}
      fromNought={plot.unit !== "V" && plot.unit !== "C"}
      note={before ? `thin: ${beside}` : undefined}
      limits={
        plot.unit === "C"
          ? plot.lines.flatMap(({ name, key, className }) => {
              const limit = shown.limits_c?.[key.replace(/_c$/, "")];
              return limit === undefined
                ? []
                : [{ name: `${name} at most`, at: toShown(limit, own), className }];
            })
          : undefined
      }
    />
  );
}

const columnsOf = (shown: RideShown) => shown.rows as Record<string, (number | null)[]>;

/** Kilometres or minutes of each moment. */
const alongOf = (shown: RideShown, overWay: boolean): number[] =>
  (columnsOf(shown)[overWay ? "distance_m" : "time_s"] ?? []).map(
    (one) => (one ?? 0) / (overWay ? 1000 : 60),
  );
