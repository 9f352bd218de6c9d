import type { MeasuredRunBody, MeasuredRunCard } from "../../api/types";

type Value = (figure: number, unit: string, places?: number) => string;

export interface OfTheDay {
  label: string;
  value: string;
  /** The run without it. */
  without: MeasuredRunBody;
}

/** How it was on the day of a run, where that is not as the build's document says. */
export function ofTheDay({ run, labels }: MeasuredRunCard, value: Value): OfTheDay[] {
  const found: OfTheDay[] = [];
  const { wind_mps: wind, ambient_c: air } = run.conditions ?? {};
  const soc = run.start?.soc_pct;
  if (air != null)
    found.push({
      label: "air of",
      value: value(air, "C", 2),
      without: { ...run, conditions: { ...run.conditions, ambient_c: null } },
    });
  if (wind != null)
    found.push({
      label: "headwind of",
      value: value(wind, "m/s", 2),
      without: { ...run, conditions: { ...run.conditions, wind_mps: null } },
    });
  if (soc != null) {
    const { soc_pct: _, ...start } = run.start ?? {};
    found.push({ label: "charge at", value: value(soc, "%", 3), without: { ...run, start } });
  }
  for (const [path, figure] of Object.entries(run.changes ?? {})) {
    const { [path]: _, ...changes } = run.changes ?? {};
    found.push({
      label: labels[path] ?? path,
      value: String(figure),
      without: { ...run, changes },
    });
  }
  return found;
}
