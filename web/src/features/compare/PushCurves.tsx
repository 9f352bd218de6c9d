import type { Candidate } from "../../api/types";
import { Axes } from "../../plots/Axes";
import { pushPlot } from "../../plots/push";
import { useUnits } from "../../units/preferences";
import { unitOf } from "../../units/quantities";
import { markOf } from "./marks";

const MARGIN = { left: 44, right: 16, top: 18, bottom: 30 };

interface Props {
  candidates: Candidate[];
  width: number;
  height: number;
}

/** Every candidate's push at full throttle over speed, and what the first one's road asks. */
export function PushCurves({ candidates, width, height }: Props) {
  const { choice, text } = useUnits();
  const speedUnit = unitOf("speed", choice);
  const forceUnit = unitOf("force", choice);
  const first = candidates[0];
  if (!first || width < 160) return null;
  const fastest = Math.max(...candidates.flatMap((one) => one.map.speeds_mps));
  const hardest = Math.max(...candidates.flatMap((one) => one.map.drive_force_n), 1e-6);
  const { x, y, px, py, path } = pushPlot({
    fastest,
    hardest: hardest * 1.1,
    speed: speedUnit,
    force: forceUnit,
    width,
    height,
    margin: MARGIN,
  });
  const inside = (speeds: number[], forces: number[]): [number[], number[]] => {
    const kept = speeds.flatMap((speed, at) =>
      speed <= fastest && (forces[at] ?? 0) <= hardest * 1.1 ? [at] : [],
    );
    return [kept.map((at) => speeds[at] ?? 0), kept.map((at) => forces[at] ?? 0)];
  };
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={candidates
        .map((one, place) => {
          const top = one.moments.find((moment) => moment.id === "top_speed");
          return `${markOf(place).letter}, ${one.name}: ${text(one.map.drive_force_n[0] ?? 0, "force")} from standstill, top speed ${text(top?.state.speed_mps ?? 0, "speed")}`;
        })
        .join("; ")}
    >
      <text x={4} y={11} className="fill-soft text-[12px]">
        {first.map.push}, {forceUnit.sign}
      </text>
      <Axes x={x} y={y} sign={speedUnit.sign} />
      {first.map.crossings.map((crossing) => {
        const [speeds, forces] = inside(first.map.road_speeds_mps, crossing.road_force_n);
        return (
          <g key={crossing.grade_pct}>
            <path
              d={path(speeds, forces)}
              className={`fill-none ${crossing.own ? "stroke-soft" : "stroke-line"}`}
              strokeWidth={crossing.own ? 1.5 : 1}
            />
            {crossing.own || crossing.grade_pct === 0 ? (
              <text
                x={MARGIN.left + 4}
                y={py(forces[0] ?? 0) - 5}
                className="fill-soft text-[11px]"
              >
                {crossing.label}
              </text>
            ) : null}
          </g>
        );
      })}
      {candidates.map((one, place) => {
        const mark = markOf(place);
        // Letters stand where pushes still differ, each a bit further on so that none is on another.
        const wanted = MARGIN.left + 10 + 20 * place;
        const at = Math.max(
          one.map.speeds_mps.findIndex((speed) => px(speed) >= wanted),
          0,
        );
        return (
          <g key={mark.letter}>
            <path
              d={path(one.map.speeds_mps, one.map.drive_force_n)}
              className={`fill-none ${mark.stroke}`}
              strokeWidth={2.5}
              strokeDasharray={mark.dash}
            />
            <text
              x={px(one.map.speeds_mps[at] ?? 0)}
              y={py(one.map.drive_force_n[at] ?? 0) - 6}
              className="text-[12.5px] font-semibold"
            >
              {mark.letter}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
