import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { RideShown } from "../../api/types";
import { Axes } from "../../plots/Axes";
import { useSize } from "../../ui/useSize";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { placeOf } from "./place";

interface Props {
  shown: RideShown;
  before: RideShown | null;
  /** Whether the picture goes by the way, and not by the time. */
  overWay: boolean;
  at: number;
  onAt: (at: number) => void;
}

interface Line {
  name: string;
  key: string;
  unit: string;
  className: string;
  dashed?: boolean;
}

const LEFT = 42;
const RIGHT = 12;
const HEIGHT = 118;

const PLOTS: { title: string; unit: string; lines: Line[]; limits?: boolean }[] = [
  {
    title: "Speed",
    unit: "km/h",
    lines: [
      { name: "asked", key: "asked_kmh", unit: "km/h", className: "stroke-soft", dashed: true },
      { name: "reached", key: "speed_kmh", unit: "km/h", className: "stroke-water" },
    ],
  },
  {
    title: "Amps",
    unit: "A",
    lines: [
      { name: "a motor", key: "motor_current_a", unit: "A", className: "stroke-ember" },
      { name: "pack", key: "battery_current_a", unit: "A", className: "stroke-water" },
    ],
  },
  {
    title: "Volts of a cell",
    unit: "V",
    lines: [{ name: "cell", key: "cell_voltage_v", unit: "V", className: "stroke-water" }],
  },
  {
    title: "Temperatures",
    unit: "C",
    lines: [
      { name: "winding", key: "winding_c", unit: "C", className: "stroke-ember" },
      { name: "can", key: "case_c", unit: "C", className: "stroke-deep" },
      { name: "controller", key: "controller_c", unit: "C", className: "stroke-water" },
      { name: "pack", key: "pack_c", unit: "C", className: "stroke-soft" },
    ],
  },
];

/** The road's height, and below it what people watch; one place is pointed at in all of them. */
export function Traces({ shown, before, overWay, at, onAt }: Props) {
  const [ref, width] = useSize();
  const rows = shown.rows as Record<string, (number | null)[]>;
  const along = (rows[overWay ? "distance_m" : "time_s"] ?? []).map((one) =>
    overWay ? (one ?? 0) / 1000 : (one ?? 0) / 60,
  );
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
      className="relative touch-pan-y"
      onPointerMove={(event) => (event.pointerType !== "touch" || event.buttons) && point(event)}
      onPointerDown={point}
    >
      <Height x={x} along={along} shown={shown} width={width} />
      {PLOTS.map((plot) => (
        <Plot
          key={plot.title}
          title={plot.title}
          unit={plot.unit}
          lines={plot.lines}
          shown={shown}
          before={before}
          overWay={overWay}
          along={along}
          x={x}
          width={width}
          sign={sign}
        />
      ))}
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

type Scale = ReturnType<typeof scaleLinear<number, number>>;

function Height({
  x,
  along,
  shown,
  width,
}: {
  x: Scale;
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
      <path d={ground ?? ""} className="fill-sunk stroke-line" />
      <text x={LEFT - 6} y={16} textAnchor="end" className="text-[11.5px]">
        {Math.round(most)} m
      </text>
    </svg>
  );
}

interface PlotProps {
  title: string;
  unit: string;
  lines: Line[];
  shown: RideShown;
  before: RideShown | null;
  overWay: boolean;
  along: number[];
  x: Scale;
  width: number;
  sign: string;
}

function Plot({ title, unit, lines, shown, before, overWay, along, x, width, sign }: PlotProps) {
  const { choice } = useUnits();
  const own = documentUnit(unit, choice);
  const columns = shown.rows as Record<string, (number | null)[]>;
  const values = lines.map((one) =>
    (columns[one.key] ?? []).map((value) => (value === null ? null : toShown(value, own))),
  );
  const all = values.flat().filter((value): value is number => value !== null);
  const isFlat = unit === "V" || unit === "C";
  const low = isFlat ? Math.min(...all) : Math.min(0, ...all);
  const y = scaleLinear([low, Math.max(low + (isFlat ? 0.1 : 1), ...all)], [HEIGHT - 22, 10]).nice(
    4,
  );
  const drawn = (xs: number[], ys: (number | null)[]) =>
    line<number | null>(
      (_, at) => x(xs[at] ?? 0),
      (value) => y(value ?? 0),
    ).defined((value) => value !== null)(ys) ?? "";
  const old = before ? (before.rows as Record<string, (number | null)[]>) : null;
  const oldAlong = (old?.[overWay ? "distance_m" : "time_s"] ?? []).map(
    (one) => (one ?? 0) / (overWay ? 1000 : 60),
  );
  return (
    <figure>
      <figcaption className="flex flex-wrap gap-x-3 text-[12px] text-soft">
        <span className="flex-1 pl-1">
          {title}, {own.sign}
        </span>
        {lines.length > 1
          ? lines.map((one) => (
              <span key={one.key} className="inline-flex items-center gap-1">
                <svg width={18} height={8} aria-hidden="true">
                  <line
                    x1={0}
                    x2={18}
                    y1={4}
                    y2={4}
                    className={one.className}
                    strokeWidth={2}
                    strokeDasharray={one.dashed ? "3 3" : undefined}
                  />
                </svg>
                {one.name}
              </span>
            ))
          : null}
        {old ? <span>thin: as pinned</span> : null}
      </figcaption>
      {width > 120 ? (
        <svg width={width} height={HEIGHT} role="img" aria-label={`${title} over the ride`}>
          <Axes x={x} y={y} sign={sign} />
          {old
            ? lines
                .filter((one) => !one.dashed)
                .map((one) => (
                  <path
                    key={`before${one.key}`}
                    d={drawn(
                      oldAlong,
                      (old[one.key] ?? []).map((value) =>
                        value === null ? null : toShown(value, own),
                      ),
                    )}
                    className={`fill-none ${one.className} opacity-50`}
                    strokeWidth={1}
                  />
                ))
            : null}
          {lines.map((one, index) => (
            <path
              key={one.key}
              d={drawn(along, values[index] ?? [])}
              className={`fill-none ${one.className}`}
              strokeWidth={1.8}
              strokeDasharray={one.dashed ? "3 3" : undefined}
            />
          ))}
        </svg>
      ) : null}
    </figure>
  );
}
