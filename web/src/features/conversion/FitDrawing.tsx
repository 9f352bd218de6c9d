import type { FitAnswer } from "../../api/types";

const USUAL_TALL_MM = 200;
/** A piece that is drawn narrower than its figure has it above. */
const NARROW_PX = 26;
const PAD = { left: 46, right: 20, top: 30, bottom: 78 };

const FILL: Record<string, string> = {
  adapter: "fill-shallow",
  coupler: "fill-water/60",
  motor: "fill-water/30",
};

const plain = (mm: number) => `${Number(mm.toFixed(1))}`;

/** Adapter, coupler and motor to scale on one line, with the room there is. */
export function FitDrawing({
  answer,
  width,
  name,
}: {
  answer: FitAnswer;
  width: number;
  name: string;
}) {
  const { lengths, free_mm: free, needs_mm: needs, across_mm: across } = answer;
  const end = Math.max(free ?? 0, lengths.at(-1)?.to_mm ?? 0);
  if (width < 200) return null;
  if (!lengths.length || end <= 0)
    return (
      <p className="py-6 text-soft">
        Type the motor’s length, the adapter and the room that is free: they are drawn here.
      </p>
    );
  const tall = Math.max(across ?? 0, ...lengths.map((one) => one.tall_mm ?? USUAL_TALL_MM));
  // One scale for both ways, so that a ruler may be laid on the print.
  const scale = Math.min((width - PAD.left - PAD.right) / end, 260 / tall);
  const middle = PAD.top + (tall * scale) / 2;
  const bottom = PAD.top + tall * scale;
  const x = (mm: number) => PAD.left + mm * scale;
  const height = bottom + PAD.bottom;
  const spoken = lengths
    .map((one) => `${one.label} ${plain(one.to_mm - one.from_mm)} mm`)
    .join(", ");
  return (
    <svg
      width={PAD.left + end * scale + PAD.right + 30}
      height={height}
      role="img"
      aria-label={`${name}, to scale: ${spoken}${free === null ? "" : `, of ${plain(free)} mm free`}`}
      data-mm-per-px={1 / scale}
      className="max-w-full"
    >
      <line
        x1={x(0)}
        x2={x(0)}
        y1={PAD.top - 12}
        y2={bottom + 68}
        className="stroke-ink"
        strokeWidth={4}
      />
      <text x={x(0) - 6} y={PAD.top - 16} className="text-[12px]">
        gearbox’s face
      </text>
      {lengths.map((one) => {
        const high = (one.tall_mm ?? USUAL_TALL_MM) * scale;
        const wide = (one.to_mm - one.from_mm) * scale;
        return (
          <g key={one.id}>
            <rect
              data-piece={one.id}
              x={x(one.from_mm)}
              y={middle - high / 2}
              width={wide}
              height={high}
              className={`${FILL[one.id]} stroke-ink`}
              strokeDasharray={one.tall_mm === null ? "4 3" : undefined}
            />
            <text
              x={x(one.from_mm) + (wide > NARROW_PX ? wide / 2 : NARROW_PX / 4)}
              y={wide > NARROW_PX ? bottom + 14 : middle - high / 2 - 4}
              textAnchor={wide > NARROW_PX ? "middle" : "start"}
              className="figure text-[12px]"
            >
              {plain(one.to_mm - one.from_mm)}
            </text>
            {wide > 60 ? (
              <text
                x={x(one.from_mm) + wide / 2}
                y={middle - 8}
                textAnchor="middle"
                className="text-[12.5px]"
              >
                {one.label.toLowerCase()}
              </text>
            ) : null}
          </g>
        );
      })}
      {across === null
        ? null
        : [middle - (across * scale) / 2, middle + (across * scale) / 2].map((edge) => (
            <line
              key={edge}
              x1={x(0)}
              x2={x(end)}
              y1={edge}
              y2={edge}
              className="stroke-fine"
              strokeDasharray="2 4"
              strokeWidth={2}
            />
          ))}
      <line
        x1={x(0) - 24}
        x2={x(end) + 8}
        y1={middle}
        y2={middle}
        className="stroke-soft"
        strokeDasharray="12 3 2 3"
      />
      {needs !== null ? (
        <Measure x1={x(0)} x2={x(needs)} y={bottom + 38} words={`${plain(needs)} mm needed`} />
      ) : null}
      {free !== null ? (
        <>
          <Measure x1={x(0)} x2={x(free)} y={bottom + 62} words={`${plain(free)} mm free`} />
          <line
            x1={x(free)}
            x2={x(free)}
            y1={PAD.top - 12}
            y2={bottom + 68}
            className={free < (needs ?? 0) ? "stroke-stop" : "stroke-fine"}
            strokeWidth={3}
          />
          <text x={x(free)} y={PAD.top - 16} textAnchor="middle" className="text-[12px]">
            in the way
          </text>
        </>
      ) : null}
    </svg>
  );
}

function Measure({ x1, x2, y, words }: { x1: number; x2: number; y: number; words: string }) {
  return (
    <g>
      <line x1={x1} x2={x2} y1={y} y2={y} className="stroke-ink" />
      {[x1, x2].map((at) => (
        <line key={at} x1={at} x2={at} y1={y - 4} y2={y + 4} className="stroke-ink" />
      ))}
      <text
        x={(x1 + x2) / 2}
        y={y - 3}
        textAnchor="middle"
        className="figure fill-ink stroke-paper text-[12px] [paint-order:stroke] [stroke-width:4px]"
      >
        {words}
      </text>
    </g>
  );
}
