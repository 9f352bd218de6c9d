import { memo } from "react";
import type { Answer, BuildDocument, MomentId, StateAnswer } from "../../../api/types";
import { endsOf, type Flow, flowOf, type Loss, widest } from "../../../stream/flow";
import { type Course, draw } from "../../../stream/geometry";
import { Ribbons } from "../../../stream/Ribbons";
import { digits } from "../../../units/format";
import type { Stations } from "../bank/layout";
import { warmthsOf } from "../heat";
import { momentOf } from "../parts";
import { HeatBars } from "./HeatBars";

const BREADTH = 92;
const TOP = 34;
const FLOOR = TOP + BREADTH + 16;
export const STREAM_HEIGHT = FLOOR + 64;

interface Props {
  answer: Answer;
  pinned: StateAnswer | null;
  document: BuildDocument;
  width: number;
  stations: Stations;
  moment: MomentId;
}

/** The stream across the bench, in true proportion, with what leaves it and where it ends. */
export const Stream = memo(function Stream({
  answer,
  pinned,
  document,
  width,
  stations,
  moment,
}: Props) {
  const { state } = momentOf(answer, moment);
  const flow = flowOf(state);
  const before = pinned ? flowOf(pinned) : null;
  const greatest = Math.max(widest(flow), before ? widest(before) : 0);
  const [start, controller, motor, gearing, wheel, outcome] = stations.edges as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const course: Course = {
    start,
    controller,
    motor,
    gearing,
    wheel,
    split: outcome - 34,
    finish: outcome + 44,
    top: TOP,
    scale: BREADTH / greatest,
    lanes: Math.min(document.motor.count ?? 1, 6),
    floor: FLOOR,
  };
  const drawing = draw(flow, course);
  const ghost =
    before && changed(flow, before) ? draw(before, { ...course, lanes: 1 }).bottom : undefined;
  return (
    <svg
      width={width}
      height={STREAM_HEIGHT}
      viewBox={`0 0 ${width} ${STREAM_HEIGHT}`}
      role="img"
      aria-label={spoken(flow, momentOf(answer, moment).title, answer.load.end)}
      className="block"
    >
      <Ribbons drawing={drawing} ghost={ghost} />
      <Mark
        x={start}
        watts={flow.cells}
        words={flow.forward ? "from the cells" : "back into the cells"}
      />
      <Mark x={controller} watts={flow.terminals} words="at the terminals" />
      <Mark
        x={gearing}
        watts={flow.shaft}
        words={(document.motor.count ?? 1) > 1 ? "at the shafts" : "at the shaft"}
      />
      <Mark
        x={wheel}
        watts={flow.road}
        words={`${flow.forward ? "on" : "from"} the ${answer.load.end}`}
      />
      {drawing.spills.map((spill) => (
        <Heat
          key={spill.loss.id}
          x={spill.x}
          loss={spill.loss}
          state={state}
          names={answer.loss_names}
          many={state.stage_losses_w.length > 2}
        />
      ))}
      {drawing.spills.map((spill, place) =>
        spill.loss.part === "gearing" ||
        spill.loss.part === "propeller" ||
        spill.loss.part === "along" ? null : (
          <HeatBars
            key={spill.loss.part}
            x={spill.x - 8}
            y={FLOOR + 36}
            room={(drawing.spills[place + 1]?.x ?? width) - spill.x}
            width={spill.loss.part === "motor" ? 104 : Math.min(78, 0.4 * (motor - controller))}
            warmths={warmthsOf(
              answer,
              spill.loss.part,
              moment,
              document.conditions?.ambient_c ?? 20,
            )}
          />
        ),
      )}
      {drawing.ends.map((end) => (
        <text key={end.id} x={course.finish + 6} y={end.y + 4} className="text-[12.5px]">
          <tspan className="font-semibold">{digits(end.watts)} W</tspan>
          <tspan dx={5} className="fill-soft">
            {end.label}
          </tspan>
        </text>
      ))}
      <ScaleBar width={width} scale={course.scale} />
    </svg>
  );
});

function Mark({ x, watts, words }: { x: number; watts: number; words: string }) {
  return (
    <g>
      <line x1={x + 0.5} x2={x + 0.5} y1={10} y2={TOP} className="stroke-line" />
      <text x={x + 6} y={24} className="text-[14px]">
        <tspan className="font-semibold" style={{ fontStretch: "112%" }}>
          {digits(watts)} W
        </tspan>
        <tspan dx={5} className="fill-soft text-[12px]">
          {words}
        </tspan>
      </text>
    </g>
  );
}

function Heat({
  x,
  loss,
  state,
  names,
  many,
}: {
  x: number;
  loss: Loss;
  state: StateAnswer;
  names: Answer["loss_names"];
  many: boolean;
}) {
  return (
    <g>
      <text
        x={x - 8}
        y={FLOOR + 15}
        className={`text-[13px] font-semibold ${loss.label ? "fill-water" : "fill-ember"}`}
      >
        {digits(loss.watts, loss.watts < 1 ? 2 : 3)} W
      </text>
      <text x={x - 8} y={FLOOR + 29} className="fill-soft text-[11.5px]">
        {heatWords(loss, state, names, many)}
      </text>
    </g>
  );
}

/** How much of it each thing that warms a part makes. */
function heatWords(
  loss: Loss,
  state: StateAnswer,
  names: Answer["loss_names"],
  many: boolean,
): string {
  switch (loss.part) {
    case "pack":
      return "heat in cells and leads";
    case "controller":
      return "heat in the controller";
    case "motor": {
      const of = [
        [names.copper, state.copper_heat_w],
        [names.brush, state.brush_heat_w],
        [names.turning, state.turning_heat_w],
      ] as const;
      return of
        .filter(([name, watts], at) => name !== undefined && (at === 0 || watts > 0))
        .map(([name, watts]) => `${name} ${digits(watts, 2)}`)
        .join(", ");
    }
    case "along":
      return "beside it";
    case "propeller":
      return loss.label ?? "";
    case "gearing":
      return many ? `${(loss.stage ?? 0) + 1}` : `stage ${(loss.stage ?? 0) + 1}`;
  }
}

/** A round number of watts and how broad it is drawn. */
function ScaleBar({ width, scale }: { width: number; scale: number }) {
  const target = 26 / scale;
  const power = 10 ** Math.floor(Math.log10(target));
  const watts = [5, 2, 1].map((n) => n * power).find((w) => w <= target) ?? power;
  const height = watts * scale;
  const x = width - 5;
  return (
    <g>
      <path
        d={`M${x - 4} ${FLOOR + 30 - height}h4v${height}h-4`}
        className="fill-none stroke-soft"
      />
      <text x={x - 8} y={FLOOR + 30} textAnchor="end" className="fill-soft text-[11.5px]">
        {digits(watts, 1)} W broad
      </text>
    </g>
  );
}

const changed = (a: Flow, b: Flow): boolean =>
  Math.abs(a.cells - b.cells) > 1e-6 * Math.max(a.cells, b.cells) ||
  Math.abs(a.road - b.road) > 1e-6 * Math.max(a.road, b.road);

function spoken(flow: Flow, moment: string, end: string): string {
  const heat = flow.losses.reduce((sum, loss) => sum + (loss.label ? 0 : loss.watts), 0);
  const ends = endsOf(flow);
  return `Stream of power, ${moment}: ${digits(flow.cells)} W from the cells, ${digits(heat)} W lost as heat on the way, ${digits(flow.road)} W on the ${end}${ends ? ` (${ends})` : ""}.`;
}
