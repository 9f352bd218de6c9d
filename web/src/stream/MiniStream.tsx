import { digits } from "../units/format";
import { flowOf, type StateWatts, widest } from "./flow";
import { type Course, draw } from "./geometry";
import { Ribbons } from "./Ribbons";

const WIDTH = 460;
const HEIGHT = 92;
const BREADTH = 44;

/** A build's stream, small: its shape is its character. */
export function MiniStream({
  state,
  motors,
  label,
  most,
  moving = false,
}: {
  state: StateWatts;
  motors: number;
  label: string;
  /** The watts that fill the breadth, where several streams are to be held against one another. */
  most?: number;
  /** Whether it flows, where somebody should see at once that it is a stream. */
  moving?: boolean;
}) {
  const flow = flowOf(state);
  const turned = flow.losses.some((loss) => loss.part === "propeller");
  const course: Course = {
    start: 2,
    controller: 74,
    motor: 140,
    gearing: 220,
    wheel: turned ? 264 : 330,
    split: 356,
    finish: 402,
    top: 16,
    scale: BREADTH / (most ?? widest(flow)),
    lanes: Math.min(motors, 6),
    floor: 80,
  };
  const drawing = draw(flow, course);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className={`w-full ${moving ? "moving" : ""}`}
      role="img"
      aria-label={label}
    >
      <Ribbons drawing={drawing} />
      <text x={2} y={11} className="text-[11px] font-semibold">
        {digits(flow.cells)} W
      </text>
      {drawing.ends.map((end) => (
        <text key={end.id} x={408} y={end.y + 4} className="text-[11px]">
          {end.id === "speed" ? "speed" : end.label}
        </text>
      ))}
    </svg>
  );
}
