import { scaleLinear } from "d3-scale";
import type { TriggerFrame } from "../../api/types";
import { LinePlot, type PlotLine } from "../../plots/LinePlot";
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
  const [ref, width] = useSize();
  const kmh = documentUnit("km/h", choice);
  const ends = Math.max(frames.at(-1)?.t_s ?? 0, spanS);
  const x = scaleLinear([ends - spanS, ends], [LEFT, Math.max(width - RIGHT, LEFT + 1)]);
  const seen = frames.filter((frame) => frame.t_s >= ends - spanS);
  const line = (
    name: string,
    of: (frame: TriggerFrame) => number,
    className: string,
  ): PlotLine => ({ name, along: seen.map((one) => one.t_s), values: seen.map(of), className });
  const shared = { x, sign: "s", width, height: HEIGHT, fromNought: true };
  return (
    <div ref={ref}>
      <LinePlot
        {...shared}
        title={`${label}: speed in ${kmh.sign}`}
        lines={[line("speed", (one) => toShown(one.speed_kmh, kmh), "stroke-water")]}
      />
      <LinePlot
        {...shared}
        title={`${label}: amps`}
        lines={[
          line("motor", (one) => one.motor_current_a, "stroke-ember"),
          line("pack", (one) => one.battery_current_a, "stroke-water"),
        ]}
      />
    </div>
  );
}
