import type { BroughtIn } from "../api/types";

/** What became of a file that was brought in: what went in, and which rows stayed out and why. */
export function BroughtInReport({ told, noun }: { told: BroughtIn | string | null; noun: string }) {
  if (told === null) return null;
  if (typeof told === "string")
    return (
      <p role="status" className="mt-2 text-[13px]">
        {told}
      </p>
    );
  return (
    <div role="status" className="mt-2 text-[13px]">
      <p className="font-semibold">
        {told.added} {noun} added{told.changed ? `, ${told.changed} changed` : ""}
        {told.bad_count ? `; ${told.bad_count} rows stayed out` : ""}.
      </p>
      <ul className="max-h-48 overflow-y-auto">
        {told.bad.map((row) => (
          <li key={`${row.line} ${row.column}`} className="border-t border-line py-1 text-[12.5px]">
            <b className="font-semibold">
              line {row.line}
              {row.column ? `, ${row.column}` : ""}
            </b>{" "}
            {row.what}
          </li>
        ))}
      </ul>
    </div>
  );
}
