import { useId, useState } from "react";
import type { FieldInfo } from "../../api/types";
import { valueAt, withValue } from "../../ui/paths";
import { expected, parsed, written } from "../../units/fields";
import { useUnits } from "../../units/preferences";
import { documentUnit } from "../../units/quantities";
import { type Draft, known, type Origin, originOf, sizesOf, sizesText } from "./draft";

interface Props {
  field: FieldInfo;
  draft: Draft;
  refused: string | null;
  onChange: (draft: Draft) => void;
}

const BOX = "min-h-11 w-full min-w-0 rounded-md border bg-paper px-2 text-[14px] sm:min-h-8";

const ORIGINS: [Origin | "", string][] = [
  ["", "origin?"],
  ["data_sheet", "data sheet"],
  ["measured", "measured"],
  ["estimated", "estimated"],
  ["default", "starting guess"],
];

/** One fact of a part: label, value in the user's unit, how it is known. */
export function DraftField({ field, draft, refused, onChange }: Props) {
  const id = useId();
  const { choice } = useUnits();
  const unit = documentUnit(field.unit, choice);
  const value = valueAt(draft, field.path);
  const isSizes = field.path === "sizes";
  const now = isSizes ? sizesText(value) : written(value, field, unit);
  const [text, setText] = useState<string | null>(null);
  const [misread, setMisread] = useState<string | null>(null);
  const trouble = misread ?? refused;
  const say = (next: unknown) => onChange(withValue(draft, field.path, next));
  const commit = () => {
    if (text === null || text === now) return setText(null);
    setMisread(null);
    if (text.trim() === "") say(null);
    else {
      const next = isSizes ? sizesOf(text, value) : parsed(text, field, unit);
      if (next === undefined || next === null) return setMisread(`is not ${expected(field)}`);
      say(next);
    }
    setText(null);
  };
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="text-[13px] font-semibold">
        {field.label}
        {field.required ? <span className="font-normal text-soft"> (needed)</span> : null}
      </label>
      <div className="flex items-center gap-1.5">
        {field.kind === "choice" ? (
          <select
            id={id}
            value={typeof value === "string" ? value : ""}
            onChange={(event) => say(event.target.value || null)}
            className={`${BOX} border-line`}
          >
            {field.required ? null : <option value="">not said</option>}
            {field.options.map((option) => (
              <option key={option} value={option}>
                {option.replaceAll("_", " ")}
              </option>
            ))}
          </select>
        ) : typeof value === "boolean" || YES_NO.has(field.path) ? (
          <select
            id={id}
            value={value === undefined ? "" : String(value)}
            onChange={(event) =>
              say(event.target.value === "" ? null : event.target.value === "true")
            }
            className={`${BOX} border-line`}
          >
            <option value="">not said</option>
            <option value="true">yes</option>
            <option value="false">no</option>
          </select>
        ) : (
          <input
            id={id}
            value={text ?? now}
            inputMode={["text", "choices"].includes(field.kind) || isSizes ? "text" : "decimal"}
            aria-invalid={trouble !== null}
            onChange={(event) => setText(event.target.value)}
            onBlur={commit}
            onKeyDown={(event) => event.key === "Enter" && commit()}
            className={`${BOX} tabular-nums ${trouble ? "border-stop" : "border-line"}`}
          />
        )}
        {unit.sign ? <span className="text-[12.5px] text-soft">{unit.sign}</span> : null}
        {value !== undefined && ["number", "whole"].includes(field.kind) ? (
          <select
            aria-label={`How ${field.label} is known`}
            value={originOf(draft, field.path)}
            onChange={(event) =>
              onChange(known(draft, field.path, (event.target.value || null) as Origin | null))
            }
            className="min-h-8 max-w-24 shrink-0 bg-transparent text-[11.5px] text-soft"
          >
            {ORIGINS.map(([origin, words]) => (
              <option key={origin} value={origin}>
                {words}
              </option>
            ))}
          </select>
        ) : null}
      </div>
      {trouble ? (
        <p role="alert" className="text-[12.5px] font-semibold text-stop">
          {field.label} {trouble}
        </p>
      ) : null}
      <p className="text-[12px] leading-snug text-soft">{field.explain}</p>
    </div>
  );
}

const YES_NO = new Set(["settable", "remote_included"]);
