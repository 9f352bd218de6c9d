import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { ApiError } from "../../api/client";
import { briefList, bringBriefBack, removeBrief } from "../../api/matching";
import { Button } from "../../ui/Button";
import { Removed } from "./Removed";

/** Briefs that were begun, each with what its last search found. */
export function Briefs({ onTrouble }: { onTrouble: (what: string | null) => void }) {
  const list = useQuery(briefList).data;
  const queries = useQueryClient();
  const act = async (what: () => Promise<unknown>) => {
    onTrouble(null);
    try {
      await what();
      await queries.invalidateQueries({ queryKey: briefList.queryKey });
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      onTrouble(`Not done: ${problem.where} ${problem.what}.`);
    }
  };
  const briefs = list?.briefs ?? [];
  const removed = list?.removed ?? [];
  if (briefs.length === 0 && removed.length === 0) return null;
  return (
    <section className="mt-7">
      <h2 className="mb-1 text-[18px] font-semibold">Briefs</h2>
      <ul className="border-t border-line">
        {briefs.map((brief) => (
          <li key={brief.id} className="flex items-center gap-x-3 border-b border-line">
            <Link
              to={`/briefs/${brief.id}`}
              className="flex min-h-11 min-w-0 flex-1 flex-wrap items-center justify-between gap-x-4 px-1 hover:bg-raised"
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
            <Button
              kind="plain"
              aria-label={`Take out: the brief for the ${brief.name}`}
              onClick={() => void act(() => removeBrief(brief.id))}
            >
              Take out
            </Button>
          </li>
        ))}
      </ul>
      {list && list.total > briefs.length ? (
        <p className="mt-1 text-[13px] text-soft">
          These are the {briefs.length} that were changed last, of{" "}
          {list.total.toLocaleString("en-GB")}.
        </p>
      ) : null}
      <Removed items={removed} onBack={(id) => void act(() => bringBriefBack(id))} />
    </section>
  );
}
