import { memo, type PointerEvent, useState } from "react";
import type { Answer, MapAnswer, MomentId } from "../../../api/types";
import { Axes } from "../../../plots/Axes";
import { pushPlot } from "../../../plots/push";
import { LIMIT_WORDS } from "../../../stream/limits";
import { digits } from "../../../units/format";
import { useUnits } from "../../../units/preferences";
import { toShown, unitOf } from "../../../units/quantities";
import { momentOf } from "../parts";
import { interpolated, runs } from "./curve";

interface Props {
  answer: Answer;
  pinned: Answer | null;
  moment: MomentId;
  width: number;
  height: number;
  /** Top speeds that were measured on this build, each on its grade. */
  measured?: Measured[];
}

export interface Measured {
  speedMps: number;
  gradePct: number;
}

const MARGIN = { left: 44, right: 62, top: 20, bottom: 30 };

const STROKE: Record<string, { width: number; dash?: string; words: string }> = {
  motor_current: { width: 4.5, words: "motor amps limit" },
  battery_current: { width: 3, dash: "1.5 5", words: "pack amps limit" },
  voltage: { width: 2.5, words: "voltage" },
  traction: { width: 3, dash: "8 4", words: "grip" },
};

/** Push against what the road asks, over speed; the edge is drawn by what limits it. */
export const PushMap = memo(function PushMap(props: Props) {
  const { answer, pinned, moment, width, height, measured = [] } = props;
  const { choice, text } = useUnits();
  const [at, setAt] = useState<number | null>(null);
  const map = answer.map;
  const speedUnit = unitOf("speed", choice);
  const forceUnit = unitOf("force", choice);
  const fastest = Math.max(...map.road_speeds_mps, ...(pinned?.map.speeds_mps ?? []));
  const hardest = Math.max(...map.drive_force_n, ...(pinned?.map.drive_force_n ?? []), 1e-6);
  const { x, y, px, py, path } = pushPlot({
    fastest,
    hardest: hardest * 1.12,
    speed: speedUnit,
    force: forceUnit,
    width,
    height,
    margin: MARGIN,
  });
  const edge = runs(map.speeds_mps, map.drive_force_n, map.limited_by);
  const now = momentOf(answer, moment).state;
  const readout = at === null ? null : read(map, at);
  const move = (event: PointerEvent<SVGSVGElement>) => {
    const left = event.currentTarget.getBoundingClientRect().left;
    const speed = (x.invert(event.clientX - left) - (speedUnit.offset ?? 0)) / speedUnit.factor;
    setAt(speed >= 0 && speed <= fastest ? speed : null);
  };
  return (
    <figure className="relative m-0">
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={spoken(map, text)}
        onPointerMove={move}
        onPointerLeave={() => setAt(null)}
        className="block touch-pan-y"
      >
        <defs>
          <clipPath id="map-area">
            <rect
              x={MARGIN.left}
              y={MARGIN.top}
              width={Math.max(0, width - MARGIN.left - MARGIN.right)}
              height={Math.max(0, height - MARGIN.top - MARGIN.bottom)}
            />
          </clipPath>
        </defs>
        <text x={4} y={12} className="fill-soft text-[12px]">
          {width < 560 ? "" : `${answer.map.push}, `}
          {forceUnit.sign}
        </text>
        <Axes x={x} y={y} />
        <text x={width - MARGIN.right + 6} y={height - 12} className="fill-soft text-[11.5px]">
          {speedUnit.sign}
        </text>
        <g clipPath="url(#map-area)">
          {map.crossings.map((crossing) => (
            <path
              key={crossing.grade_pct}
              d={path(map.road_speeds_mps, crossing.road_force_n)}
              className={`fill-none ${crossing.own ? "stroke-ink" : "stroke-soft"}`}
              strokeWidth={crossing.own ? 2 : 1}
            />
          ))}
          {pinned ? (
            <path
              d={path(pinned.map.speeds_mps, pinned.map.drive_force_n)}
              className="fill-none stroke-ink"
              strokeDasharray="3 3"
            />
          ) : null}
          {map.gears_force_n.map((forces, gear) => (
            <path
              // A gear has no name but its place in the box.
              key={gear}
              d={path(map.speeds_mps, forces)}
              className="fill-none stroke-water opacity-50"
              strokeWidth={1}
            />
          ))}
          {edge.map((run) => (
            <path
              key={`${run.limit}${run.speeds[0]}`}
              d={path(run.speeds, run.forces)}
              className="fill-none stroke-water"
              strokeWidth={STROKE[run.limit]?.width ?? 2.5}
              strokeDasharray={STROKE[run.limit]?.dash}
              strokeLinecap="round"
            />
          ))}
        </g>
        <GradeLabels map={map} px={px} py={py} right={width - MARGIN.right} />
        {map.crossings.map((crossing) =>
          crossing.speed_mps !== null &&
          crossing.force_n !== null &&
          crossing.speed_mps <= fastest ? (
            <g key={crossing.grade_pct}>
              <circle
                cx={px(crossing.speed_mps)}
                cy={py(crossing.force_n)}
                r={4.5}
                className="fill-paper stroke-water"
                strokeWidth={2}
              />
              <text
                x={px(crossing.speed_mps) + 8}
                y={py(crossing.force_n) - 6}
                className="text-[12px] font-semibold"
              >
                {digits(toShown(crossing.speed_mps, speedUnit), 2)}
              </text>
            </g>
          ) : null,
        )}
        {measured.map(({ speedMps, gradePct }, place) => {
          const road = map.crossings.find((one) => Math.abs(one.grade_pct - gradePct) < 0.05);
          if (!road || speedMps > fastest) return null;
          const cx = px(speedMps);
          const cy = py(interpolated(map.road_speeds_mps, road.road_force_n, speedMps));
          return (
            // Runs may have read the same speed: they have no name but their place.
            <path
              key={place}
              d={`M${cx - 6} ${cy - 6}L${cx + 6} ${cy + 6}M${cx - 6} ${cy + 6}L${cx + 6} ${cy - 6}`}
              className="stroke-ember"
              strokeWidth={2.5}
            >
              <title>{`measured: ${text(speedMps, "speed")}`}</title>
            </path>
          );
        })}
        {now.speed_mps <= fastest && moment !== "wheels_up" ? (
          <circle
            cx={px(now.speed_mps)}
            cy={py(Math.max(0, now.force_n))}
            r={4}
            className="fill-ember"
          >
            <title>this moment</title>
          </circle>
        ) : null}
        {at !== null ? (
          <line
            x1={px(at)}
            x2={px(at)}
            y1={MARGIN.top}
            y2={height - MARGIN.bottom}
            className="stroke-ember"
          />
        ) : null}
      </svg>
      <figcaption
        className={`flex flex-wrap px-1 text-soft sm:absolute sm:top-0 ${width < 560 ? "gap-x-2 text-[11px] sm:left-8" : "gap-x-4 text-[12px] sm:left-40"}`}
      >
        {readout ? (
          <span className="text-ink">
            {text(at ?? 0, "speed")}: {text(readout.push, "force")} push,{" "}
            {text(readout.flat, "force")} asked on the flat, {readout.words}
          </span>
        ) : (
          <Legend
            limits={edge.map((run) => run.limit)}
            ghost={pinned !== null}
            measured={measured.length > 0}
          />
        )}
      </figcaption>
    </figure>
  );
});

interface LegendProps {
  limits: string[];
  ghost: boolean;
  measured: boolean;
}

function Legend({ limits, ghost, measured }: LegendProps) {
  return (
    <>
      {[...new Set(limits)].map((limit) => (
        <span key={limit} className="flex items-center gap-1.5">
          <svg width="30" height="8" aria-hidden="true">
            <line
              x1="3"
              x2="27"
              y1="4"
              y2="4"
              className="stroke-water"
              strokeWidth={STROKE[limit]?.width}
              strokeDasharray={STROKE[limit]?.dash}
              strokeLinecap="round"
            />
          </svg>
          {STROKE[limit]?.words ?? limit}
        </span>
      ))}
      {ghost ? (
        <span className="flex items-center gap-1.5">
          <svg width="30" height="8" aria-hidden="true">
            <line x1="1" x2="29" y1="4" y2="4" className="stroke-ink" strokeDasharray="3 3" />
          </svg>
          pinned
        </span>
      ) : null}
      {measured ? (
        <span className="flex items-center gap-1.5">
          <svg width="12" height="10" aria-hidden="true">
            <path d="M1 0L11 10M1 10L11 0" className="stroke-ember" strokeWidth={2.5} />
          </svg>
          measured
        </span>
      ) : null}
    </>
  );
}

interface LabelsProps {
  map: MapAnswer;
  px: (speed: number) => number;
  py: (force: number) => number;
  right: number;
}

/** Each grade's name where its line leaves the map, kept apart from one another. */
function GradeLabels({ map, px, py, right }: LabelsProps) {
  let lowest = Number.POSITIVE_INFINITY;
  return map.crossings.map((crossing) => {
    const wanted = py(
      interpolated(map.road_speeds_mps, crossing.road_force_n, Number.POSITIVE_INFINITY),
    );
    const inside = wanted > MARGIN.top - 8;
    const y = Math.min(wanted + 4, lowest - 13);
    if (!inside || y < 10) return null;
    lowest = y;
    return (
      <text
        key={crossing.grade_pct}
        x={Math.min(right, px(map.road_speeds_mps.at(-1) ?? 0)) + 6}
        y={y}
        className={`text-[12px] ${crossing.own ? "font-semibold" : "fill-soft"}`}
      >
        {crossing.label}
      </text>
    );
  });
}

function read(map: MapAnswer, speed: number) {
  const push = interpolated(map.speeds_mps, map.drive_force_n, speed);
  const flat = map.crossings.find((crossing) => crossing.grade_pct === 0);
  const index = map.speeds_mps.findIndex((value) => value >= speed);
  const limit = index < 0 ? "overrun" : (map.limited_by[index] ?? "voltage");
  return {
    push: index < 0 ? 0 : push,
    flat: flat ? interpolated(map.road_speeds_mps, flat.road_force_n, speed) : 0,
    words: LIMIT_WORDS[limit] ?? limit,
  };
}

function spoken(map: MapAnswer, text: (value: number, quantity: "speed") => string): string {
  const tops = map.crossings.map((crossing) =>
    crossing.speed_mps === null
      ? `can't start: ${crossing.label}`
      : `${text(crossing.speed_mps, "speed")}: ${crossing.label}`,
  );
  return `Push against road load over speed. Full throttle holds ${tops.join(", ")}.`;
}
