import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { TriggerFrame } from "../../api/types";
import { Axes } from "../../plots/Axes";
import { useSize } from "../../ui/useSize";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";

interface Props {
  frames: TriggerFrame[];
  /** Seconds that the plot is wide. */
  spanS: number;
  label: string;
}

const HEIGHT = 150;
const LEFT = 38;
const RIGHT = 10;

/** Speed and amps of a drive by hand over the last seconds, each on a plot of its own. */
export function Trace({ frames, spanS, label }: Props) {
  const { choice } = useUnits();
  const kmh = documentUnit("km/h", choice);
  return (
    <div>
      <Lines
        frames={frames}
        spanS={spanS}
        label={`${label}: speed in ${kmh.sign}`}
        lines={[
          { name: "speed", of: (one) => toShown(one.speed_kmh, kmh), className: "stroke-water" },
        ]}
      />
      <Lines
        frames={frames}
        spanS={spanS}
        label={`${label}: amps`}
        lines={[
          { name: "motor", of: (one) => one.motor_current_a, className: "stroke-ember" },
          { name: "pack", of: (one) => one.battery_current_a, className: "stroke-water" },
        ]}
      />
    </div>
  );
}

interface Line {
  name: string;
  of: (frame: TriggerFrame) => number;
  className: string;
}

function Lines({ frames, spanS, label, lines }: Props & { lines: Line[] }) {
  const [ref, width] = useSize();
  const ends = Math.max(frames.at(-1)?.t_s ?? 0, spanS);
  const x = scaleLinear([ends - spanS, ends], [LEFT, Math.max(width - RIGHT, LEFT + 1)]);
  const seen = frames.filter((frame) => frame.t_s >= ends - spanS);
  const all = seen.flatMap((frame) => lines.map((one) => one.of(frame)));
  const y = scaleLinear([Math.min(0, ...all), Math.max(1, ...all)], [HEIGHT - 24, 12]).nice(4);
  return (
    <figure ref={ref}>
      <figcaption className="flex flex-wrap gap-x-3 pt-1 text-[12px] text-soft">
        <span className="flex-1">{label}</span>
        {lines.length > 1
          ? lines.map((one) => (
              <span key={one.name} className="inline-flex items-center gap-1">
                <svg width={18} height={8} aria-hidden="true">
                  <line x1={0} x2={18} y1={4} y2={4} className={one.className} strokeWidth={2.5} />
                </svg>
                {one.name}
              </span>
            ))
          : null}
      </figcaption>
      {width > 120 ? (
        <svg width={width} height={HEIGHT} role="img" aria-label={label}>
          <Axes x={x} y={y} sign="s" />
          {lines.map((one) => (
            <path
              key={one.name}
              d={
                line<TriggerFrame>(
                  (frame) => x(frame.t_s),
                  (frame) => y(one.of(frame)),
                )(seen) ?? ""
              }
              className={`fill-none ${one.className}`}
              strokeWidth={2}
            />
          ))}
        </svg>
      ) : null}
    </figure>
  );
}
