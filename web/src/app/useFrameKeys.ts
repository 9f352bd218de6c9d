import { useEffect } from "react";
import { useNavigate } from "react-router";
import { keysAreOn } from "../ui/keys";
import type { Workbench } from "../workbench/workbench";
import { ENTRIES, type Entry, type Known } from "./entries";

/** Keys that hold on every page of a build: its other pages, undo, redo and pin. */
export function useFrameKeys(bench: Workbench, known: Known, now: Entry, buildId: string): void {
  const navigate = useNavigate();
  const { document: built } = known;
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (target.matches("input, select, textarea, [contenteditable]")) return;
      const key = event.key.toLowerCase();
      if ((event.ctrlKey || event.metaKey) && key === "z" && !now.undoesItself) {
        event.preventDefault();
        if (event.shiftKey) bench.redo();
        else bench.undo();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || !keysAreOn()) return;
      const entry = ENTRIES.find((one) => one.letter === key && one.has(built));
      if (entry) void navigate(`/builds/${buildId}${entry.path ? `/${entry.path}` : ""}`);
      else if (now.undoesItself) return;
      else if (key === "p") bench.pin();
      else if (key === "u") bench.undo();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [bench, built, buildId, navigate, now]);
}
