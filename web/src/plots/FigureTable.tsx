import { Fragment, type ReactNode } from "react";
import type { Band } from "../api/types";
import { Term } from "../ui/Term";
import type { TermId } from "../ui/terms";
import { chosen, deserved, rounded } from "../units/format";
import { useUnits } from "../units/preferences";
import { documentUnit, toShown } from "../units/quantities";

/** One figure of several things, on one scale. */
export interface FigureRow {
  id: string;
  /** What it is of, said above the first of its kind. */
  group?: string;
  label: string;
  /** What explains the label. */
  term?: TermId;
  unit: string;
  /** Whether more of it is better, or less; null where neither is. */
  better: "more" | "less" | null;
  values: (number | null | undefined)[];
  bands?: (Band | null | undefined)[];
  /** What is said where there is no value. */
  without?: string[];
  /** What is said below a value. */
  notes?: (string | null | undefined)[];
  significant?: number;
}

interface Props {
  columns: { id: string; head: ReactNode }[];
  rows: FigureRow[];
  /** The column that the others are held against. */
  against?: number;
  /** Rows of words below the figures, a cell for each column. */
  children?: ReactNode;
  caption: string;
}

/** Figures drawn on a scale of each row: how much, how sure, better or worse than the first. */
export function FigureTable({ columns, rows, against = 0, children, caption }: Props) {
  return (
    <section
      // It scrolls on a phone, by keyboard, too.
      tabIndex={0}
      aria-label={caption}
      className="relative overflow-x-auto"
    >
      <table
        className="w-full table-fixed border-separate border-spacing-0 text-[13px]"
        style={{ minWidth: `${8 + 8.5 * columns.length}rem` }}
      >
        <thead>
          <tr>
            <td className="w-32 sm:w-40" />
            {columns.map((column) => (
              <th key={column.id} scope="col" className="px-2 pb-1 text-left align-bottom sm:px-3">
                {column.head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => (
            <Fragment key={row.id}>
              {row.group && row.group !== rows[at - 1]?.group ? (
                <tr>
                  <th
                    scope="rowgroup"
                    colSpan={columns.length + 1}
                    className="pt-3 pb-0.5 text-left text-[12.5px] font-semibold text-water"
                  >
                    {row.group}
                  </th>
                </tr>
              ) : null}
              <Line row={row} columns={columns} against={against} />
            </Fragment>
          ))}
          {children}
        </tbody>
      </table>
    </section>
  );
}

/** What differs by less than this share of itself is not drawn from end to end. */
const LEAST_SPAN = 0.25;

/** From where to where the scale of a row goes: over all values and bands, with some room. */
export function spanOf(row: Pick<FigureRow, "values" | "bands">): [number, number] {
  const ends = (row.bands ?? []).flatMap((band) => [band?.[0], band?.[2]]);
  const all = [...row.values, ...ends].filter((value): value is number => value != null);
  const low = Math.min(...all);
  const high = Math.max(...all);
  const least = LEAST_SPAN * Math.max(Math.abs(low), Math.abs(high));
  const room = Math.max((high - low) * 0.04, (least - (high - low)) / 2) || 1;
  return [low - room, high + room];
}

const MARK = { better: "▲", worse: "▼", same: "" };
const LOOK = { better: "text-fine", worse: "text-watch", same: "" };

/** How a value stands to the one it is held against; the same within half a hundredth. */
export function standing(
  row: Pick<FigureRow, "values" | "better">,
  at: number,
  against = 0,
): "better" | "worse" | "same" {
  const first = row.values[against];
  const value = row.values[at];
  if (at === against || row.better === null || first == null || value == null) return "same";
  const gain = (value - first) * (row.better === "more" ? 1 : -1);
  if (Math.abs(gain) <= 0.005 * Math.max(Math.abs(first), Math.abs(value))) return "same";
  return gain > 0 ? "better" : "worse";
}

interface LineProps {
  row: FigureRow;
  columns: Props["columns"];
  against: number;
}

function Line({ row, columns, against }: LineProps) {
  const { choice } = useUnits();
  const unit = documentUnit(row.unit, choice);
  const [low, high] = spanOf(row);
  const at = (value: number) => (100 * (value - low)) / (high - low);
  const first = row.values[against];
  return (
    <tr>
      <th scope="row" className="border-t border-line py-1 pr-3 text-left align-top font-normal">
        {row.term ? <Term id={row.term}>{row.label}</Term> : row.label}
        {unit.sign ? <small className="ml-1 text-soft">{unit.sign}</small> : null}
      </th>
      {columns.map((column, place) => {
        const value = row.values[place];
        const band = row.bands?.[place];
        const [from, , to] = band ?? [];
        const stands = standing(row, place, against);
        if (value == null)
          return (
            <td
              key={column.id}
              className="border-t border-line px-2 py-1 align-top text-[12px] text-soft sm:px-3"
            >
              {row.without?.[place] || "–"}
            </td>
          );
        const shown = (one: number) =>
          row.unit === "" && Number.isInteger(one)
            ? chosen(one, 9)
            : rounded(
                toShown(one, unit),
                deserved(value, unit.offset ? null : band, row.significant ?? 3),
              );
        return (
          <td key={column.id} className="border-t border-line px-2 py-1 align-top sm:px-3">
            <span className="flex items-baseline gap-1.5 whitespace-nowrap">
              <span className={`figure ${LOOK[stands]}`}>{shown(value)}</span>
              {stands === "same" ? null : (
                <span className={`text-[9px] ${LOOK[stands]}`}>
                  <span aria-hidden="true">{MARK[stands]}</span>
                  <span className="sr-only">{stands}</span>
                </span>
              )}
              {from != null && to != null && shown(from) !== shown(to) ? (
                <small
                  className="text-[11px] text-soft"
                  title="Four times in five it lies between these"
                >
                  {shown(from)} to {shown(to)}
                </small>
              ) : null}
            </span>
            <span aria-hidden="true" className="relative mt-0.5 block h-2 bg-sunk">
              {from != null && to != null ? (
                <span
                  className="absolute inset-y-0 bg-shallow"
                  style={{ left: `${at(from)}%`, width: `${at(to) - at(from)}%` }}
                />
              ) : null}
              {first != null && place !== against ? (
                <span
                  className="absolute -inset-y-0.5 w-px bg-ink opacity-60"
                  style={{ left: `${at(first)}%` }}
                />
              ) : null}
              <span
                className={`absolute -inset-y-0.5 w-1 -translate-x-1/2 ${
                  stands === "worse" ? "bg-watch" : stands === "better" ? "bg-fine" : "bg-water"
                }`}
                style={{ left: `${at(value)}%` }}
              />
            </span>
            {row.notes?.[place] ? (
              <small className="block max-w-56 text-[11.5px] leading-tight text-soft">
                {row.notes[place]}
              </small>
            ) : null}
          </td>
        );
      })}
    </tr>
  );
}

/** A row of words below the figures. */
export function WordRow({
  label,
  cells,
}: {
  label: string;
  cells: { id: string; say: ReactNode }[];
}) {
  return (
    <tr>
      <th scope="row" className="border-t border-line py-1.5 pr-3 text-left align-top font-normal">
        {label}
      </th>
      {cells.map((cell) => (
        <td
          key={cell.id}
          className="border-t border-line px-2 py-1.5 align-top text-[12.5px] sm:px-3"
        >
          {cell.say}
        </td>
      ))}
    </tr>
  );
}
