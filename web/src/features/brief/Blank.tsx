import { useEffect, useState } from "react";
import { chosen, typed } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown, toStored } from "../../units/quantities";
import type { Saying } from "./useBrief";

interface Props {
  saying: Saying;
  path: string;
  label: string;
  unit: string;
  /** What stands in the blank while nothing is said. */
  open?: string;
  needed?: boolean;
}

/** One number in a sentence. Empty, the wish does not matter; a guess is marked as one. */
export function Blank({ saying, path, label, unit, open = "any", needed = false }: Props) {
  const { choice } = useUnits();
  const shown = documentUnit(unit, choice);
  const stored = saying.value(path);
  const now = typeof stored === "number" ? chosen(toShown(stored, shown)) : "";
  const [text, setText] = useState(now);
  useEffect(() => setText(now), [now]);
  const guess = now !== "" && !saying.isSaid(path);
  const where = saying.refusal?.where;
  // What is wrong may be this number, or several together that stand in one place.
  const refused =
    where !== undefined && (`${where}.`.startsWith(`${path}.`) || path.startsWith(`${where}.`));
  const commit = () => {
    if (text.trim() === now) return;
    if (text.trim() === "") return needed ? setText(now) : saying.say(path, null);
    const value = typed(text);
    if (value === null) return setText(now);
    saying.say(path, toStored(value, shown));
  };
  return (
    <span className="inline-flex items-baseline whitespace-nowrap">
      <input
        aria-label={guess ? `${label}, a guess` : label}
        title={guess ? "A guess; say what is so" : undefined}
        inputMode="decimal"
        value={text}
        placeholder={open}
        size={Math.max(text.length, open.length, 2)}
        aria-invalid={refused}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => event.key === "Enter" && commit()}
        className={`figure min-h-9 rounded-t border-b-2 bg-sunk px-1.5 text-center text-[14.5px] placeholder:text-soft sm:min-h-7 ${
          refused ? "border-stop" : guess ? "border-dashed border-soft" : "border-water"
        }`}
      />
      {shown.sign ? <span className="ml-1 text-[12.5px] text-soft">{shown.sign}</span> : null}
    </span>
  );
}
