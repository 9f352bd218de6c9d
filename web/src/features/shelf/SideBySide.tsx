import type { PartsTable } from "../../api/types";
import { Button } from "../../ui/Button";
import { useUnits } from "../../units/preferences";
import { said, signOf } from "./kinds";

interface Props {
  table: PartsTable;
  ids: string[];
  onDrop: (id: string) => void;
}

/** How much a number is of the greatest beside it; a line of words has none. */
function Bar({ value, among }: { value: unknown; among: unknown[] }) {
  const numbers = among.filter((one): one is number => typeof one === "number");
  if (typeof value !== "number" || numbers.length < 2) return null;
  const share = (100 * value) / Math.max(...numbers);
  return (
    <span className="mt-0.5 ml-auto block h-1 w-24 bg-sunk">
      <span className="ml-auto block h-1 bg-water" style={{ width: `${share}%` }} />
    </span>
  );
}

/** Parts beside one another, line by line; lines in which they differ stand out. */
export function SideBySide({ table, ids, onDrop }: Props) {
  const { choice } = useUnits();
  const rows = ids.flatMap((id) => table.rows.filter((row) => row.id === id));
  if (rows.length < 2) return null;
  return (
    <section aria-label="Side by side" className="my-2">
      <div className="overflow-x-auto">
        <table className="border-separate border-spacing-0 text-[13px]">
          <thead>
            <tr>
              <td />
              {rows.map((row) => (
                <th key={row.id} scope="col" className="px-3 py-1 text-right align-bottom">
                  <span className="block font-semibold">{row.name}</span>
                  <Button kind="plain" className="sm:min-h-6" onClick={() => onDrop(row.id)}>
                    leave out<span className="sr-only"> {row.name}</span>
                  </Button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.columns.map((column, at) => {
              const texts = rows.map((row) => said(row.values[at] ?? null, column, choice));
              if (texts.every((text) => text === null)) return null;
              const differ = new Set(texts).size > 1;
              return (
                <tr key={column.path}>
                  <th
                    scope="row"
                    className="border-t border-line py-1 pr-4 text-left font-normal whitespace-nowrap text-soft"
                  >
                    {column.label}{" "}
                    {signOf(column, choice) ? <small>{signOf(column, choice)}</small> : null}
                    {differ ? <span className="sr-only"> (they differ)</span> : null}
                  </th>
                  {texts.map((text, place) => (
                    <td
                      key={rows[place]?.id}
                      className={`border-t border-line px-3 py-1 text-right ${differ ? "figure" : "text-soft"}`}
                    >
                      {text ?? <span className="text-[11.5px] text-watch italic">not said</span>}
                      <Bar
                        value={rows[place]?.values[at]}
                        among={rows.map((row) => row.values[at])}
                      />
                    </td>
                  ))}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}
