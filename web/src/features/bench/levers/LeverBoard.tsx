import { memo, useState } from "react";
import type { Board, BoardRow, FigureId } from "../../../api/types";
import { Button } from "../../../ui/Button";
import { Term } from "../../../ui/Term";
import { digits, typed } from "../../../units/format";
import { useUnits } from "../../../units/preferences";
import { toShown } from "../../../units/quantities";
import type { Workbench } from "../../../workbench/workbench";
import { type FIGURES, figuresIn, figureUnit, stepUnit } from "../figures";
import { spoken } from "../heat";
import { StopsThen } from "./StopsThen";

interface Props {
  bench: Workbench;
  board: Board;
  climbS: number;
  /** The figure that is ranked by at first. */
  complaint?: FigureId | null;
}

type Info = (typeof FIGURES)[number];

/** Every single change at hand, ranked for a wish, with what it gains and what it costs. */
export const LeverBoard = memo(function LeverBoard({
  bench,
  board,
  climbS,
  complaint = null,
}: Props) {
  const { choice } = useUnits();
  const [wish, setWish] = useState<FigureId>(complaint ?? "top_speed_kmh");
  const [amount, setAmount] = useState<string | null>(null);
  const figures = figuresIn(board.now);
  const figure = (figures.find((item) => item.id === wish) ?? figures[0]) as Info;
  const unit = stepUnit(figure, choice);
  const wanted = typed(amount ?? "") ?? figure.step;
  const order = board.ranked[wish] ?? [];
  const columns = [figure, ...figures.filter((item) => item !== figure)];
  const others = board.rows.map((_, i) => i).filter((i) => !order.includes(i));
  const presses = (row: BoardRow): number | null => {
    const gain = (row.effects[wish]?.[0] ?? 0) * (board.better[wish] ?? 1) * unit.factor;
    return gain > 0 ? Math.ceil(wanted / gain - 1e-6) : null;
  };
  return (
    <section aria-label="What would help" className="flex min-h-0 flex-1 flex-col text-[13px]">
      <p className="flex flex-wrap items-center gap-x-2 gap-y-1 py-1">
        <label htmlFor="wish-amount">I want</label>
        <input
          id="wish-amount"
          className="w-14 rounded-md border border-line bg-raised px-2 py-0.5 tabular-nums"
          inputMode="decimal"
          value={amount ?? String(figure.step)}
          onChange={(event) => setAmount(event.target.value)}
        />
        <span className="text-soft">{unit.sign}</span>
        <select
          aria-label="Wish"
          className="min-h-11 rounded-md border border-line bg-raised px-2 sm:min-h-7"
          value={wish}
          onChange={(event) => {
            setWish(event.target.value as FigureId);
            setAmount(null);
          }}
        >
          {figures.map((item) => (
            <option key={item.id} value={item.id}>
              {item.wish}
            </option>
          ))}
        </select>
        <span className="text-[12px] text-soft">
          Winding and can after {spoken(climbS)} of the climb. ± holds four times in five. × says
          how many presses the wish takes.
        </span>
      </p>
      <div
        className="min-h-0 flex-1 overflow-auto"
        tabIndex={0}
        role="region"
        aria-label="All changes"
      >
        <table className="w-full border-collapse text-right text-[12.5px] tabular-nums">
          <thead className="sticky top-0 z-10 bg-paper text-[11.5px] text-soft">
            <tr>
              <th scope="col" className="py-1 text-left font-normal">
                One press
              </th>
              {columns.map((item) => (
                <th
                  key={item.id}
                  scope="col"
                  aria-sort={item.id === wish ? "descending" : undefined}
                  className={`px-1 font-normal ${item.id === wish ? "font-semibold text-ink" : ""}`}
                >
                  <Term id={item.term}>{item.name}</Term>
                  <br />
                  <Now info={item} value={board.now[item.id] ?? null} />
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {[...order, ...others].map((index) => {
              const row = board.rows[index] as BoardRow;
              const needed = presses(row);
              return (
                <tr key={`${row.lever} ${row.step}`} className="border-t border-line">
                  <th
                    scope="row"
                    className="min-w-36 py-0.5 pr-2 text-left leading-tight font-normal"
                  >
                    <Button
                      kind="plain"
                      className="-ml-2 !justify-start !whitespace-normal text-left leading-tight text-water hover:underline sm:!min-h-5"
                      onClick={() => bench.act({ do: "press", lever: row.lever, step: row.step })}
                    >
                      {row.say}
                    </Button>
                    {needed !== null && needed > 1 && needed < 100 ? (
                      <span
                        className="ml-1 text-[11.5px] whitespace-nowrap text-soft"
                        title={`about ${needed} presses for the wish`}
                      >
                        × {needed}
                      </span>
                    ) : null}
                    <StopsThen row={row} />
                  </th>
                  {columns.map((item) => (
                    <Cell
                      key={item.id}
                      info={item}
                      effect={row.effects[item.id] ?? null}
                      wished={item.id === wish}
                      sign={board.better[item.id] ?? 1}
                    />
                  ))}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
});

function Now({ info, value }: { info: Info; value: number | null }) {
  const { choice } = useUnits();
  if (value === null) return <span>none</span>;
  const unit = figureUnit(info, choice);
  return (
    <span className="figure text-[12px] text-ink">
      {digits(toShown(value, unit))} <small className="font-normal text-soft">{unit.sign}</small>
    </span>
  );
}

interface CellProps {
  info: Info;
  effect: number[] | null;
  wished: boolean;
  /** One where more is wished for, minus one where less is. */
  sign: number;
}

const MARK = { better: "▲", worse: "▼" };

function Cell({ info, effect, wished, sign }: CellProps) {
  const { choice } = useUnits();
  if (!effect) return <td className="px-1 text-soft">–</td>;
  const { factor } = stepUnit(info, choice);
  const [delta = 0, low = 0, high = 0] = effect.map((value) => value * factor);
  const least = info.id.endsWith("_a") || info.id.endsWith("_c") ? 0.05 : 0.005;
  if (Math.max(Math.abs(delta), Math.abs(low), Math.abs(high)) < least)
    return <td className="px-1 text-line">·</td>;
  const better = delta * sign > 0;
  const half = (high - low) / 2;
  return (
    <td
      className={`px-1 whitespace-nowrap ${wished ? "bg-raised" : ""}`}
      title={`10 to 90 %: ${signed(low)} to ${signed(high)}`}
    >
      <span className={`figure ${better ? "text-fine" : "text-watch"}`}>
        <span aria-hidden="true" className="mr-0.5 text-[8px]">
          {better ? MARK.better : MARK.worse}
        </span>
        {signed(delta)}
      </span>
      <span className="sr-only">{better ? " better" : " worse"}</span>
      {half >= least ? (
        <small className="ml-0.5 text-[10.5px] text-soft">±{digits(half, 1)}</small>
      ) : null}
    </td>
  );
}

function signed(value: number): string {
  const text = digits(Math.abs(value), Math.abs(value) < 1 ? 1 : 2);
  if (Number(text) === 0) return "0";
  return `${value > 0 ? "+" : "−"}${text}`;
}
