import { scaleLinear } from "d3-scale";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";

interface Props {
  told: { wheel_rpm: number; speed_kmh: number; motor_rpm: number };
  width: number;
}

const HEIGHT = 190;
const LEFT = 8;

/** Wheel, road and motor on three scales that run together, and where the build is on them. */
export function SpeedRuler({ told, width }: Props) {
  const { choice } = useUnits();
  if (width < 200 || told.speed_kmh <= 0) return null;
  const speed = documentUnit("km/h", choice);
  const reach = 1.3;
  const rows = [
    ["wheel, rpm", told.wheel_rpm],
    [`road, ${speed.sign}`, toShown(told.speed_kmh, speed)],
    ["motor, rpm", told.motor_rpm],
  ] as const;
  const at = scaleLinear([0, reach], [LEFT, width - 34])(1);
  return (
    <svg
      width={width}
      height={HEIGHT}
      role="img"
      aria-label={`At ${Math.round(toShown(told.speed_kmh, speed))} ${speed.sign} the wheel turns ${Math.round(told.wheel_rpm)} and the motor ${Math.round(told.motor_rpm)} rpm`}
    >
      {rows.map(([title, value], row) => {
        const x = scaleLinear([0, value * reach], [LEFT, width - 34]);
        const y = 38 + 58 * row;
        return (
          <g key={title}>
            <text x={LEFT} y={y - 22} className="fill-soft text-[11.5px]">
              {title}
            </text>
            <line x1={LEFT} x2={width - 34} y1={y} y2={y} className="stroke-ink" />
            {x.ticks(8).map((tick) => (
              <g key={tick}>
                <line x1={x(tick)} x2={x(tick)} y1={y} y2={y - 6} className="stroke-ink" />
                <text x={x(tick)} y={y + 14} textAnchor="middle" className="text-[11.5px]">
                  {tick.toLocaleString("en-GB")}
                </text>
              </g>
            ))}
          </g>
        );
      })}
      <line x1={at} x2={at} y1={22} y2={HEIGHT - 22} className="stroke-water" strokeWidth={2.5} />
    </svg>
  );
}
