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

const columnsOf = (said: Record<string, string>) =>
  Object.entries(said).map(([name, key]) => `${name}=${key}`);

const AS_TEXT = { "Content-Type": "text/plain" };

/** How a logger's table is understood, and what it proposes; `said` are columns that were named. */
export const readLogTable = (file: File, said: Record<string, string>) =>
  answered(
    client.POST("/api/log-table", {
      params: { query: { column: columnsOf(said) } },
      body: file as unknown as string,
      bodySerializer: (body) => body,
      headers: AS_TEXT,
    }),
  );

/** The same of two files of one ride, laid beside each other by its course. */
export const readLogTables = (first: File, second: File, said: Record<string, string>) =>
  answered(
    client.POST("/api/log-tables", {
      params: { query: { column: columnsOf(said), first_bytes: first.size } },
      body: new Blob([first, second]) as unknown as string,
      bodySerializer: (body) => body,
      headers: AS_TEXT,
    }),
  );

export const timedSpeed = (way_m: number, time_s: number) =>
  answered(client.POST("/api/timed-speed", { body: { way_m, time_s } }));

export const dayList = (build: string) =>
  answered(client.GET("/api/builds/{build_id}/logbook/day-list", of(build)));

const PHOTO = "/api/builds/{build_id}/logbook/runs/{run_id}/photos/{photo_id}";
const photo = (build: string, run: string, id: string) => ({
  params: { path: { build_id: build, run_id: run, photo_id: id } },
});

/** Keeps a photo with a run; without one, the one of that id comes back. */
export const keepPhoto = (build: string, run: string, id: string, file: File | null) =>
  answered(
    client.PUT(PHOTO, {
      ...photo(build, run, id),
      body: (file ?? new Blob()) as unknown as string,
      bodySerializer: (body) => body,
      headers: { "Content-Type": "application/octet-stream" },
    }),
  );

export const takePhotoOut = (build: string, run: string, id: string) =>
  answered(client.DELETE(PHOTO, photo(build, run, id)));

export const photoOf = (build: string, run: string, id: string) =>
  `/api/builds/${build}/logbook/runs/${run}/photos/${id}`;

/** Opens a line over which a logger sends; its token is told this once. */
export const openLine = (build: string) =>
  answered(client.POST("/api/builds/{build_id}/logbook/line", of(build)));

export const shutLine = (build: string) =>
  answered(client.DELETE("/api/builds/{build_id}/logbook/line", of(build)));

export const lineLive = (build: string) => `/api/builds/${build}/logbook/line/live`;

/** Everything that came over a line, as it came. */
export const lineTable = (build: string) =>
  answered(
    client.GET("/api/builds/{build_id}/logbook/line/table", { ...of(build), parseAs: "text" }),
  );
