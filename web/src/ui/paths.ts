import { get, set, unset } from "es-toolkit/compat";

/** Plain documents by dotted path. */
export type Plain = Record<string, unknown>;

/** The value at a path, undefined where there is none. */
export const valueAt = (document: object, path: string): unknown => get(document, path);

/** The document with one value said, or taken out (null or undefined). */
export function withValue<Document extends object>(
  document: Document,
  path: string,
  value: unknown,
): Document {
  const copy = structuredClone(document);
  if (value === null || value === undefined) unset(copy, path);
  else set(copy, path, value);
  return copy;
}
