import { useQuery } from "@tanstack/react-query";
import { ApiError } from "../api/client";

/** What the engine says of a question about the build as it stands; the last answer stays. */
export function useAsked<T>(key: unknown[], ask: () => Promise<T>, enabled = true) {
  const asked = useQuery({
    queryKey: ["asked", ...key],
    queryFn: ask,
    enabled,
    retry: (_, problem) => problem instanceof ApiError && problem.passing,
    placeholderData: (before: unknown) => before as never,
  });
  // What only fails for a while is asked again; meanwhile it is said why nothing comes.
  const error = asked.error ?? (asked.isFetching ? asked.failureReason : null);
  return { data: asked.data as T | undefined, error };
}
