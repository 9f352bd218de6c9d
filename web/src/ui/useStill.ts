import { useSyncExternalStore } from "react";

const asked = window.matchMedia("(prefers-reduced-motion: reduce)");

/** Whether somebody asked that nothing moves by itself. */
export const useStill = (): boolean =>
  useSyncExternalStore(
    (changed) => {
      asked.addEventListener("change", changed);
      return () => asked.removeEventListener("change", changed);
    },
    () => asked.matches,
  );
