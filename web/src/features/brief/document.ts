import type { BriefDocument } from "../../api/types";

/** Values of a brief by dotted path, and briefs with one value changed. */
type Plain = Record<string, unknown>;

export function valueAt(document: BriefDocument, path: string): unknown {
  let place: unknown = document;
  for (const step of path.split(".")) {
    if (typeof place !== "object" || place === null) return undefined;
    place = (place as Plain)[step];
  }
  return place;
}

/** The hill needs its grade, the start both of its numbers: without them the whole wish is gone. */
const NEEDS: Record<string, string[]> = {
  "wishes.climb": ["grade_pct"],
  "wishes.launch": ["to_kmh", "within_s"],
};

/** A brief with one value said, or given up (null); a wish that is left empty goes as a whole. */
export function withValue(document: BriefDocument, path: string, value: unknown): BriefDocument {
  const copy = structuredClone(document) as Plain;
  const steps = path.split(".");
  const last = steps.pop() as string;
  let place = copy;
  for (const step of steps) {
    if (typeof place[step] !== "object" || place[step] === null) place[step] = {};
    place = place[step] as Plain;
  }
  if (value === null || value === undefined) delete place[last];
  else place[last] = value;
  const wish = steps.join(".");
  const needed = NEEDS[wish] ?? [];
  const empty = Object.keys(place).length === 0 && steps.length > 1;
  if (empty || (value === null && needed.includes(last)))
    return withValue(copy as unknown as BriefDocument, wish, null);
  return copy as unknown as BriefDocument;
}

const EDITED = "young-torrent.brief.said.";

/** The paths that somebody said themselves; all others are guesses of the vehicle begun from. */
export function saidPaths(id: string): Set<string> {
  try {
    return new Set(JSON.parse(localStorage.getItem(EDITED + id) ?? "[]") as string[]);
  } catch {
    return new Set();
  }
}

export function remember(id: string, said: Set<string>): void {
  localStorage.setItem(EDITED + id, JSON.stringify([...said]));
}
