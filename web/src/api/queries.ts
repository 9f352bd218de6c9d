import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "./client";

/** Every read of the server, with the key under which its answer is kept. */
export const buildList = queryOptions({
  queryKey: ["builds"],
  queryFn: () => answered(client.GET("/api/builds")),
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
