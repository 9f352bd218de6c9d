import type { CompareAnswer, CompareRow } from "../../api/types";
import { digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { Spread } from "../../units/Spread";
import { markOf } from "./marks";

const GROUPS: [CompareRow["of"], string][] = [
  ["motor", "Motor"],
  ["controller", "Controller"],
  ["drive", "All of it"],
  ["ride", "What it does"],
];

/** Letters of a note that a column has room for. */
const NOTE_FITS = 44;

/** The table builders compare by; the better of each line is marked, bands say how sure it is. */
export function Rows({ answer }: { answer: CompareAnswer }) {
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full border-separate border-spacing-0 text-[13px]">
        <thead>
          <tr>
            <td />
            {answer.candidates.map((one, place) => (
              <th
                key={markOf(place).letter}
                scope="col"
                className="min-w-22 pb-1 pl-2 text-right align-bottom font-semibold sm:min-w-28 sm:px-3"
              >
                <span className={markOf(place).text}>{markOf(place).letter}</span> {one.name}
              </th>
            ))}
          </tr>
        </thead>
        {GROUPS.map(([of, title]) => {
          const rows = answer.rows.filter((row) => row.of === of);
          return rows.length === 0 ? null : (
            <tbody key={of}>
              <tr>
                <th
                  scope="rowgroup"
                  colSpan={answer.candidates.length + 1}
                  className="pt-3 pb-0.5 text-left text-[12.5px] font-semibold text-water"
                >
                  {title}
                </th>
              </tr>
              {rows.map((row) => (
                <Line key={row.id} row={row} />
              ))}
            </tbody>
          );
        })}
      </table>
    </div>
  );
}

function Line({ row }: { row: CompareRow }) {
  const { choice } = useUnits();
  const unit = documentUnit(row.unit, choice);
  const best = bestOf(row);
  const shown = (value: number) =>
    row.unit === "" && Number.isInteger(value) ? String(value) : digits(toShown(value, unit));
  // What would fill a narrow column line by line stands below them all instead.
  const below = row.notes.some((note) => note.length > NOTE_FITS);
  const cells = (
    <tr>
      <th
        scope="row"
        className="border-t border-line py-1 pr-2 text-left align-top font-normal sm:pr-4 sm:whitespace-nowrap"
      >
        {row.label} {unit.sign ? <small className="text-soft">{unit.sign}</small> : null}
      </th>
      {row.values.map((value, place) => {
        return (
          <td
            key={markOf(place).letter}
            className="border-t border-line py-1 pl-2 text-right align-top sm:px-3"
          >
            {value === null || value === undefined ? (
              <span className="text-[12px] text-soft italic">
                {row.notes[place] || "not known"}
              </span>
            ) : (
              <>
                {best === place ? (
                  <span className="mr-1 text-[11px] text-fine">
                    {row.better === "more" ? "most" : "least"}
                  </span>
                ) : null}
                <span className="figure">{shown(value)}</span>
                <Spread band={row.bands[place]} unit={row.unit} block />
                {row.notes[place] && !below ? (
                  <small className="ml-auto block max-w-44 text-[11.5px] leading-tight text-soft">
                    {row.notes[place]}
                  </small>
                ) : null}
              </>
            )}
          </td>
        );
      })}
    </tr>
  );
  return below ? (
    <>
      {cells}
      <tr>
        <td colSpan={row.values.length + 1} className="pb-1 text-[12.5px] leading-snug">
          {row.notes.map((note, place) =>
            note ? (
              <p key={markOf(place).letter}>
                <span className={`font-semibold ${markOf(place).text}`}>
                  {markOf(place).letter}
                </span>{" "}
                <span className="text-soft">{note}.</span>
              </p>
            ) : null,
          )}
        </td>
      </tr>
    </>
  ) : (
    cells
  );
}

/** The place of the better one, if one stands out. */
export function bestOf(row: Pick<CompareRow, "values" | "better">): number | null {
  if (row.better === null) return null;
  const known = row.values.filter((value): value is number => value != null);
  if (known.length < 2) return null;
  const best = row.better === "more" ? Math.max(...known) : Math.min(...known);
  const there = row.values.flatMap((value, place) => (value === best ? [place] : []));
  return there.length === 1 ? (there[0] ?? null) : null;
}
