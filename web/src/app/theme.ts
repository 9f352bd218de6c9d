import { useSyncExternalStore } from "react";

export type Theme = "light" | "dark";

const KEPT_AS = "young-torrent.theme";
const listeners = new Set<() => void>();
const dark = window.matchMedia("(prefers-color-scheme: dark)");

function current(): Theme {
  const kept = localStorage.getItem(KEPT_AS);
  if (kept === "light" || kept === "dark") return kept;
  return dark.matches ? "dark" : "light";
}

export function applyTheme(): void {
  document.documentElement.dataset.theme = current();
  for (const listener of listeners) listener();
}

dark.addEventListener("change", applyTheme);

export function chooseTheme(theme: Theme): void {
  localStorage.setItem(KEPT_AS, theme);
  applyTheme();
}

export const useTheme = (): Theme =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, current);
