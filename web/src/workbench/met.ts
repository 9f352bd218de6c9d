import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { meetsBrief } from "../api/matching";
import type { BuildDocument, Margin, MetBrief } from "../api/types";

export const isMet = (margin: Margin) => margin.margin !== null && margin.margin >= -1e-9;

/** How many wishes of its brief a build as it stands does not meet. */
export const missed = (met: MetBrief | undefined): number =>
  met ? Object.values(met.margins).filter((margin) => !isMet(margin)).length : 0;

/** Under what the answers are kept of how far a build meets its brief. */
export const MEETS = "meets";

/** How far a document as it stands meets the brief of its build; nothing without one. */
export function useMetBrief(id: string, document: BuildDocument): MetBrief | undefined {
  const first = useQuery({
    queryKey: [MEETS, id],
    queryFn: () => meetsBrief(id, document),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const hasBrief = Boolean(first.data?.brief_id);
  const now = useQuery({
    queryKey: [MEETS, id, document],
    queryFn: () => meetsBrief(id, document),
    enabled: hasBrief,
    placeholderData: keepPreviousData,
  });
  return hasBrief ? (now.data ?? first.data) : undefined;
}
