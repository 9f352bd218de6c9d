import { createContext, useContext } from "react";
import type { MetBrief } from "../api/types";
import type { BenchState, Workbench } from "./workbench";

/** The build that is open, as every page of it sees it. */
export interface OpenedBuild {
  bench: Workbench;
  state: BenchState;
  /** How far it meets its brief; nothing for a build without one. */
  met: MetBrief | undefined;
  /** Tells the frame which sections' inputs show a refusal themselves. */
  onShown: (sections: string[]) => void;
}

export const OpenedContext = createContext<OpenedBuild | null>(null);

export function useOpened(): OpenedBuild {
  const opened = useContext(OpenedContext);
  if (!opened) throw new Error("No build is open here.");
  return opened;
}
