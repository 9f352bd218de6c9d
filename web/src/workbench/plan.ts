import { useMemo, useSyncExternalStore } from "react";

const NAME = "young-torrent.plan.done.";
const listeners = new Set<() => void>();

/** The steps of a build's plan that were ridden, and of how many, as far as that is known. */
export interface PlanDone {
  done: string[];
  of: number;
}

const read = (text: string | null): PlanDone => {
  try {
    const kept = JSON.parse(text ?? "[]") as string[] | PlanDone;
    return Array.isArray(kept) ? { done: kept, of: 0 } : kept;
  } catch {
    return { done: [], of: 0 };
  }
};

/** Under what the ticks of a build's first power are kept on this device. */
export const powerId = (buildId: string) => `${buildId}.power`;

/** What is ticked off of a build's plan, kept on this device; and how a step is ticked. */
export function usePlan(buildId: string) {
  const text = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => localStorage.getItem(NAME + buildId),
  );
  const plan = useMemo(() => read(text), [text]);
  const keep = (next: PlanDone) => {
    localStorage.setItem(NAME + buildId, JSON.stringify(next));
    for (const listener of listeners) listener();
  };
  return { plan, keep };
}
