import { type ReactNode, useCallback, useState } from "react";
import type { Answer, BuildDocument, PartId, StateAnswer } from "../../../api/types";
import { endsOf, flowOf, widest } from "../../../stream/flow";
import { type Course, draw } from "../../../stream/geometry";
import { Ribbons } from "../../../stream/Ribbons";
import { digits } from "../../../units/format";

const BREADTH = 66;
const EDGE = 10;
const FLOOR = EDGE + BREADTH + 12;
const ENDS = 46;
const COLUMN = 132;

const PLACES: PartId[] = ["pack", "controller", "motor", "gearing", "wheel", "vehicle"];

interface Props {
  state: StateAnswer;
  load: Answer["load"];
  pinned: StateAnswer | null;
  document: BuildDocument;
  part: (id: PartId) => ReactNode;
}

/** The stream on a narrow screen: it runs downward past the parts, heat leaving towards them. */
export function DownStream({ state, load, pinned, document, part }: Props) {
  const [tops, setTops] = useState<number[]>([]);
  const list = useCallback((element: HTMLOListElement | null) => {
    if (!element) return;
    const measure = () =>
      setTops(Array.from(element.children, (child) => (child as HTMLElement).offsetTop));
    const seen = new ResizeObserver(measure);
    for (const child of element.children) seen.observe(child);
    return () => seen.disconnect();
  }, []);
  const flow = flowOf(state);
  const motors = document.motor.count ?? 1;
  const words: Record<string, string> = {
    pack: `${digits(flow.cells)} W ${flow.forward ? "from the cells" : "back into the cells"}`,
    controller: `${digits(flow.terminals)} W at the terminals`,
    gearing: `${digits(flow.shaft)} W at the ${motors > 1 ? "shafts" : "shaft"}`,
    wheel: `${digits(flow.road)} W on the ${load.end}`,
    vehicle: endsOf(flow),
  };
  return (
    <div className="relative px-3">
      <Downward tops={tops} state={state} end={load.end} pinned={pinned} motors={motors} />
      <ol ref={list} className="relative" style={{ marginLeft: COLUMN }}>
        {PLACES.map((id) => (
          <li key={id} className="min-h-24 py-2.5">
            {words[id] ? <p className="figure mb-1 text-[12.5px] text-water">{words[id]}</p> : null}
            {part(id)}
          </li>
        ))}
      </ol>
    </div>
  );
}

interface DownwardProps {
  end: string;
  tops: number[];
  state: StateAnswer;
  pinned: StateAnswer | null;
  motors: number;
}

function Downward({ end, tops, state, pinned, motors }: DownwardProps) {
  const [start, controller, motor, gearing, wheel, vehicle] = tops;
  if (start === undefined || controller === undefined || motor === undefined) return null;
  if (gearing === undefined || wheel === undefined || vehicle === undefined) return null;
  const flow = flowOf(state);
  const course: Course = {
    start,
    controller,
    motor,
    gearing,
    wheel,
    split: vehicle + 6,
    finish: vehicle + ENDS,
    top: EDGE,
    scale: BREADTH / Math.max(widest(flow), pinned ? widest(flowOf(pinned)) : 0),
    lanes: Math.min(motors, 6),
    floor: FLOOR,
  };
  const drawing = draw(flow, course);
  const height = vehicle + ENDS + 6;
  return (
    <svg
      width={COLUMN}
      height={height}
      className="absolute top-0 left-3"
      role="img"
      aria-label={`Stream of power: ${digits(flow.cells)} W from the cells, ${digits(flow.road)} W on the ${end}`}
    >
      {/* The same drawing as on a wide screen, with its axes exchanged. */}
      <g transform="matrix(0 1 1 0 0 0)">
        <Ribbons drawing={drawing} />
      </g>
      {drawing.spills.map((spill) => (
        <text
          key={spill.loss.id}
          x={FLOOR + 4}
          y={spill.x + 4}
          className={`text-[12px] font-semibold ${spill.loss.label ? "fill-water" : "fill-ember"}`}
        >
          {digits(spill.loss.watts, 2)} W
        </text>
      ))}
    </svg>
  );
}
