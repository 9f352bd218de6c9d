import { useSyncExternalStore } from "react";

const KEPT_AS = "young-torrent.keys";
const listeners = new Set<() => void>();

/** Whether single letters do something; who dictates or has a nervous keyboard turns them off. */
export const keysAreOn = (): boolean => localStorage.getItem(KEPT_AS) !== "off";

export function turnKeys(on: boolean): void {
  if (on) localStorage.removeItem(KEPT_AS);
  else localStorage.setItem(KEPT_AS, "off");
  for (const listener of listeners) listener();
}

export const useKeysOn = (): boolean =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, keysAreOn);
