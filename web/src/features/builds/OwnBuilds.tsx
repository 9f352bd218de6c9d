import type { BuildCard } from "../../api/types";
import { Button } from "../../ui/Button";
import { BuildRow } from "./BuildRow";
import { Find } from "./Find";
import { Latest } from "./Latest";

export type Sort = "changed" | "name";

interface Props {
  pages: { builds: BuildCard[]; total: number }[];
  words: string;
  onWords: (words: string) => void;
  sort: Sort;
  onSort: (sort: Sort) => void;
  more: (() => void) | null;
  busy: boolean;
  onChanged: () => void;
  onTrouble: (what: string | null) => void;
}

/** One's own builds, the one last worked on largest, the others below by when they were changed. */
export function OwnBuilds({ pages, words, onWords, sort, onSort, more, busy, ...row }: Props) {
  const builds = pages.flatMap((page) => page.builds);
  const total = pages[0]?.total ?? 0;
  const seeks = words.trim() !== "";
  const first = sort === "changed" && !seeks ? builds[0] : undefined;
  const groups = together(first ? builds.slice(1) : builds, sort);
  return (
    <section className="pt-4">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h1 className="mb-2 text-[20px] font-semibold">{seeks ? "Found" : "Your builds"}</h1>
        <Find words={words} onWords={onWords} sort={sort} onSort={onSort} total={total} />
      </div>
      {total === 0 ? (
        <p className="border-y border-line py-6 text-soft">No build is called that.</p>
      ) : null}
      {first ? <Latest card={first} {...row} /> : null}
      {groups.map(({ title, cards }) => (
        <section key={title} className="mt-3" aria-label={title}>
          <h2 className="pb-0.5 text-[12.5px] text-soft">{title}</h2>
          <ul className="border-b border-line">
            {cards.map((card) => (
              <BuildRow key={card.id} card={card} {...row} />
            ))}
          </ul>
        </section>
      ))}
      {more ? (
        <Button className="mt-3" onClick={more} disabled={busy}>
          {busy
            ? "Looking"
            : `Show more, ${(total - builds.length).toLocaleString("en-GB")} to come`}
        </Button>
      ) : null}
    </section>
  );
}

const DAY_MS = 86_400_000;

/** Cards that follow one another, by the day they were changed or the letter they begin with. */
export function together(cards: BuildCard[], sort: Sort, now = new Date()) {
  const midnight = new Date(now.getFullYear(), now.getMonth(), now.getDate()).getTime();
  const titleOf = (card: BuildCard): string => {
    if (sort === "name")
      return /^[a-z]/i.test(card.name) ? (card.name[0] ?? "").toUpperCase() : "0 to 9 and signs";
    const changed = new Date(card.changed_at).getTime();
    if (changed >= midnight) return "Today";
    if (changed >= midnight - 6 * DAY_MS) return "This week";
    return changed >= midnight - 29 * DAY_MS ? "This month" : "Earlier";
  };
  const groups: { title: string; cards: BuildCard[] }[] = [];
  for (const card of cards) {
    const title = titleOf(card);
    const last = groups.find((group) => group.title === title);
    if (last) last.cards.push(card);
    else groups.push({ title, cards: [card] });
  }
  return groups;
}
