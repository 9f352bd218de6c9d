import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { toShown, type Unit } from "../units/quantities";

interface Of {
  /** The greatest speed and force that are drawn, as they are stored. */
  fastest: number;
  hardest: number;
  speed: Unit;
  force: Unit;
  width: number;
  height: number;
  margin: { left: number; right: number; top: number; bottom: number };
}

/** The scales of a plot of push over speed, and the way a curve takes on it. */
export function pushPlot({ fastest, hardest, speed, force, width, height, margin }: Of) {
  const x = scaleLinear([0, toShown(fastest, speed)], [margin.left, width - margin.right]);
  const y = scaleLinear([0, toShown(hardest, force)], [height - margin.bottom, margin.top]);
  const px = (stored: number) => x(toShown(stored, speed));
  const py = (stored: number) => y(toShown(stored, force));
  const path = (speeds: number[], forces: number[]): string =>
    line<number>(
      (_, at) => px(speeds[at] ?? 0),
      (one) => py(one),
    )(forces) ?? "";
  return { x, y, px, py, path };
}
