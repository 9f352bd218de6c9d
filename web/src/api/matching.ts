import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "./client";
import type { BriefDocument, BuildDocument, MatchProgress } from "./types";

/** Briefs, the shelf, and searches: every read and write as one function each. */
const at = (id: string) => ({ params: { path: { brief_id: id } } });
const of = (id: string) => ({ params: { path: { match_id: id } } });

export const briefList = queryOptions({
  queryKey: ["briefs"],
  queryFn: () => answered(client.GET("/api/briefs", { params: { query: { limit: 100 } } })),
});

export const briefStarts = queryOptions({
  queryKey: ["brief-starts"],
  queryFn: () => answered(client.GET("/api/brief-starts")),
  staleTime: Number.POSITIVE_INFINITY,
});

/** Motors, controllers and packs to choose from: id and name of each. */
export const shelfNames = queryOptions({
  queryKey: ["shelf", "names"],
  queryFn: () => answered(client.GET("/api/shelf/names")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const removeBrief = (id: string) =>
  answered(client.DELETE("/api/briefs/{brief_id}", at(id)));

export const bringBriefBack = (id: string) =>
  answered(client.POST("/api/briefs/{brief_id}/bring-back", at(id)));

export const brief = (id: string) =>
  queryOptions({
    queryKey: ["brief", id],
    staleTime: 5000,
    queryFn: () => answered(client.GET("/api/briefs/{brief_id}", at(id))),
  });

const RUNNING = ["waiting", "running"];
export const isRunning = (match: { state: string }) => RUNNING.includes(match.state);

/** How often a running search is asked how far it is, in milliseconds. */
const ASK_EVERY = 350;

/** How often while nothing is found yet and somebody waits for a first answer, and how many times. */
const ASK_FIRST = 40;
const FIRST_TIMES = 40;

export const readMatch = (id: string) => answered(client.GET("/api/matches/{match_id}", of(id)));

export const match = (id: string) =>
  queryOptions({
    queryKey: ["match", id],
    queryFn: () => readMatch(id),
    refetchInterval: (query): number | false => {
      const told = query.state.data as MatchProgress | undefined;
      if (told && !isRunning(told)) return false;
      const waits = !told?.answer && query.state.dataUpdateCount < FIRST_TIMES;
      return waits ? ASK_FIRST : ASK_EVERY;
    },
  });

/** Keeps a brief, of which a few places are said and all others guesses, and searches for it. */
export const createBrief = (document: BriefDocument, said: string[] = []) =>
  answered(client.POST("/api/briefs", { body: { document, said, search: true } }));

/** Keeps a brief as it is said now, with the places somebody said, and searches for it. */
export const changeBrief = (id: string, document: BriefDocument, said: string[] | null) =>
  answered(
    client.POST("/api/briefs/{brief_id}", { ...at(id), body: { document, said, search: true } }),
  );

export const beginMatch = (id: string) =>
  answered(client.POST("/api/briefs/{brief_id}/matches", at(id)));

export const cancelMatch = (id: string) =>
  answered(client.POST("/api/matches/{match_id}/cancel", of(id)));

export const whyNot = (
  id: string,
  parts: { motor?: string; controller?: string; battery?: string },
) => answered(client.POST("/api/matches/{match_id}/why", { ...of(id), body: parts }));

export const makeBuild = (id: string, rank: number) =>
  answered(client.POST("/api/matches/{match_id}/build", { ...of(id), body: { rank } }));

/** Gives a build that has no brief the brief of its vehicle. */
export const writeBrief = (id: string) =>
  answered(client.POST("/api/builds/{build_id}/brief", { params: { path: { build_id: id } } }));

export const meetsBrief = (id: string, document: BuildDocument) =>
  answered(
    client.POST("/api/builds/{build_id}/meets", {
      params: { path: { build_id: id } },
      body: document,
    }),
  );
