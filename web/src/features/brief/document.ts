import type { BriefDocument } from "../../api/types";
import { valueAt, withValue } from "../../ui/paths";

/** The hill needs its grade, the start both of its numbers, the axle its ratio: without them the whole wish is gone. */
const NEEDS: Record<string, string[]> = {
  "wishes.climb": ["grade_pct"],
  "wishes.launch": ["to_kmh", "within_s"],
  final_drive: ["ratio"],
};

/** A brief with one value said, or given up (null); a wish that is left empty goes as a whole. */
export function withSaid(document: BriefDocument, path: string, value: unknown): BriefDocument {
  const next = withValue(document, path, value);
  const steps = path.split(".");
  const last = steps.pop() as string;
  const wish = steps.join(".");
  const held = steps.length > 0 ? valueAt(next, wish) : next;
  const empty = steps.length > 1 && Object.keys((held ?? {}) as object).length === 0;
  const needed = value === null && (NEEDS[wish] ?? []).includes(last);
  return empty || needed ? withSaid(next, wish, null) : next;
}
