import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { createBuild } from "../../api/builds";
import { ApiError } from "../../api/client";
import { brief as briefOf, briefStarts, createBrief } from "../../api/matching";
import { BUILDS } from "../../api/queries";
import type { BriefDocument, BuildDocument } from "../../api/types";

/** Ways to begin, each of which leads to the page of what was begun. */
export function useBegin(onTrouble: (what: string | null) => void) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const trying = async (what: () => Promise<string | null>) => {
    onTrouble(null);
    try {
      const to = await what();
      if (to) void navigate(to);
    } catch (problem) {
      const why =
        problem instanceof ApiError ? `${problem.where} ${problem.what}` : String(problem);
      onTrouble(`Not begun: ${why}.`);
    }
  };
  /** A build of a document, opened on its bench; `query` says on what. */
  const begin = (document: BuildDocument, query = "") =>
    trying(async () => {
      const build = await createBuild(document, crypto.randomUUID());
      void queries.invalidateQueries({ queryKey: [BUILDS] });
      return `/builds/${build.id}${query}`;
    });
  /** A brief of an archetype's vehicle, searched for while the page is still on its way. */
  const match = (id: string, change = (document: BriefDocument) => document, said: string[] = []) =>
    trying(async () => {
      const starts = await queries.ensureQueryData(briefStarts);
      const start = starts.find((one) => one.id === id);
      if (!start) return null;
      const begun = await createBrief(change(start.document), said);
      queries.setQueryData(briefOf(begun.id).queryKey, begun);
      return `/briefs/${begun.id}`;
    });
  return { begin, match };
}
