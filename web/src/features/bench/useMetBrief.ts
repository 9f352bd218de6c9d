import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { meetsBrief } from "../../api/matching";
import type { BuildDocument, MetBrief } from "../../api/types";

/** How far the document on the bench meets the brief it was made for; nothing without one. */
export function useMetBrief(id: string, document: BuildDocument): MetBrief | undefined {
  const first = useQuery({
    queryKey: ["meets", id],
    queryFn: () => meetsBrief(id, document),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const hasBrief = Boolean(first.data?.brief_id);
  const now = useQuery({
    queryKey: ["meets", id, document],
    queryFn: () => meetsBrief(id, document),
    enabled: hasBrief,
    placeholderData: keepPreviousData,
  });
  return hasBrief ? (now.data ?? first.data) : undefined;
}
