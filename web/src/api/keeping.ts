import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "./client";
import type { Policy } from "./types";

/** What is kept how long, and everything as one archive. */
export const upkeep = queryOptions({
  queryKey: ["upkeep"],
  queryFn: () => answered(client.GET("/api/upkeep")),
});

export const setPolicy = (policy: Policy) => answered(client.POST("/api/upkeep", { body: policy }));

export const bringInArchive = (file: Blob) =>
  answered(
    client.POST("/api/archive", {
      body: file as unknown as string,
      bodySerializer: (body: unknown) => body as string,
      headers: { "Content-Type": "application/zip" },
    }),
  );
