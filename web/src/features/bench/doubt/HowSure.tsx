import { memo } from "react";
import type { DoubtAnswer, PartId, Weak } from "../../../api/types";
import { Button } from "../../../ui/Button";
import { digits } from "../../../units/format";
import { useUnits } from "../../../units/preferences";
import { toShown } from "../../../units/quantities";
import { FIGURES, figuresIn, figureUnit } from "../figures";
import { partOfPath } from "../parts";

interface Props {
  doubt: DoubtAnswer;
  loadFactor: number | null;
  onOpen: (part: PartId) => void;
}

const ORIGIN: Record<string, string> = {
  measured: "measured",
  data_sheet: "from a data sheet",
  estimated: "an estimate",
  fitted: "fitted to runs",
  default: "a starting guess",
};

/** Each main figure with its band and what makes it wide, and what to measure next. */
export const HowSure = memo(function HowSure({ doubt, loadFactor, onOpen }: Props) {
  const next = doubt.measure_next;
  return (
    <section
      aria-label="How sure"
      tabIndex={0}
      className="min-h-0 flex-1 overflow-y-auto text-[13px]"
    >
      {next ? (
        <div className="my-1 border-l-4 border-water bg-raised px-3 py-2">
          <p className="font-semibold">Measure the {next.label} next</p>
          <p>
            {next.how} It is {ORIGIN[next.origin]}, ±{digits(next.tolerance_pct, 2)} %;{" "}
            {served(doubt, next)}
          </p>
          <Button className="mt-1" onClick={() => onOpen(partOfPath(next.path))}>
            Fill it in
          </Button>
        </div>
      ) : (
        <p className="py-2">
          No guess stands out: every input is about as good as its measurement.
        </p>
      )}
      <table className="w-full border-collapse">
        <thead className="text-left text-[11.5px] text-soft">
          <tr>
            <th className="py-1 font-normal">Figure</th>
            <th className="font-normal">10 to 90 %, in four cases of five</th>
            <th className="hidden font-normal sm:table-cell">
              Weakest guesses, and their part in the doubt
            </th>
          </tr>
        </thead>
        <tbody>
          {figuresIn(doubt.figures).map((info) => (
            <FigureRow key={info.id} info={info} figure={doubt.figures[info.id]} />
          ))}
        </tbody>
      </table>
      {loadFactor !== null ? (
        <p className="border-t border-line py-2 text-soft">
          The rule of thumb KV × volts × (1 − load factor) would need a load factor of{" "}
          <span className="figure text-ink">{digits(loadFactor * 100, 2)} %</span> to give this top
          speed; people guess 5 to 20.
        </p>
      ) : null}
    </section>
  );
});

function served(doubt: DoubtAnswer, next: Weak): string {
  const helped = FIGURES.filter((info) =>
    doubt.figures[info.id]?.weakest.some((weak) => weak.path === next.path && weak.share > 0.1),
  ).map((info) => info.name.toLowerCase());
  const narrower = `measured, it leaves ${digits(next.width_left * 100, 2)} % of the width`;
  return helped.length ? `${narrower} (${helped.join(", ")}).` : `${narrower}.`;
}

interface RowProps {
  info: (typeof FIGURES)[number];
  figure: DoubtAnswer["figures"][string] | undefined;
}

function FigureRow({ info, figure }: RowProps) {
  const { choice } = useUnits();
  if (!figure) return null;
  const unit = figureUnit(info, choice);
  const [low, mid, high] = figure.band.map((value) =>
    value === null ? null : toShown(value, unit),
  );
  const value = figure.value === null ? null : toShown(figure.value, unit);
  const weakest = figure.weakest.length
    ? figure.weakest.map((weak) => `${weak.label} ${digits(weak.share * 100, 2)} %`).join(", ")
    : "nothing stands out";
  return (
    <tr className="border-t border-line align-middle">
      <th scope="row" className="py-1.5 pr-3 text-left font-normal whitespace-nowrap">
        {info.name} <span className="figure">{value === null ? "none" : digits(value)}</span>{" "}
        <small className="text-soft">{unit.sign}</small>
      </th>
      <td className="w-52 pr-4">
        {low != null && mid != null && high != null ? (
          <BandBar low={low} mid={mid} high={high} value={value} />
        ) : (
          <span className="text-soft">not in every case</span>
        )}
        <span className="block text-[11.5px] text-soft sm:hidden">{weakest}</span>
      </td>
      <td className="hidden text-[12px] text-soft sm:table-cell">{weakest}</td>
    </tr>
  );
}

const WIDTH = 130;

/** A band as a bar on a scale that runs a quarter below and above its middle. */
function BandBar({
  low,
  mid,
  high,
  value,
}: {
  low: number;
  mid: number;
  high: number;
  value: number | null;
}) {
  const reach = Math.max(Math.abs(mid) * 0.25, (high - low) * 0.6, 1e-9);
  const x = (v: number) => Math.max(0, Math.min(1, (v - (mid - reach)) / (2 * reach))) * WIDTH;
  const text = `${digits(low)} to ${digits(high)}`;
  return (
    <span className="flex items-center gap-2">
      <svg width={WIDTH} height={12} role="img" aria-label={text}>
        <line x1={0} x2={WIDTH} y1={6} y2={6} className="stroke-line" />
        <rect
          x={x(low)}
          y={2}
          width={Math.max(2, x(high) - x(low))}
          height={8}
          rx={2}
          className="fill-shallow"
        />
        <line
          x1={x(value ?? mid)}
          x2={x(value ?? mid)}
          y1={0}
          y2={12}
          className="stroke-water"
          strokeWidth={2}
        />
      </svg>
      <span className="figure text-[12px] whitespace-nowrap">{text}</span>
    </span>
  );
}
