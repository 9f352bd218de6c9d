import { useEffect, useSyncExternalStore } from "react";
import { tickOff } from "../api/builds";
import { ApiError } from "../api/client";
import type { BuildAnswer, ListId, Ticked } from "../api/types";

const NAME = "young-torrent.plan.done.";
const AGAIN_MS = 5000;
const NONE: Ticked = { done: [], of: 0 };

/** What was ticked on this page since it was opened, by build and list. */
const ticked = new Map<string, Ticked>();
const listeners = new Set<() => void>();
const tell = () => {
  for (const listener of listeners) listener();
};

const keyOf = (build: string, list: ListId) =>
  list === "teeth" ? `${NAME}${build}` : `${NAME}${build}.${list}`;

/** What this device still has to send, be it from a time when ticks stayed here. */
function unsent(key: string): Ticked | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? "null") as string[] | Ticked | null;
    return Array.isArray(kept) ? { done: kept, of: 0 } : kept;
  } catch {
    return null;
  }
}

async function send(build: string, list: ListId) {
  const key = keyOf(build, list);
  const held = localStorage.getItem(key);
  const what = unsent(key);
  if (held === null || what === null) return;
  try {
    await tickOff(build, list, what);
  } catch (problem) {
    if (!(problem instanceof ApiError)) throw problem;
    if (problem.passing) {
      setTimeout(() => void send(build, list), AGAIN_MS);
      return;
    }
  }
  // What was ticked meanwhile is sent by its own call.
  if (localStorage.getItem(key) === held) localStorage.removeItem(key);
}

/** Forgets what was ticked since the page was opened, as opening it anew does. */
export const forgetTicks = () => ticked.clear();

/** What is ticked off of one of a build's lists, and how it is; kept with the build. */
export function useTicks(build: Pick<BuildAnswer, "id" | "ticks">, list: ListId) {
  const key = keyOf(build.id, list);
  const here = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => ticked.get(key),
  );
  useEffect(() => {
    const held = unsent(key);
    if (held === null || ticked.has(key)) return;
    ticked.set(key, held);
    tell();
    void send(build.id, list);
  }, [key, build.id, list]);
  const keep = (next: Ticked) => {
    ticked.set(key, next);
    localStorage.setItem(key, JSON.stringify(next));
    tell();
    void send(build.id, list);
  };
  return { ticks: here ?? build.ticks[list] ?? NONE, keep };
}
