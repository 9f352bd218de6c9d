import { useState } from "react";
import type { BuildDocument, SettingRow } from "../../api/types";
import { Button } from "../../ui/Button";
import { chosen } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { asText, pathOf, setNow } from "./paths";

interface Props {
  rows: SettingRow[];
  document: BuildDocument;
  onSet: (values: Record<string, unknown>) => void;
}

/** Every setting in the order in which it is set: what for this build, why, what stands now. */
export function Sheet({ rows, document, onSet }: Props) {
  const [copied, setCopied] = useState(false);
  const copy = async () => {
    await navigator.clipboard.writeText(asText(rows, document.name));
    setCopied(true);
  };
  return (
    <section aria-label="Settings" className="min-w-0">
      <div className="flex flex-wrap items-center gap-x-3 pb-1">
        <h2 className="flex-1 text-[16px] font-semibold">What to set, in this order</h2>
        <span className="no-print flex gap-1">
          <Button kind="plain" onClick={() => void copy()}>
            {copied ? "Copied" : "Copy as text"}
          </Button>
          <Button kind="plain" onClick={() => window.print()}>
            Print
          </Button>
        </span>
      </div>
      <p className="text-[12.5px] text-soft">
        Worked out for this build. What only the maker's data can say is left open; wheels off the
        ground for the first try, and nobody beside them.
      </p>
      <ol className="mt-1">
        {rows.map((row, at) => (
          <Row key={row.id} row={row} number={at + 1} document={document} onSet={onSet} />
        ))}
      </ol>
    </section>
  );
}

interface RowProps extends Omit<Props, "rows"> {
  row: SettingRow;
  number: number;
}

function Row({ row, number, document, onSet }: RowProps) {
  const { choice } = useUnits();
  const unit = documentUnit(row.unit, choice);
  const said = (value: number | string) =>
    typeof value === "string" ? value : `${chosen(toShown(value, unit), 3)} ${unit.sign}`.trim();
  const path = pathOf(row.id, document);
  const now = setNow(row.id, document);
  const same = now !== null && row.value !== null && said(now) === said(row.value);
  return (
    <li className="grid gap-x-4 border-t border-line py-1.5 text-[13px] sm:grid-cols-[1.4rem_10.5rem_6.5rem_1fr_auto]">
      <span className="hidden text-soft sm:block">{number}</span>
      <span className="font-semibold">
        {row.label}
        {row.offered === null ? null : (
          <small className="block font-normal text-soft">
            {row.offered ? "it can be set" : "this controller has none"}
          </small>
        )}
      </span>
      <span className="figure">{row.value === null ? "–" : said(row.value)}</span>
      <span className="leading-snug">
        {row.why}
        <span className="block text-[12px] text-soft">
          Less: {lower(row.below)} More: {lower(row.above)}
        </span>
      </span>
      <span className="no-print text-right">
        {path === null ? null : within(row, now) ? (
          <span className="text-[12.5px] text-fine">now {said(now as number)}, within it</span>
        ) : same ? (
          <span className="text-[12.5px] text-fine">set so</span>
        ) : row.value === null ? (
          <span className="text-[12px] text-soft">{now === null ? "" : `now ${said(now)}`}</span>
        ) : (
          <>
            <Button
              onClick={() => onSet({ [path]: row.value })}
              aria-label={`Set it: ${row.label.toLowerCase()} to ${said(row.value)}`}
            >
              Set it
            </Button>
            <small className="block text-[11.5px] text-soft">
              {now === null ? "not set" : `now ${said(now)}`}
            </small>
          </>
        )}
      </span>
    </li>
  );
}

/** Whether what is set stands below a limit, and is left alone. */
export const within = (row: SettingRow, now: number | string | null): boolean =>
  row.at_most && typeof now === "number" && typeof row.value === "number" && now <= row.value;

const lower = (words: string) => words.charAt(0).toLowerCase() + words.slice(1);
