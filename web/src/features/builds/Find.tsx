interface Props {
  words: string;
  onWords: (words: string) => void;
  sort: "changed" | "name";
  onSort: (sort: "changed" | "name") => void;
  total: number;
}

/** Finds builds by words of their names, in the order that is wanted. */
export function Find({ words, onWords, sort, onSort, total }: Props) {
  const field = "min-h-11 rounded-md border border-line bg-raised px-2.5 text-[13.5px] sm:min-h-8";
  return (
    <div className="mb-3 flex flex-wrap items-center gap-2">
      <input
        type="search"
        aria-label="Find a build"
        placeholder="Find a build by its name"
        value={words}
        maxLength={200}
        onChange={(event) => onWords(event.target.value)}
        className={`${field} w-full sm:w-72`}
      />
      <select
        aria-label="Order of the builds"
        value={sort}
        onChange={(event) => onSort(event.target.value === "name" ? "name" : "changed")}
        className={field}
      >
        <option value="changed">last changed first</option>
        <option value="name">by name</option>
      </select>
      <span role="status" className="text-[13px] text-soft">
        {total.toLocaleString("en-GB")} {total === 1 ? "build" : "builds"}
      </span>
    </div>
  );
}
