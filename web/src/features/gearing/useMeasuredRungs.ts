import { useMemo } from "react";
import { logbook } from "../../api/logbook";
import type { BuildDocument, MeasuredRunCard } from "../../api/types";
import { useAsked } from "../../ui/useAsked";

/** A top speed on the level that was measured with some teeth. */
export interface MeasuredRung {
  /** As the ladder names a rung. */
  teeth: string;
  speedKmh: number;
}

/** What was measured on rungs of the ladder; of one rung the last run counts. */
export function measuredRungs(runs: MeasuredRunCard[], stages: number): MeasuredRung[] {
  const found = new Map<string, number>();
  for (const { run, teeth } of runs) {
    if (teeth.length !== stages) continue;
    for (const seen of run.observations)
      if (seen.kind === "top_speed" && seen.speed_kmh && !seen.grade_pct)
        found.set(teeth.map(([a, b]) => `${a} to ${b}`).join(", "), seen.speed_kmh);
  }
  return [...found].map(([teeth, speedKmh]) => ({ teeth, speedKmh }));
}

export function useMeasuredRungs(buildId: string, document: BuildDocument) {
  const { data } = useAsked([buildId, "logbook"], () => logbook(buildId));
  const stages = (document.gearing ?? []).filter((stage) => "driver_teeth" in stage).length;
  return useMemo(() => measuredRungs(data ?? [], stages), [data, stages]);
}
