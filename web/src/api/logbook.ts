import { answered, client } from "./client";
import type { KeepRun } from "./types";

const of = (build: string) => ({ params: { path: { build_id: build } } });
const one = (build: string, run: string) => ({
  params: { path: { build_id: build, run_id: run } },
});

export const logbook = (build: string) =>
  answered(client.GET("/api/builds/{build_id}/logbook", of(build)));

export const keepRun = (build: string, id: string, body: KeepRun) =>
  answered(client.PUT("/api/builds/{build_id}/logbook/runs/{run_id}", { ...one(build, id), body }));

export const takeRunOut = (build: string, id: string) =>
  answered(client.DELETE("/api/builds/{build_id}/logbook/runs/{run_id}", one(build, id)));

export const expectedReadings = (build: string, body: KeepRun) =>
  answered(client.POST("/api/builds/{build_id}/logbook/expected", { ...of(build), body }));

export const learnFromRuns = (build: string) =>
  answered(client.GET("/api/builds/{build_id}/logbook/learn", of(build)));

export const acceptLearned = (build: string, base: number, runs: string[], changeId: string) =>
  answered(
    client.POST("/api/builds/{build_id}/logbook/accept", {
      ...of(build),
      body: { base, runs, change_id: changeId },
    }),
  );

export const logDocument = (build: string) => `/api/builds/${build}/logbook/document`;
export const logTable = (build: string) => `/api/builds/${build}/logbook/table`;

/** How a logger's table is understood, and what it proposes; `said` are columns that were named. */
export const readLogTable = (file: File, said: Record<string, string>) =>
  answered(
    client.POST("/api/log-table", {
      params: { query: { column: Object.entries(said).map(([name, key]) => `${name}=${key}`) } },
      body: file as unknown as string,
      bodySerializer: (body) => body,
      headers: { "Content-Type": "text/plain" },
    }),
  );
