import type { Saying } from "./useBrief";

interface Props {
  saying: Saying;
  path: string;
  label: string;
  options: [value: string, words: string][];
  /** The value in the document for a word; the word itself if left out. */
  to?: (value: string) => unknown;
  from?: (value: unknown) => string;
}

/** One word in a sentence, out of a few. The empty one says that it does not matter. */
export function Choice({ saying, path, label, options, to, from }: Props) {
  const stored = saying.value(path);
  const value = from ? from(stored) : typeof stored === "string" ? stored : "";
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => {
        const next = event.target.value;
        saying.say(path, next === "" ? null : to ? to(next) : next);
      }}
      className={`min-h-9 max-w-full rounded-t border-b-2 bg-sunk px-1 text-[14.5px] sm:min-h-7 ${
        value !== "" && !saying.isSaid(path) ? "border-dashed border-soft" : "border-water"
      }`}
    >
      {options.map(([id, words]) => (
        <option key={id} value={id}>
          {words}
        </option>
      ))}
    </select>
  );
}
