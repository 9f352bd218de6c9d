import { scaleLinear } from "d3-scale";
import { area } from "d3-shape";
import type { ReadingFitted } from "../../api/types";
import { useValue } from "../../units/useValue";
import { kindOf, oddsOf } from "./kinds";
import { Reading } from "./Reading";

/** The readings of a run, those of one kind together; rolling out as its curve. */
export function Readings({ readings }: { readings: ReadingFitted[] }) {
  const kinds: { kind: string; own: ReadingFitted[] }[] = [];
  for (const reading of readings) {
    const last = kinds.at(-1);
    if (last && last.kind === reading.kind) last.own.push(reading);
    else kinds.push({ kind: reading.kind, own: [reading] });
  }
  return (
    <div className="flex flex-col gap-1">
      {kinds.map(({ kind, own }, at) => (
        // Kinds may come again within a run: they have no name but their place.
        <div key={`${at}${kind}`}>
          <h3 className="pt-1 text-[12.5px] font-semibold">{kindOf(kind)?.title ?? "Logger"}</h3>
          {kind === "coast_down" ? (
            <Rolled samples={own} />
          ) : (
            <ul>
              {own.map((reading, place) => (
                <Reading key={`${place}${reading.field}`} reading={reading} />
              ))}
            </ul>
          )}
        </div>
      ))}
    </div>
  );
}

const WIDTH = 320;
const HEIGHT = 92;

/** Speeds of rolling out in order, within what was predicted of each. */
function Rolled({ samples }: { samples: ReadingFitted[] }) {
  const value = useValue();
  const known = samples.filter((one) => one.before[0] !== null && one.before[2] !== null);
  const most = Math.max(
    ...samples.map((one) => one.measured),
    ...known.map((one) => one.before[2] ?? 0),
    1,
  );
  const x = scaleLinear([0, Math.max(samples.length - 1, 1)], [4, WIDTH - 4]);
  const y = scaleLinear([0, most], [HEIGHT - 4, 4]);
  const band = area<ReadingFitted>(
    (_, at) => x(at),
    (one) => y(one.before[0] ?? 0),
    (one) => y(one.before[2] ?? 0),
  )(known);
  const first = samples[0];
  const last = samples.at(-1);
  const worst = Math.max(...samples.map((one) => one.surprise ?? 0));
  if (!first || !last) return null;
  const words = `${samples.length} looks, from ${value(first.measured, "km/h", 3)} to ${value(last.measured, "km/h", 3)}`;
  return (
    <div className="flex flex-wrap items-center gap-x-4">
      <svg width={WIDTH} height={HEIGHT} role="img" aria-label={`Rolling out: ${words}`}>
        <path d={band ?? ""} className="fill-shallow" />
        {samples.map((one, at) => (
          // Looks have no identity but their order.
          <circle key={at} cx={x(at)} cy={y(one.measured)} r={2.6} className="fill-ember" />
        ))}
      </svg>
      <span className="text-[12.5px] text-soft">
        {words}; the band is what was predicted. {worst > 1.65 ? oddsOf(worst) : "As predicted"}.
      </span>
    </div>
  );
}
