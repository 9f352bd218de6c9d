import { digits } from "../../../units/format";
import { useUnits } from "../../../units/preferences";
import { unitOf } from "../../../units/quantities";
import { spoken, type Warmth, warm } from "../heat";

interface Props {
  x: number;
  y: number;
  width: number;
  /** How far it is to what stands beside it; the bars are shorter where words would run into that. */
  room: number;
  warmths: Warmth[];
}

const ROW = 7;
/** How broad a letter of the smallest type is, in the middle. */
const LETTER = 5.9;
const SHORTEST = 24;

/**
 * Where the heat ends up: a bar for each node of a part, from the air's temperature to its limit,
 * with a mark at the worst moment. A motor has two, its copper above its can.
 */
export function HeatBars({ x, y, width: most, room, warmths }: Props) {
  const { choice, text } = useUnits();
  const degrees = (c: number) => text(c, "temperature", c < 100 ? 2 : 3);
  const pressing = warmths
    .filter((warmth) => warmth.firstS !== null)
    .reduce<Warmth | null>((a, b) => (a && (a.firstS ?? 0) <= (b.firstS ?? 0) ? a : b), null);
  const over = warmths.some((warmth) => warmth.worstShare > 1);
  const { factor } = unitOf("temperature", choice);
  const off = (kelvin: number) =>
    kelvin * factor < 0.5 ? "" : ` ±${digits(kelvin * factor, kelvin * factor < 10 ? 1 : 2)}`;
  const now = warmths
    .map(({ noun, nowC, burntS, offK }) => {
      return `${noun} ${warm(nowC, burntS, degrees)}${nowC === null ? "" : off(offK)}`;
    })
    .join(", ");
  const worst = pressing
    ? `${pressing.noun} ${degrees(pressing.limitC)} in ${spoken(pressing.firstS ?? 0)} ${pressing.first}`
    : `worst ${degrees(Math.max(...warmths.map((w) => w.worstC ?? w.limitC)))} ${warmths[0]?.worst}`;
  const width = Math.max(Math.min(most, (room - now.length * LETTER - 16) / 1.06), SHORTEST);
  const place = (share: number) => Math.max(0, Math.min(1.06, share)) * width;
  return (
    <g>
      {warmths.map((warmth, row) => (
        <g key={warmth.id}>
          <rect x={x} y={y + row * ROW} width={width} height={4} className="fill-sunk" />
          <rect
            x={x}
            y={y + row * ROW}
            width={place(warmth.share)}
            height={4}
            className="fill-ember"
          />
          <path d={`M${x + width} ${y + row * ROW - 1}v6`} className="stroke-ink" strokeWidth={1} />
          <path
            d={`M${x + place(warmth.worstShare)} ${y + row * ROW + 1}l3.5 -5h-7z`}
            className={warmth.worstShare > 1 ? "fill-stop" : "fill-soft"}
          />
        </g>
      ))}
      <text
        x={x + width * 1.06 + 7}
        y={y + 4 + (warmths.length > 1 ? 4 : 0)}
        className="text-[11.5px]"
      >
        {now}
      </text>
      <text
        x={x}
        y={y + warmths.length * ROW + 11}
        className={`text-[11.5px] ${over ? "fill-stop font-semibold" : "fill-soft"}`}
      >
        {worst}
      </text>
    </g>
  );
}
