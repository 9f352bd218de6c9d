import type { ReadingFitted } from "../../api/types";
import { useValue } from "../../units/useValue";
import { fieldOf, oddsOf, offBy } from "./kinds";

const WIDTH = 150;
const HEIGHT = 20;

/** A reading beside what was predicted of it: the band, its middle, and where it was read. */
export function Reading({ reading }: { reading: ReadingFitted }) {
  const value = useValue();
  const [label, unit] = fieldOf(reading.field);
  const [low, middle, high] = reading.before;
  const known = low !== null && middle !== null && high !== null;
  const words =
    known && middle !== undefined && reading.surprise !== null && reading.surprise !== undefined
      ? `${offBy(reading.measured, middle)}: ${oddsOf(reading.surprise)}`
      : "the build as it is taken can't do this";
  return (
    <li className="grid grid-cols-[7.5rem_5.5rem_160px_1fr] items-center gap-x-3 py-0.5 max-sm:grid-cols-[1fr_1fr]">
      <span className="text-soft">{label}</span>
      <b className="figure">{value(reading.measured, unit, 3)}</b>
      {known ? (
        <Marked low={low ?? 0} middle={middle ?? 0} high={high ?? 0} at={reading.measured} />
      ) : (
        <span />
      )}
      <span
        className={`text-[12.5px] ${(reading.surprise ?? 9) > 2.1 ? "text-watch" : "text-soft"}`}
      >
        {words}
        {known ? ` (${value(low ?? 0, unit, 3)} to ${value(high ?? 0, unit, 3)} predicted)` : ""}
      </span>
    </li>
  );
}

interface MarkedProps {
  low: number;
  middle: number;
  high: number;
  at: number;
}

function Marked({ low, middle, high, at }: MarkedProps) {
  const from = Math.min(low, at);
  const to = Math.max(high, at, from + 1e-9);
  const room = 0.15 * (to - from);
  const x = (value: number) => 4 + ((value - from + room) / (to - from + 2 * room)) * (WIDTH - 8);
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden="true">
      <line x1={x(low)} x2={x(high)} y1={10} y2={10} className="stroke-shallow" strokeWidth={8} />
      <line x1={x(middle)} x2={x(middle)} y1={4} y2={16} className="stroke-water" strokeWidth={2} />
      <circle cx={x(at)} cy={10} r={4.5} className="fill-ember stroke-page" />
    </svg>
  );
}
