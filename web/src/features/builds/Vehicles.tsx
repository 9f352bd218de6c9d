import { useState } from "react";
import type { ArchetypeCard } from "../../api/types";
import { useUnits } from "../../units/preferences";
import type { BeginProps } from "./Begin";

export const GROUPS: [ArchetypeCard["group"], string][] = [
  ["models", "Models and robots"],
  ["one_person", "One person"],
  ["loads", "Loads"],
  ["fields", "Fields and paths"],
  ["air", "Pushed by air"],
];

/** The vehicles to begin from, by what they move; typing narrows them. */
export function Vehicles({ kinds, onBegin, onMatch }: BeginProps) {
  const [words, setWords] = useState("");
  const sought = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = kinds.filter((one) =>
    sought.every((word) => `${one.title} ${one.say}`.toLowerCase().includes(word)),
  );
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <input
          type="search"
          aria-label="Find a kind of vehicle"
          placeholder="Type what it is: trike, hub, wing"
          value={words}
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => {
            const only = found.length === 1 ? found[0] : undefined;
            if (event.key === "Enter" && only) onBegin(only.document);
          }}
          className="min-h-11 w-full rounded-md border border-line bg-raised px-2.5 text-[13.5px] placeholder:text-soft sm:min-h-8 sm:w-72"
        />
        <p className="text-[13px] text-soft">
          Take the one most like yours; every value is a guess to begin with, and marked so.
        </p>
      </div>
      {kinds.length > 0 && found.length === 0 ? (
        <p role="status" className="border-y border-line py-4 text-[13.5px] text-soft">
          None is called that. Take what it comes nearest to in weight and wheels; all of it can be
          changed.
        </p>
      ) : null}
      <div className="grid gap-x-5 gap-y-3 sm:grid-cols-2 lg:grid-cols-5">
        {GROUPS.map(([id, title]) => {
          const members = found.filter((one) => one.group === id);
          if (members.length === 0) return null;
          return (
            <section key={id} aria-label={title}>
              <h3 className="text-[12.5px] text-soft">{title}</h3>
              <ul>
                {members.map((one) => (
                  <Vehicle key={one.id} kind={one} onBegin={onBegin} onMatch={onMatch} />
                ))}
              </ul>
            </section>
          );
        })}
      </div>
    </>
  );
}

function Vehicle({
  kind,
  onBegin,
  onMatch,
}: { kind: ArchetypeCard } & Pick<BeginProps, "onBegin" | "onMatch">) {
  const { text } = useUnits();
  return (
    <li className="border-t border-line">
      <button
        type="button"
        onClick={() => onBegin(kind.document)}
        className="block w-full px-1 pt-2 pb-1 text-left hover:bg-raised"
      >
        <span className="flex items-baseline justify-between gap-2">
          <span className="text-[14.5px] font-semibold">{kind.title}</span>
          <span className="figure text-[12.5px] whitespace-nowrap">
            {text(kind.top_speed_mps, "speed", 2)}
          </span>
        </span>
        <span className="block text-[12.5px] leading-snug text-soft">{kind.say}</span>
      </button>
      {(kind.document.wheel ?? kind.document.propeller) ? (
        <button
          type="button"
          onClick={() => onMatch(kind.id)}
          aria-label={`Find a drive for it: ${kind.title}`}
          className="mb-1 flex min-h-11 items-center px-1 text-[12.5px] text-water hover:underline sm:min-h-6"
        >
          Find a drive for it
        </button>
      ) : null}
    </li>
  );
}
