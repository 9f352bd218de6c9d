import type { BoardRow } from "../../../api/types";

/** What a press would bring a build to a stop with, and what it would clear. */
export function StopsThen({ row }: { row: BoardRow }) {
  if (row.stops.length === 0 && row.clears.length === 0) return null;
  return (
    <span className="block text-[11.5px] leading-snug whitespace-normal">
      {row.stops.length > 0 ? (
        <span className="block text-stop">Then {row.stops.join("; ")}</span>
      ) : null}
      {row.clears.length > 0 ? (
        <span className="block text-fine">Clears: {row.clears.join("; ")}</span>
      ) : null}
    </span>
  );
}
