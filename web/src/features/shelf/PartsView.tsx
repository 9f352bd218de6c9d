import type { PartColumn, PartRow, PartsTable } from "../../api/types";
import { useUnits } from "../../units/preferences";
import { said, signOf } from "./kinds";

interface Props {
  table: PartsTable;
  wide: boolean;
  sort: string;
  falling: boolean;
  onSort: (path: string) => void;
  beside: string[];
  onBeside: (id: string) => void;
  onOpen: (id: string) => void;
  asksFit: boolean;
}

/** Parts as a table, or as cards where there is no room for one. */
export function PartsView(props: Props) {
  return props.wide ? <Table {...props} /> : <Cards {...props} />;
}

/** The columns in which parts differ, and what they all say alike in the others. */
export function differing(table: PartsTable): { shown: number[]; alike: number[] } {
  const places = table.columns.map((_, at) => at);
  const said = (at: number) => new Set(table.rows.map((row) => JSON.stringify(row.values[at])));
  if (table.rows.length < 2) return { shown: places, alike: [] };
  const alike = places.filter((at) => said(at).size === 1);
  return { shown: places.filter((at) => !alike.includes(at)), alike };
}

function Table({ table, sort, falling, onSort, beside, onBeside, onOpen, asksFit }: Props) {
  const { choice } = useUnits();
  const { shown, alike } = differing(table);
  const columns = shown.flatMap((at): [PartColumn, number][] => {
    const column = table.columns[at];
    return column ? [[column, at]] : [];
  });
  const common = alike.flatMap((at) => {
    const column = table.columns[at];
    const text = column ? said(table.rows[0]?.values[at] ?? null, column, choice) : null;
    return column && text !== null
      ? [`${column.label.toLowerCase()} ${text} ${signOf(column, choice)}`.trim()]
      : [];
  });
  const head = (path: string, label: string, sign: string) => (
    <th
      key={path}
      scope="col"
      aria-sort={sort === path ? (falling ? "descending" : "ascending") : "none"}
      className={`sticky top-0 z-10 border-b border-line bg-paper px-2 py-1 align-bottom font-semibold ${path === "name" ? "left-0 z-20 text-left" : "text-right"}`}
    >
      <button
        type="button"
        onClick={() => onSort(path)}
        className={`text-[12.5px] leading-tight hover:text-water ${path === "name" ? "text-left" : "text-right"}`}
      >
        {label}
        {sort === path ? <span aria-hidden="true"> {falling ? "↓" : "↑"}</span> : null}
        {sign ? <small className="block font-normal text-soft">{sign}</small> : null}
      </button>
    </th>
  );
  return (
    <div className="min-w-0">
      {common.length > 0 ? (
        <p className="pb-1 text-[12.5px] text-soft">Alike for all of them: {common.join(", ")}.</p>
      ) : null}
      <div className="relative max-h-[calc(100dvh-12.5rem)] overflow-auto border-b border-line">
        <table className="w-full border-separate border-spacing-0 text-[13px]">
          <thead>
            <tr>
              {head("name", "Name", "")}
              {asksFit ? (
                <th
                  scope="col"
                  className="sticky top-0 z-10 border-b border-line bg-paper px-2 py-1 text-left align-bottom text-[12.5px] font-semibold"
                >
                  Fits
                </th>
              ) : null}
              {columns.map(([column]) => head(column.path, column.label, signOf(column, choice)))}
            </tr>
          </thead>
          <tbody>
            {table.rows.map((row) => (
              <tr key={row.id} className="group hover:bg-raised">
                <th
                  scope="row"
                  className="sticky left-0 z-[5] border-b border-line bg-paper px-1 py-0.5 text-left font-normal whitespace-nowrap group-hover:bg-raised"
                >
                  <span className="flex items-center gap-2">
                    <Pick row={row} beside={beside} onBeside={onBeside} />
                    <button
                      type="button"
                      className="max-w-56 min-h-8 truncate text-left font-semibold hover:text-water"
                      onClick={() => onOpen(row.id)}
                    >
                      {row.name}
                    </button>
                    {row.own ? <Own /> : null}
                  </span>
                </th>
                {asksFit ? (
                  <td className="border-b border-line px-2 text-[12.5px]">
                    <Fit row={row} />
                  </td>
                ) : null}
                {columns.map(([column, at]) => (
                  <td
                    key={column.path}
                    className={`border-b border-line px-2 text-right ${typeof row.values[at] === "number" ? "figure font-normal" : ""}`}
                  >
                    <Value row={row} column={column} at={at} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

/** A value; a gap that the part could fill is marked, one that its sort does not have is empty. */
function Value({ row, column, at }: { row: PartRow; column: PartColumn; at: number }) {
  const { choice } = useUnits();
  const text = said(row.values[at] ?? null, column, choice);
  if (text !== null)
    return (
      <span
        title={row.origins[at] ? row.origins[at]?.replace("_", " ") : undefined}
        className={row.origins[at] === "estimated" ? "border-b border-dashed border-soft" : ""}
      >
        {text}
        {row.origins[at] === "estimated" ? <span className="sr-only"> (estimated)</span> : null}
      </span>
    );
  return row.asked[at] ? (
    <span className="text-soft" title="not said">
      <span aria-hidden="true">·</span>
      <span className="sr-only">not said</span>
    </span>
  ) : (
    <span className="sr-only">does not apply</span>
  );
}

function Fit({ row }: { row: PartRow }) {
  return row.unfit === null ? (
    <span className="font-semibold text-fine">yes</span>
  ) : (
    <span className="block w-52 leading-tight text-soft">
      <b className="font-semibold text-stop">no</b> {row.unfit}
    </span>
  );
}

const Own = () => (
  <span className="rounded border border-water px-1 text-[11px] text-water">own</span>
);

function Pick({
  row,
  beside,
  onBeside,
}: {
  row: PartRow;
  beside: string[];
  onBeside: (id: string) => void;
}) {
  const on = beside.includes(row.id);
  return (
    <input
      type="checkbox"
      aria-label={`Side by side: ${row.name}`}
      checked={on}
      disabled={!on && beside.length >= 5}
      onChange={() => onBeside(row.id)}
      className="size-4 shrink-0 accent-water"
    />
  );
}

const SHOWN = 6;

function Cards({ table, beside, onBeside, onOpen, asksFit }: Props) {
  const { choice } = useUnits();
  return (
    <ul className="border-t border-line">
      {table.rows.map((row) => {
        const known = table.columns
          .map((column, at) => ({ column, text: said(row.values[at] ?? null, column, choice) }))
          .filter((one) => one.text !== null);
        const gaps = table.columns.filter((_, at) => row.values[at] === null && row.asked[at]);
        return (
          <li key={row.id} className="border-b border-line py-2">
            <div className="flex min-h-11 items-center gap-3">
              <Pick row={row} beside={beside} onBeside={onBeside} />
              <button
                type="button"
                className="min-h-11 flex-1 text-left text-[15px] font-semibold"
                onClick={() => onOpen(row.id)}
              >
                {row.name} {row.own ? <Own /> : null}
              </button>
            </div>
            <dl className="flex flex-wrap gap-x-3 text-[13px]">
              {known.slice(0, SHOWN).map(({ column, text }) => (
                <div key={column.path} className="flex gap-1">
                  <dt className="text-soft">{column.label}</dt>
                  <dd className="figure">
                    {text} <small className="font-normal">{signOf(column, choice)}</small>
                  </dd>
                </div>
              ))}
            </dl>
            {gaps.length > 0 ? (
              <p className="text-[12px] text-watch italic">
                not said: {gaps.map((column) => column.label.toLowerCase()).join(", ")}
              </p>
            ) : null}
            {asksFit ? <Fit row={row} /> : null}
          </li>
        );
      })}
    </ul>
  );
}
