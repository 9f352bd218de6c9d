import { useState } from "react";
import type { BuildDocument, SettingRow, SheetAnswer } from "../../api/types";
import { Button } from "../../ui/Button";
import { saveFile } from "../../ui/saveFile";
import { chosen, typed } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown, toStored } from "../../units/quantities";
import { asSet, asText, type SettingValue, today } from "./sheet";

interface Props {
  answer: SheetAnswer;
  document: BuildDocument;
  onSet: (values: Record<string, unknown>) => void;
}

/** Every setting in the order in which it is set: what for this build, why, what stands now. */
export function Sheet({ answer, document, onSet }: Props) {
  const rows = answer.settings;
  const [copied, setCopied] = useState(false);
  const copy = async () => {
    await navigator.clipboard.writeText(asText(rows, document.name));
    setCopied(true);
  };
  const save = () => {
    const name = document.name.toLowerCase().replaceAll(/[^a-z0-9]+/g, "-");
    saveFile(`${name}-settings.json`, JSON.stringify(answer, null, 1), "application/json");
  };
  return (
    <section aria-label="Settings" className="min-w-0">
      <div className="flex flex-wrap items-center gap-x-3 pb-1">
        <h2 className="flex-1 text-[16px] font-semibold">What to set, in this order</h2>
        <span className="no-print flex gap-1">
          <Button kind="plain" onClick={() => void copy()}>
            {copied ? "Copied" : "Copy as text"}
          </Button>
          <Button kind="plain" onClick={save}>
            Save as JSON
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
          <Row key={row.id} row={row} number={at + 1} onSet={onSet} />
        ))}
      </ol>
    </section>
  );
}

interface RowProps {
  row: SettingRow;
  number: number;
  onSet: Props["onSet"];
}

function Row({ row, number, onSet }: RowProps) {
  const { choice } = useUnits();
  const unit = documentUnit(row.unit, choice);
  const said = (value: SettingValue) =>
    typeof value === "string" ? value : `${chosen(toShown(value, unit), 3)} ${unit.sign}`.trim();
  const set = (value: SettingValue | null) => onSet(asSet(row, value, today()));
  const { now, by_hand: hand, differs } = row.stands;
  const same = now !== null && row.value !== null && said(now) === said(row.value);
  return (
    <li className="grid gap-x-4 border-t border-line py-1.5 text-[13px] sm:grid-cols-[1.4rem_9.5rem_6.5rem_1fr_9.5rem]">
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
      <span className="text-[12.5px] sm:text-right">
        <span className="no-print flex items-center gap-2 sm:justify-end">
          {row.value !== null && !same && !row.stands.within ? (
            <Button
              onClick={() => set(row.value as SettingValue)}
              aria-label={`Set it: ${row.label.toLowerCase()} to ${said(row.value)}`}
            >
              Set it
            </Button>
          ) : null}
          <ByHand row={row} unit={unit} onSet={set} />
        </span>
        <small className="block text-soft">
          {row.stands.within && !same ? <span className="text-fine">within it</span> : null}
          {same ? <span className="text-fine">set so</span> : null}
          {hand ? ` ${same || row.stands.within ? "since" : "set"} ${dayOf(hand.on)}` : ""}
          {differs ? <span className="block text-watch">{differs}</span> : null}
        </small>
      </span>
    </li>
  );
}

interface ByHandProps {
  row: SettingRow;
  unit: ReturnType<typeof documentUnit>;
  onSet: (value: SettingValue | null) => void;
}

/** What stands at the controller now; typed over where somebody has set something else. */
function ByHand({ row, unit, onSet }: ByHandProps) {
  const { now } = row.stands;
  const label = `${row.label}, as it is set`;
  if (row.id === "reverse")
    return (
      <select
        aria-label={label}
        value={typeof now === "string" ? now : ""}
        onChange={(event) => onSet(event.target.value || null)}
        className="min-h-11 rounded-md border border-line bg-raised px-1 sm:min-h-8"
      >
        <option value="">not set</option>
        {["delayed", "immediate", "none"].map((word) => (
          <option key={word}>{word}</option>
        ))}
      </select>
    );
  const shown =
    typeof now === "number" ? String(Number(toShown(now, unit).toPrecision(4))) : (now ?? "");
  return (
    <label className="flex items-center gap-1">
      <input
        key={shown}
        defaultValue={shown}
        placeholder="not set"
        aria-label={label}
        inputMode="decimal"
        onBlur={(event) => {
          const text = event.target.value.trim();
          const value = typed(text);
          if (text === shown) return;
          if (text === "") onSet(null);
          else if (value === null) event.target.value = shown;
          else onSet(toStored(value, unit));
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="min-h-11 w-16 rounded-md border border-line bg-raised px-1.5 text-right tabular-nums placeholder:text-soft sm:min-h-8"
      />
      <span className="w-6 text-left text-soft">{unit.sign}</span>
    </label>
  );
}

const dayOf = (on: string) =>
  new Date(`${on}T12:00`).toLocaleDateString("en-GB", {
    day: "numeric",
    month: "short",
    year: "numeric",
  });

const lower = (words: string) => words.charAt(0).toLowerCase() + words.slice(1);
