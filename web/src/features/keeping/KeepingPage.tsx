import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { upkeep } from "../../api/keeping";
import { Notice } from "../../ui/Notice";
import { Archive } from "./Archive";
import { HowLong } from "./HowLong";
import { Sizes } from "./Sizes";
import { Stands } from "./Stands";

/** What is kept here: how large it is, how long what may go stays, and all of it as a file. */
export function KeepingPage() {
  const told = useQuery(upkeep);
  const queries = useQueryClient();
  useEffect(() => {
    document.title = "What is kept, Young Torrent";
  }, []);
  return (
    <>
      {told.failureCount > 0 && !told.data ? (
        <Notice tone="watch">The server or its database does not answer; trying again.</Notice>
      ) : null}
      <main className="mx-auto max-w-5xl px-4 pt-5 pb-12 sm:px-8">
        <h1 className="mb-1 text-[22px] font-semibold">What is kept</h1>
        <p className="mb-5 max-w-2xl text-[13.5px] text-soft">
          All of it lies on this machine and nowhere else. Builds, parts and briefs of your lists
          are never let go by themselves.
        </p>
        <div className="grid gap-x-12 gap-y-8 md:grid-cols-2">
          <Archive onIn={() => queries.invalidateQueries()} />
          {told.data ? <Sizes told={told.data} /> : null}
          {told.data ? <HowLong policy={told.data.policy} /> : null}
          {told.data && told.data.stands.length > 0 ? <Stands told={told.data} /> : null}
          <section>
            <h2 className="mb-1 text-[16px] font-semibold">Backups</h2>
            <p className="text-[13.5px]">
              <code>bin/backup FILE</code> writes the whole database into one file and checks it,
              while all this runs. <code>bin/restore FILE</code> brings it back, with the product
              stopped, and keeps what was there before. Before a new version changes the form of the
              database, one is made by itself.
            </p>
          </section>
        </div>
      </main>
    </>
  );
}
