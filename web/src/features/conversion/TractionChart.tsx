import type { GearsAnswer } from "../../api/types";
import { Axes } from "../../plots/Axes";
import { pushPlot } from "../../plots/push";
import { useUnits } from "../../units/preferences";
import { toShown, unitOf } from "../../units/quantities";

const MARGIN = { left: 52, right: 40, top: 24, bottom: 28 };

/** Push over speed in every gear, the motor's and the engine's, with what the road asks. */
export function TractionChart({
  answer,
  width,
  height,
}: {
  answer: GearsAnswer;
  width: number;
  height: number;
}) {
  const { choice } = useUnits();
  if (width < 200) return null;
  const speed = unitOf("speed", choice);
  const force = unitOf("force", choice);
  const { gears, road } = answer;
  const fastest = Math.max(
    ...gears.flatMap((gear) => [...gear.engine_speeds_mps, (gear.top_kmh ?? 0) / 3.6]),
    1,
  );
  const hardest = Math.max(...gears.flatMap((gear) => [...gear.motor_n, ...gear.engine_n]), 1);
  const { x, y, px, py, path } = pushPlot({
    fastest: 1.08 * fastest,
    hardest: 1.1 * hardest,
    speed,
    force,
    width,
    height,
    margin: MARGIN,
  });
  const within = (speeds: number[], forces: number[]) => {
    const kept = speeds.findIndex((at) => at > fastest);
    return kept < 0 ? path(speeds, forces) : path(speeds.slice(0, kept), forces.slice(0, kept));
  };
  const engine = gears.some((gear) => gear.engine_n.length);
  return (
    <figure>
      <figcaption className="flex flex-wrap gap-x-5 text-[12px]">
        <Key className="stroke-water" words="motor, full throttle" />
        {engine ? <Key className="stroke-ember" dash="6 4" words="engine, full throttle" /> : null}
        <Key className="stroke-soft" words="what the road asks" />
      </figcaption>
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`Push over speed in ${gears.length} gears, of the motor${engine ? " and of the engine it replaces" : ""}, against the road`}
      >
        <text x={4} y={12} className="fill-soft text-[12px]">
          {force.sign}
        </text>
        <Axes x={x} y={y} sign={speed.sign} />
        {road.map((one) => {
          const last = one.speeds_mps.length - 1;
          const at = Math.min(one.speeds_mps[last] ?? 0, fastest);
          const end = one.force_n[last] ?? 0;
          return (
            <g key={one.grade_pct}>
              <path
                d={within(one.speeds_mps, one.force_n)}
                className="fill-none stroke-soft"
                strokeWidth={1}
              />
              {end < 1.1 * hardest ? (
                <text
                  x={Math.min(px(at) + 4, width - 34)}
                  y={py(end) + 4}
                  className="fill-soft text-[11.5px]"
                >
                  {one.grade_pct === 0 ? "level" : `${Number(one.grade_pct.toPrecision(3))} %`}
                </text>
              ) : null}
            </g>
          );
        })}
        {gears.map((gear, place) => (
          <g key={gear.name}>
            {gear.engine_n.length ? (
              <path
                d={path(gear.engine_speeds_mps, gear.engine_n)}
                className="fill-none stroke-ember"
                strokeWidth={1.6}
                strokeDasharray="6 4"
              />
            ) : null}
            <path
              d={within(gear.speeds_mps, gear.motor_n)}
              className="fill-none stroke-water"
              strokeWidth={gear.needed ? 3 : 1.6}
            />
            {gears.length > 1 ? <Named gear={gear} name={`${place + 1}`} px={px} py={py} /> : null}
          </g>
        ))}
      </svg>
      <p className="sr-only">
        {gears
          .map(
            (gear) =>
              `${gear.name} pushes ${Math.round(toShown(gear.start_n, force))} ${force.sign} at a start`,
          )
          .join(", ")}
      </p>
    </figure>
  );
}

/** The gear's number, where its push has fallen to a third and the curves lie apart. */
function Named({
  gear,
  name,
  px,
  py,
}: {
  gear: GearsAnswer["gears"][number];
  name: string;
  px: (speed: number) => number;
  py: (force: number) => number;
}) {
  const third = (gear.motor_n[0] ?? 0) / 3;
  const found = gear.motor_n.findIndex((force) => force < third);
  const at = found < 0 ? gear.motor_n.length - 1 : found;
  return (
    <text
      x={px(gear.speeds_mps[at] ?? 0) + 5}
      y={py(gear.motor_n[at] ?? 0) - 4}
      className="fill-water stroke-paper text-[13px] font-semibold [paint-order:stroke] [stroke-width:3px]"
    >
      {name}
    </text>
  );
}

function Key({ className, words, dash }: { className: string; words: string; dash?: string }) {
  return (
    <span className="inline-flex items-center gap-1.5">
      <svg width={22} height={8} aria-hidden="true">
        <line
          x1={0}
          x2={22}
          y1={4}
          y2={4}
          className={className}
          strokeWidth={2}
          strokeDasharray={dash}
        />
      </svg>
      {words}
    </span>
  );
}
