/** Plain documents by dotted path. */
export type Plain = Record<string, unknown>;

/** The value at a path, undefined where there is none. */
export function valueAt(document: object, path: string): unknown {
  let place: unknown = document;
  for (const step of path.split(".")) {
    if (typeof place !== "object" || place === null) return undefined;
    place = (place as Plain)[step];
  }
  return place;
}

/** The document with one value said, or taken out (null or undefined). */
export function withValue<Document extends object>(
  document: Document,
  path: string,
  value: unknown,
): Document {
  const copy = structuredClone(document);
  const steps = path.split(".");
  const last = steps.pop() as string;
  let place = copy as Plain;
  for (const step of steps) {
    if (typeof place[step] !== "object" || place[step] === null) place[step] = {};
    place = place[step] as Plain;
  }
  if (value === null || value === undefined) delete place[last];
  else place[last] = value;
  return copy;
}
