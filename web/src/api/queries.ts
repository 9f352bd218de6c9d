import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { answered, client } from "./client";

/** Every read of the server, with the key under which its answer is kept. */

/** Everything that is read of the list of builds is kept below this key. */
export const BUILDS = "builds";

/** The builds changed last, to choose from. */
export const buildList = queryOptions({
  queryKey: [BUILDS, "last"],
  queryFn: () => answered(client.GET("/api/builds", { params: { query: { limit: 100 } } })),
});

/** How soon figures that are still worked out are asked for again, in milliseconds. */
const FIGURES_IN = 700;

/** The whole list, a page at a time; `words` and order as they are asked for. */
export const buildPages = (
  words: string,
  sort: "changed" | "name",
  whose: "all" | "own" | "examples",
) =>
  infiniteQueryOptions({
    queryKey: [BUILDS, "pages", words, sort, whose],
    queryFn: ({ pageParam }) =>
      answered(
        client.GET("/api/builds", { params: { query: { words, sort, whose, after: pageParam } } }),
      ),
    initialPageParam: "",
    getNextPageParam: (last) => last.next || undefined,
    placeholderData: (before) => before,
    refetchInterval: (query) => {
      const cards = query.state.data?.pages.flatMap((page) => page.builds) ?? [];
      return cards.some((card) => !card.figures && !card.problem) ? FIGURES_IN : false;
    },
  });

export const archetypes = queryOptions({
  queryKey: ["archetypes"],
  queryFn: () => answered(client.GET("/api/archetypes")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const fieldList = queryOptions({
  queryKey: ["fields"],
  queryFn: () => answered(client.GET("/api/fields")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const versionList = (id: string) =>
  queryOptions({
    queryKey: ["versions", id],
    queryFn: () =>
      answered(
        client.GET("/api/builds/{build_id}/versions", { params: { path: { build_id: id } } }),
      ),
  });
