import { useEffect, useRef } from "react";
import { Link } from "react-router";
import { SeverityMark } from "../ui/Severity";
import { ENTRIES, type Entry, type Known } from "./entries";

interface Props {
  buildId: string;
  known: Known;
  now: Entry;
}

/** The pages of a build in the order of the work, each with what stands open there. */
export function Way({ buildId, known, now }: Props) {
  const nav = useRef<HTMLElement>(null);
  useEffect(() => {
    // On a phone the pages scroll; the one that is open is kept in sight.
    const open = nav.current?.querySelector(`[data-page="${now.path}"]`);
    open?.scrollIntoView?.({ inline: "center", block: "nearest" });
  }, [now.path]);
  return (
    <nav
      ref={nav}
      aria-label="Pages of the build"
      className="no-print fixed inset-x-0 bottom-0 z-10 flex overflow-x-auto border-t border-line bg-raised pb-[env(safe-area-inset-bottom)] sm:static sm:z-auto sm:h-full sm:justify-start sm:gap-1 sm:overflow-visible sm:border-0 sm:bg-transparent sm:pb-0"
    >
      {ENTRIES.filter((entry) => entry.has(known.document)).map((entry) => {
        const open = entry.open(known);
        return (
          <Link
            key={entry.path}
            data-page={entry.path}
            to={`/builds/${buildId}${entry.path ? `/${entry.path}` : ""}`}
            aria-current={entry === now ? "page" : undefined}
            title={`${entry.title}${open ? `: ${open.say}` : ""} (key ${entry.letter})`}
            className="flex min-h-12 min-w-14 flex-auto shrink-0 items-center justify-center gap-1.5 border-t-2 border-transparent px-2 text-[12.5px] sm:px-2.5 sm:text-[13.5px] whitespace-nowrap text-soft hover:text-ink aria-[current]:border-water aria-[current]:font-semibold aria-[current]:text-ink sm:h-full sm:min-h-0 sm:min-w-0 sm:flex-none sm:border-t-0 sm:border-b-2"
          >
            <Lettered title={entry.title} letter={entry.letter} />
            {open ? (
              <>
                <SeverityMark severity={open.severity} title={open.say} />
                <span aria-hidden="true" className="hidden text-[12px] font-normal xl:inline">
                  {open.say}
                </span>
              </>
            ) : null}
          </Link>
        );
      })}
    </nav>
  );
}

/** A title with the letter underlined that goes there. */
function Lettered({ title, letter }: { title: string; letter: string }) {
  const at = title.toLowerCase().indexOf(letter);
  return (
    <span>
      {title.slice(0, at)}
      <span className="sm:underline sm:decoration-line sm:underline-offset-3">{title[at]}</span>
      {title.slice(at + 1)}
    </span>
  );
}
