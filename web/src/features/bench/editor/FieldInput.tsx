import { useId, useState } from "react";
import type { FieldInfo, Provenance } from "../../../api/types";
import { valueAt } from "../../../ui/paths";
import { expected, parsed, written } from "../../../units/fields";
import { useUnits } from "../../../units/preferences";
import { documentUnit } from "../../../units/quantities";
import type { BenchState, Workbench } from "../../../workbench/workbench";
import { OriginChip } from "./OriginChip";

interface Props {
  bench: Workbench;
  state: BenchState;
  field: FieldInfo;
  path: string;
}

const BOX =
  "w-full min-w-0 rounded-md border bg-raised px-2 py-1 text-[14px] min-h-11 sm:min-h-8 tabular-nums";

/** One input: label, value in the user's unit, origin, and the refusal if there is one. */
export function FieldInput({ bench, state, field, path }: Props) {
  const id = useId();
  const { choice } = useUnits();
  const [draft, setDraft] = useState<string | null>(null);
  const [misread, setMisread] = useState<string | null>(null);
  const unit = documentUnit(field.unit, choice);
  const value = valueAt(state.document, path);
  const refused = state.refused && concerns(state.refused.where, path) ? state.refused.what : null;
  const trouble = misread ?? refused;

  const send = (next: unknown) => bench.act({ do: "set", values: { [path]: next } });
  const commit = (text: string) => {
    setDraft(null);
    if (text.trim() === written(value, field, unit)) return;
    if (text.trim() === "") {
      if (field.required) setMisread("is needed; the last value stands");
      else send(null);
      return;
    }
    const next = parsed(text, field, unit);
    if (next === undefined)
      setMisread(`“${text.trim()}” is not ${expected(field)}; the last value stands`);
    else send(next);
  };
  const begin = (text: string) => {
    setDraft(text);
    setMisread(null);
    bench.clearRefusal();
  };
  const known = state.document.provenance?.[path] as Provenance | undefined;
  return (
    <div className="min-w-0">
      <div className="flex items-baseline justify-between gap-2 text-[13px]">
        <label htmlFor={id} className="font-semibold">
          {field.label}
        </label>
        {field.required ? null : <span className="text-[11.5px] text-soft">optional</span>}
      </div>
      <div className="mt-0.5 flex items-center gap-1.5">
        {field.kind === "choice" ? (
          <select
            id={id}
            className={`${BOX} border-line`}
            value={typeof value === "string" ? value : ""}
            onChange={(event) => send(event.target.value || null)}
          >
            {field.required && typeof value === "string" ? null : (
              <option value="">not said</option>
            )}
            {field.options.map((option) => (
              <option key={option} value={option}>
                {option.replaceAll("_", " ")}
              </option>
            ))}
          </select>
        ) : (
          <input
            id={id}
            className={`${BOX} ${trouble ? "border-stop" : "border-line"}`}
            inputMode={["text", "choices"].includes(field.kind) ? "text" : "decimal"}
            value={draft ?? written(value, field, unit)}
            aria-invalid={trouble !== null}
            aria-describedby={`${id}-explain`}
            onChange={(event) => begin(event.target.value)}
            onBlur={(event) => draft !== null && commit(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Enter" && draft !== null) commit(event.currentTarget.value);
              if (event.key === "Escape") {
                setDraft(null);
                setMisread(null);
                event.stopPropagation();
              }
            }}
          />
        )}
        {unit.sign ? <span className="shrink-0 text-[12.5px] text-soft">{unit.sign}</span> : null}
        {field.kind !== "text" && value !== undefined ? (
          <OriginChip bench={bench} path={path} label={field.label} known={known} />
        ) : null}
      </div>
      {trouble ? (
        <p role="alert" className="mt-0.5 text-[12.5px] font-semibold text-stop">
          {field.label} {trouble}
        </p>
      ) : null}
      <p id={`${id}-explain`} className="mt-0.5 text-[12px] leading-snug text-soft">
        {field.explain}
      </p>
    </div>
  );
}

const concerns = (where: string, path: string): boolean =>
  where === path || where.startsWith(`${path}.`);
