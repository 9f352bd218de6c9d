import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useDeferredValue, useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { bringBack, createBuild } from "../../api/builds";
import { ApiError } from "../../api/client";
import { brief as briefOf, briefStarts, createBrief, shelfNames } from "../../api/matching";
import { archetypes, BUILDS, buildPages } from "../../api/queries";
import type { BuildDocument } from "../../api/types";
import { Button } from "../../ui/Button";
import { Mark } from "../../ui/Mark";
import { Notice } from "../../ui/Notice";
import { ArchetypeTile } from "./ArchetypeTile";
import { Briefs } from "./Briefs";
import { BuildRow } from "./BuildRow";
import { Find } from "./Find";
import { ImportBuild } from "./ImportBuild";
import { Removed } from "./Removed";

/** Builds that are looked through at a glance; above that they are searched. */
const FEW = 8;

/** Every build as its stream, and the ways to begin another. */
export function BuildsPage({ settings }: { settings: ReactNode }) {
  const [words, setWords] = useState("");
  const [sort, setSort] = useState<"changed" | "name">("changed");
  const list = useInfiniteQuery(buildPages(useDeferredValue(words), sort));
  const pages = list.data?.pages ?? [];
  const builds = pages.flatMap((page) => page.builds);
  const total = pages[0]?.total ?? 0;
  const kinds = useQuery(archetypes);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    document.title = "Builds, Young Torrent";
    // What the next page needs, so that a match is seen as soon as it is found.
    void queries.prefetchQuery(briefStarts);
    void queries.prefetchQuery(shelfNames);
  }, [queries]);
  const renew = () => queries.invalidateQueries({ queryKey: [BUILDS] });

  const begin = async (document: BuildDocument) => {
    setTrouble(null);
    try {
      const build = await createBuild(document, crypto.randomUUID());
      await renew();
      void navigate(`/builds/${build.id}`);
    } catch (problem) {
      const why =
        problem instanceof ApiError ? `${problem.where} ${problem.what}` : String(problem);
      setTrouble(`Not begun: ${why}.`);
    }
  };

  const match = async (id: string) => {
    setTrouble(null);
    try {
      const starts = await queries.ensureQueryData(briefStarts);
      const start = starts.find((one) => one.id === id);
      if (!start) return;
      // Searched while the page is still on its way, which finds all of this there.
      const begun = await createBrief(start.document);
      queries.setQueryData(briefOf(begun.id).queryKey, begun);
      void navigate(`/briefs/${begun.id}`);
    } catch (problem) {
      const why =
        problem instanceof ApiError ? `${problem.where} ${problem.what}` : String(problem);
      setTrouble(`Not begun: ${why}.`);
    }
  };

  return (
    <>
      <header className="flex items-center justify-between border-b border-line px-4 py-3 sm:px-8">
        <p
          className="flex items-center gap-2.5 text-[17px] font-semibold"
          style={{ fontStretch: "112%" }}
        >
          <Mark className="size-6" />
          Young Torrent
        </p>
        <nav className="ml-auto flex items-center gap-1">
          <Link
            to="/compare"
            className="flex min-h-11 items-center px-2 text-[13.5px] text-water sm:min-h-8"
          >
            Compare
          </Link>
          <Link
            to="/shelf"
            className="flex min-h-11 items-center px-2 text-[13.5px] text-water sm:min-h-8"
          >
            Parts shelf
          </Link>
          {settings}
        </nav>
      </header>
      {trouble ? <Notice tone="stop">{trouble}</Notice> : null}
      {list.failureCount > 0 && !list.data ? (
        <Notice tone="watch">The server or its database does not answer; trying again.</Notice>
      ) : null}
      <main className="mx-auto max-w-7xl px-4 pt-5 pb-12 sm:px-8">
        <div className="mb-3 flex flex-wrap items-end justify-between gap-3">
          <h1 className="text-[22px] font-semibold">Builds</h1>
          <p className="max-w-lg text-[13.5px] text-soft">
            Each is drawn as its stream of power at cruise, from cells to road. What turns down is
            heat.
          </p>
        </div>
        {total > FEW || words ? (
          <Find words={words} onWords={setWords} sort={sort} onSort={setSort} total={total} />
        ) : null}
        {list.data && total === 0 ? (
          <p className="border-y border-line py-6 text-soft">
            {words
              ? "No build is called that."
              : "Nothing on the bench yet. Begin with the vehicle below that is most like yours."}
          </p>
        ) : null}
        <ul className="border-b border-line">
          {builds.map((card) => (
            <BuildRow key={card.id} card={card} onChanged={renew} onTrouble={setTrouble} />
          ))}
        </ul>
        {list.hasNextPage ? (
          <Button
            className="mt-3"
            onClick={() => void list.fetchNextPage()}
            disabled={list.isFetchingNextPage}
          >
            {list.isFetchingNextPage
              ? "Looking"
              : `Show more, ${(total - builds.length).toLocaleString("en-GB")} to come`}
          </Button>
        ) : null}
        <Removed
          items={pages[0]?.removed ?? []}
          onBack={async (id) => {
            await bringBack(id);
            await renew();
          }}
        />
        <Briefs onTrouble={setTrouble} />
        <div className="mt-9 mb-3 flex flex-wrap items-end justify-between gap-3">
          <h2 className="text-[18px] font-semibold">Begin your own</h2>
          <ImportBuild onRead={begin} onTable={renew} onTrouble={setTrouble} />
        </div>
        <p className="mb-4 max-w-2xl text-[13.5px] text-soft">
          Take the vehicle most like yours: to the bench with a drive that is typical of it, or to
          the shelf for the drives that would suit it. Its values are starting guesses and marked
          so.
        </p>
        <ul className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          {kinds.data?.map((archetype) => (
            <ArchetypeTile
              key={archetype.id}
              archetype={archetype}
              onBegin={begin}
              onMatch={match}
            />
          ))}
        </ul>
      </main>
    </>
  );
}
