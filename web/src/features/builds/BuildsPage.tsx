import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { bringBack, createBuild } from "../../api/builds";
import { ApiError } from "../../api/client";
import { briefList, brief as briefOf, briefStarts, createBrief, shelf } from "../../api/matching";
import { archetypes, buildList } from "../../api/queries";
import type { BuildDocument } from "../../api/types";
import { Button } from "../../ui/Button";
import { Mark } from "../../ui/Mark";
import { Notice } from "../../ui/Notice";
import { ArchetypeTile } from "./ArchetypeTile";
import { BuildRow } from "./BuildRow";
import { ImportBuild } from "./ImportBuild";

/** Every build as its stream, and the ways to begin another. */
export function BuildsPage({ settings }: { settings: ReactNode }) {
  const list = useQuery(buildList);
  const kinds = useQuery(archetypes);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    document.title = "Builds, Young Torrent";
    // What the next page needs, so that a match is seen as soon as it is found.
    void queries.prefetchQuery(briefStarts);
    void queries.prefetchQuery(shelf);
  }, [queries]);
  const renew = () => queries.invalidateQueries({ queryKey: buildList.queryKey });

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
        {list.data?.builds.length === 0 ? (
          <p className="border-y border-line py-6 text-soft">
            Nothing on the bench yet. Begin with the vehicle below that is most like yours.
          </p>
        ) : null}
        <ul className="border-b border-line">
          {list.data?.builds.map((card) => (
            <BuildRow key={card.id} card={card} onChanged={renew} onTrouble={setTrouble} />
          ))}
        </ul>
        <Removed
          items={list.data?.removed ?? []}
          onBack={async (id) => {
            await bringBack(id);
            await renew();
          }}
        />
        <Briefs />
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

/** Briefs that were begun, each with what its last search found. */
function Briefs() {
  const briefs = useQuery(briefList).data ?? [];
  if (briefs.length === 0) return null;
  return (
    <section className="mt-7">
      <h2 className="mb-1 text-[18px] font-semibold">Briefs</h2>
      <ul className="border-t border-line">
        {briefs.map((brief) => (
          <li key={brief.id} className="border-b border-line">
            <Link
              to={`/briefs/${brief.id}`}
              className="flex min-h-11 flex-wrap items-center justify-between gap-x-4 px-1 hover:bg-raised"
            >
              <span className="text-[14.5px]">A drive for the {brief.name}</span>
              <span className="text-[13px] text-soft">
                {brief.match === null
                  ? "not searched yet"
                  : brief.match.state === "done"
                    ? `${brief.match.feasible.toLocaleString("en-GB")} combinations do`
                    : brief.match.state}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Removed({
  items,
  onBack,
}: {
  items: { id: string; name: string }[];
  onBack: (id: string) => void;
}) {
  if (items.length === 0) return null;
  return (
    <details className="mt-3 text-[13px]">
      <summary className="cursor-pointer py-1 text-soft">
        {items.length} taken out of the list
      </summary>
      <ul>
        {items.map((item) => (
          <li key={item.id} className="flex items-center gap-3 py-1">
            {item.name} <Button onClick={() => onBack(item.id)}>Bring back</Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
