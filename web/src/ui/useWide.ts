import { useSyncExternalStore } from "react";

const room = window.matchMedia("(min-width: 640px)");

const listen = (changed: () => void) => {
  room.addEventListener("change", changed);
  return () => room.removeEventListener("change", changed);
};

/** Whether there is room for tables. */
export const useWide = (): boolean => useSyncExternalStore(listen, () => room.matches);
