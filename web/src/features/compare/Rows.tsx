import type { CompareAnswer, CompareRow } from "../../api/types";
import { type FigureRow, FigureTable } from "../../plots/FigureTable";
import { PRICE } from "../../units/quantities";
import { markOf } from "./marks";

const GROUPS: [CompareRow["of"], string][] = [
  ["motor", "Motor"],
  ["controller", "Controller"],
  ["drive", "All of it"],
  ["ride", "What it does"],
];

/** What builders compare by, each figure on a scale of its own and held against the first one. */
export function Rows({ answer }: { answer: CompareAnswer }) {
  const rows: FigureRow[] = GROUPS.flatMap(([of, group]) =>
    answer.rows
      .filter((row) => row.of === of)
      .map((row) => ({
        id: row.id,
        group,
        label: row.label,
        unit: row.id === "price" ? PRICE : row.unit,
        better: row.better,
        values: row.values,
        bands: row.bands,
        notes: row.notes,
        without: row.notes.map((note) => note || "not known"),
      })),
  );
  const columns = answer.candidates.map((one, place) => ({
    id: markOf(place).letter,
    head: (
      <>
        <span className={markOf(place).text}>{markOf(place).letter}</span> {one.name}
      </>
    ),
  }));
  return <FigureTable caption="All that is compared" columns={columns} rows={rows} />;
}
