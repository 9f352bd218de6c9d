import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { Axes } from "./Axes";

export type Along = ReturnType<typeof scaleLinear<number, number>>;

export interface PlotLine {
  name: string;
  /** Where its values stand, and the values; none where there is a gap. */
  along: number[];
  values: (number | null)[];
  className: string;
  dashed?: boolean;
  /** What it is held against: thin, and not named. */
  thin?: boolean;
}

interface Props {
  title: string;
  lines: PlotLine[];
  x: Along;
  /** What goes across, said after its last value. */
  sign: string;
  width: number;
  height: number;
  /** Whether nought belongs on the scale; of volts and temperatures it does not. */
  fromNought: boolean;
  /** What else is to be said beside the names. */
  note?: string;
  /** What lines should stay below, drawn across in their look. */
  limits?: PlotLimit[];
}

export interface PlotLimit {
  name: string;
  at: number;
  className: string;
}

/** Lines over time or way, each named above; what belongs together shares its scale. */
export function LinePlot(props: Props) {
  const { title, lines, x, sign, width, height, fromNought, note, limits = [] } = props;
  const own = lines.flatMap((one) => one.values).filter((value) => value !== null);
  // The nearest limit belongs in the picture, the others where there is room for them.
  const nearest = limits.length ? [Math.min(...limits.map((one) => one.at))] : [];
  const all = [...own, ...nearest];
  const low = fromNought ? Math.min(0, ...all) : Math.min(...all);
  const least = low + (fromNought ? 1 : 0.1);
  const y = scaleLinear([low, Math.max(least, ...all)], [height - 22, 10]).nice(4);
  const named = lines.filter((one) => !one.thin);
  return (
    <figure>
      <figcaption className="flex flex-wrap gap-x-3 text-[12px] text-soft">
        <span data-in-picture className="flex-1 pl-1">
          {title}
        </span>
        {named.length > 1 ? named.map((one) => <Name key={one.name} line={one} />) : null}
        {note ? <span>{note}</span> : null}
      </figcaption>
      {width > 120 ? (
        <svg width={width} height={height} role="img" aria-label={title}>
          <Axes x={x} y={y} sign={sign} />
          {limits
            .filter((one) => one.at <= (y.domain()[1] ?? 0))
            .map((one) => (
              <g key={one.name}>
                <line
                  x1={x.range()[0]}
                  x2={x.range()[1]}
                  y1={y(one.at)}
                  y2={y(one.at)}
                  className={one.className}
                  strokeDasharray="1 4"
                  strokeWidth={1.6}
                />
                <text
                  x={(x.range()[1] ?? 0) - 2}
                  y={y(one.at) + 12}
                  textAnchor="end"
                  className="fill-soft text-[11px]"
                >
                  {one.name}
                </text>
              </g>
            ))}
          {lines.map((one) => (
            <path
              key={`${one.name}${one.thin ? " before" : ""}`}
              d={
                line<number | null>(
                  (_, at) => x(one.along[at] ?? 0),
                  (value) => y(value ?? 0),
                ).defined((value) => value !== null)(one.values) ?? ""
              }
              className={`fill-none ${one.className} ${one.thin ? "opacity-50" : ""}`}
              strokeWidth={one.thin ? 1 : 1.8}
              strokeDasharray={one.dashed ? "3 3" : undefined}
            />
          ))}
        </svg>
      ) : null}
    </figure>
  );
}

function Name({ line: { name, className, dashed } }: { line: PlotLine }) {
  return (
    <span className="inline-flex items-center gap-1">
      <svg width={18} height={8} aria-hidden="true">
        <line
          x1={0}
          x2={18}
          y1={4}
          y2={4}
          className={className}
          strokeWidth={2}
          strokeDasharray={dashed ? "3 3" : undefined}
        />
      </svg>
      <span data-in-picture>{name}</span>
    </span>
  );
}
