import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useSyncExternalStore } from "react";
import { readBuild } from "../api/builds";
import type { BuildAnswer } from "../api/types";
import { Workbench } from "./workbench";

/** The build of an address, read anew each time it is opened. */
export function useBuild(id: string) {
  return useQuery({
    queryKey: ["build", id],
    queryFn: () => readBuild(id),
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

export function useWorkbench(build: BuildAnswer) {
  // One bench for each build that is opened; what happens to it later happens inside.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a bench outlives its first reading
  const bench = useMemo(() => new Workbench(build), [build.id]);
  const state = useSyncExternalStore(bench.subscribe, bench.snapshot);
  useEffect(() => {
    bench.open();
    const look = () => {
      if (document.visibilityState === "visible") void bench.refresh();
    };
    window.addEventListener("focus", look);
    document.addEventListener("visibilitychange", look);
    return () => {
      window.removeEventListener("focus", look);
      document.removeEventListener("visibilitychange", look);
    };
  }, [bench]);
  return { bench, state };
}
