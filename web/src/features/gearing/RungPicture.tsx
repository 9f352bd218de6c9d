import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { LadderAnswer, Rung } from "../../api/types";
import { Axes } from "../../plots/Axes";
import { digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { named } from "../../workbench/PlanSteps";
import type { MeasuredRung } from "./useMeasuredRungs";

const HEIGHT = 300;
const LEFT = 42;
const RIGHT = 14;
const TOP = 26;
const BOTTOM = 44;

interface Props {
  answer: LadderAnswer;
  /** The rungs that stand in the table beside it. */
  near: Rung[];
  measured: MeasuredRung[];
  width: number;
  onSet: (rung: Rung) => void;
}

/** Letters by which the best few are found in the picture. */
export const LETTERS = "ABCDEFGH";

/** Every rung as a mark: how fast, and how hot the winding gets on the hill. */
export function RungPicture({ answer, near, measured, width, onSet }: Props) {
  const { choice } = useUnits();
  if (width < 200) return null;
  const speed = documentUnit("km/h", choice);
  const heat = documentUnit("C", choice);
  const fast = (kmh: number) => toShown(kmh, speed);
  const hot = (c: number) => toShown(c, heat);
  const limit = answer.limits.winding_c ?? null;
  const best = Object.values(answer.best).filter((rung): rung is Rung => Boolean(rung));
  const steps = answer.plan
    .map((step) => step.rung)
    .filter((rung) => named(rung) !== named(answer.present));
  const told = [answer.present, ...best, ...steps, ...near];
  const known = told.flatMap(({ figures: { winding_climb_c: c } }) => (c == null ? [] : [c]));
  // As wide as what can be chosen from here; what lies far off would press it together.
  const coolest = Math.min(...known, limit ?? 105);
  const hottest = Math.max(coolest + 12, ...known.map((c) => c + 0.15 * (c - coolest) + 2));
  const speeds = told.map((rung) => rung.figures.top_speed_kmh ?? 0);
  const [slowest, fastest] = [0.85 * Math.min(...speeds), 1.06 * Math.max(...speeds, 1)];
  const x = scaleLinear([fast(slowest), fast(fastest)], [LEFT, width - RIGHT]);
  const y = scaleLinear([hot(coolest - 2), hot(hottest)], [HEIGHT - BOTTOM, TOP]);
  const seen = answer.map.filter(
    ({ top_speed_kmh: kmh }) => kmh != null && kmh >= slowest && kmh <= fastest,
  );
  // What can't climb at all, or burns, stands on the upper edge.
  const at = (figures: { top_speed_kmh?: number | null; winding_climb_c?: number | null }) => ({
    cx: x(fast(figures.top_speed_kmh ?? 0)),
    cy: y(hot(Math.min(figures.winding_climb_c ?? hottest, hottest))),
  });
  const says = (rung: Rung) =>
    `${named(rung)} teeth: ${digits(fast(rung.figures.top_speed_kmh ?? 0))} ${speed.sign}, ${
      rung.figures.winding_climb_c == null
        ? "can't climb the hill"
        : `winding ${digits(hot(rung.figures.winding_climb_c), 2)} ${heat.sign}`
    }${rung.stopped ? `; ${rung.stopped}` : ""}`;
  const present = at(answer.present.figures);
  const { top_speed_kmh: fastBand, winding_climb_c: hotBand } = answer.present.bands ?? {};
  const ridden = measured.flatMap(({ teeth, speedKmh }) => {
    const rung = told.find((one) => named(one) === teeth);
    return rung ? [{ rung, speedKmh }] : [];
  });
  const way = [answer.present, ...steps].map((rung) => at(rung.figures));
  return (
    <figure className="m-0">
      <svg
        width={width}
        height={HEIGHT}
        role="group"
        aria-label={`Rungs of teeth by top speed and winding temperature after the hill; the present one, ${says(answer.present)}`}
      >
        <text x={4} y={12} className="text-[11.5px]">
          Winding after the hill, {heat.sign}
        </text>
        <Axes x={x} y={y} sign={speed.sign} />
        <text x={width - RIGHT} y={HEIGHT - 6} textAnchor="end" className="fill-soft text-[11px]">
          top speed
        </text>
        {limit === null ? null : limit > hottest ? (
          <text x={width - RIGHT} y={12} textAnchor="end" className="fill-soft text-[11px]">
            above: its winding stands {digits(hot(limit), 3)} {heat.sign}
          </text>
        ) : (
          <>
            <line
              x1={LEFT}
              x2={width - RIGHT}
              y1={y(hot(limit))}
              y2={y(hot(limit))}
              className="stroke-stop"
              strokeDasharray="6 4"
            />
            <text x={width - RIGHT} y={y(hot(limit)) - 4} textAnchor="end" className="text-[11px]">
              what its winding stands, {digits(hot(limit), 3)} {heat.sign}
            </text>
          </>
        )}
        {seen.map((point) => (
          <circle
            key={point.ratio}
            {...at(point)}
            r={point.stopped ? 2 : 2.4}
            className={point.stopped ? "fill-none stroke-soft opacity-45" : "fill-water opacity-70"}
          >
            <title>
              {`${digits(point.ratio)} to 1: ${digits(fast(point.top_speed_kmh ?? 0))} ${speed.sign}${point.stopped ? "; worse than now for some part" : ""}`}
            </title>
          </circle>
        ))}
        {fastBand?.[0] != null && fastBand[2] != null ? (
          <line
            x1={x(fast(fastBand[0]))}
            x2={x(fast(fastBand[2]))}
            y1={present.cy}
            y2={present.cy}
            className="stroke-ink opacity-40"
            strokeWidth={5}
          />
        ) : null}
        {hotBand?.[0] != null && hotBand[2] != null ? (
          <line
            x1={present.cx}
            x2={present.cx}
            y1={y(hot(hotBand[0]))}
            y2={y(hot(Math.min(hotBand[2], hottest)))}
            className="stroke-ink opacity-40"
            strokeWidth={5}
          />
        ) : null}
        <path
          d={
            line<{ cx: number; cy: number }>()
              .x((one) => one.cx)
              .y((one) => one.cy)(way) ?? ""
          }
          className="fill-none stroke-ember"
          strokeWidth={1.5}
        />
        {near.map((rung) => (
          // The table beside says and sets the same by keyboard; here a finger or mouse does.
          // biome-ignore lint/a11y/noStaticElementInteractions: the table beside does it by keyboard
          <circle
            key={`near ${named(rung)}`}
            {...at(rung.figures)}
            r={5}
            className={`cursor-pointer ${rung.stopped ? "fill-paper stroke-stop opacity-60" : "fill-paper stroke-water"}`}
            strokeWidth={1.5}
            strokeDasharray={rung.stopped ? "2 2" : undefined}
            onClick={() => onSet(rung)}
          >
            <title>{`${says(rung)}; press to set it`}</title>
          </circle>
        ))}
        {way.slice(1).map((place, step) => (
          <g key={named(steps[step] as Rung)}>
            <circle {...place} r={7.5} className="fill-ember" />
            <text
              x={place.cx}
              y={place.cy + 3.5}
              textAnchor="middle"
              className="fill-paper text-[10.5px] font-semibold"
            >
              {answer.plan.findIndex((one) => one.rung === steps[step]) + 1}
            </text>
          </g>
        ))}
        {ridden.map(({ rung, speedKmh }) => {
          const place = at(rung.figures);
          const seen = x(fast(speedKmh));
          return (
            <g key={`measured ${named(rung)}`}>
              <line x1={place.cx} x2={seen} y1={place.cy} y2={place.cy} className="stroke-ember" />
              <path
                d={`M${seen - 5},${place.cy - 5}l10,10m0,-10l-10,10`}
                className="stroke-ember"
                strokeWidth={2.5}
              >
                <title>{`${named(rung)} teeth, measured: ${digits(fast(speedKmh))} ${speed.sign}`}</title>
              </path>
            </g>
          );
        })}
        {best.map((rung, one) => {
          const place = at(rung.figures);
          return (
            <g key={`best ${named(rung)}`}>
              <path
                d={`M${place.cx},${place.cy - 7}l6,7l-6,7l-6,-7z`}
                className="fill-raised stroke-deep"
                strokeWidth={1.5}
              />
              <text
                x={place.cx}
                y={place.cy + 3.5}
                textAnchor="middle"
                className="text-[9.5px] font-semibold"
              >
                {LETTERS[one]}
              </text>
            </g>
          );
        })}
        <circle {...present} r={8} className="fill-none stroke-ink" strokeWidth={2.5} />
        <text x={present.cx + 11} y={present.cy - 8} className="text-[11.5px] font-semibold">
          now
        </text>
      </svg>
      <figcaption className="text-[12px] text-soft">
        Dots: reductions there are teeth for; hollow ones are worse than now for some part. Rings:
        the rungs of the table. Letters: the best few. Numbers: the cautious way up.
        {ridden.length ? " Crosses: what was measured on a rung." : ""}
      </figcaption>
    </figure>
  );
}
