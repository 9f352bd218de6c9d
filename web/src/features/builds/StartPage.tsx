import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useEffect, useState } from "react";
import { bringBack } from "../../api/builds";
import { briefStarts, shelfNames } from "../../api/matching";
import { archetypes, BUILDS, buildPages } from "../../api/queries";
import { Notice } from "../../ui/Notice";
import { Begin } from "./Begin";
import { Briefs } from "./Briefs";
import { Examples } from "./Examples";
import { ImportBuild } from "./ImportBuild";
import { Opening } from "./Opening";
import { OwnBuilds, type Sort } from "./OwnBuilds";
import { Removed } from "./Removed";
import { useBegin } from "./useBegin";

/** Where one starts: one's own builds first, or, without any, what this is and how to begin. */
export function StartPage() {
  const [words, setWords] = useState("");
  const [sort, setSort] = useState<Sort>("changed");
  const sought = useDeferredValue(words.trim());
  // What is sought is sought among the examples, too.
  const list = useInfiniteQuery(buildPages(sought, sort, sought ? "all" : "own"));
  const kinds = useQuery(archetypes).data ?? [];
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<string | null>(null);
  const { begin, match } = useBegin(setTrouble);
  useEffect(() => {
    document.title = "Builds, Young Torrent";
    // What the next page needs, so that a match is seen as soon as it is found.
    void queries.prefetchQuery(briefStarts);
    void queries.prefetchQuery(shelfNames);
  }, [queries]);
  const renew = () => queries.invalidateQueries({ queryKey: [BUILDS] });
  const pages = list.data?.pages ?? [];
  const total = pages[0]?.total ?? 0;
  const isNew = list.data !== undefined && total === 0 && sought === "" && words === "";
  const row = { onChanged: renew, onTrouble: setTrouble };
  return (
    <>
      {trouble ? <Notice tone="stop">{trouble}</Notice> : null}
      {list.failureCount > 0 && !list.data ? (
        <Notice tone="watch">The server or its database does not answer; trying again.</Notice>
      ) : null}
      <main className="mx-auto w-full max-w-7xl flex-1 px-4 pb-12 sm:px-6">
        {isNew ? <Opening kinds={kinds} /> : null}
        {list.data && !isNew ? (
          <OwnBuilds
            pages={pages}
            words={words}
            onWords={setWords}
            sort={sort}
            onSort={setSort}
            more={list.hasNextPage ? () => void list.fetchNextPage() : null}
            busy={list.isFetchingNextPage}
            {...row}
          />
        ) : null}
        {list.data || list.failureCount > 0 ? (
          <Begin
            kinds={kinds}
            heading={isNew ? "What do you want to move?" : "Begin another"}
            onBegin={begin}
            onMatch={match}
            onTrouble={setTrouble}
          />
        ) : null}
        <Briefs onTrouble={setTrouble} />
        <Examples open={isNew} {...row} />
        <Removed
          items={pages[0]?.removed ?? []}
          onBack={async (id) => {
            await bringBack(id);
            await renew();
          }}
        />
        <div className="mt-8 flex flex-wrap items-center gap-3 border-t border-line pt-3">
          <p className="flex-1 text-[13.5px] text-soft">
            Builds are open files: save one, send it on, open it elsewhere.
          </p>
          <ImportBuild
            onRead={(document) => void begin(document)}
            onTable={renew}
            onTrouble={setTrouble}
          />
        </div>
      </main>
    </>
  );
}
