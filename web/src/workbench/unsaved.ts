import type { BuildDocument } from "../api/types";

/** Edits that the server has not acknowledged, kept in the browser: a reload does not lose them. */
export interface Unsaved {
  base: number;
  items: { document: BuildDocument; changeId: string }[];
}

const PREFIX = "young-torrent.unsaved.";
const STALE_MS = 20_000;

/** A mark of this tab that outlives a reload, so that tabs don't take each other's edits. */
function tab(): string {
  const known = sessionStorage.getItem("young-torrent.tab");
  if (known) return known;
  const made = crypto.randomUUID();
  sessionStorage.setItem("young-torrent.tab", made);
  return made;
}

const key = (id: string) => `${PREFIX}${id}.${tab()}`;

export function keepUnsaved(id: string, unsaved: Unsaved): void {
  localStorage.setItem(key(id), JSON.stringify({ ...unsaved, at: Date.now() }));
}

export function forgetUnsaved(id: string): void {
  localStorage.removeItem(key(id));
}

/** This tab's unsaved edits of a build, or those of a tab that is long gone. */
export function readUnsaved(id: string): Unsaved | null {
  const own = parsed(localStorage.getItem(key(id)));
  if (own) return own;
  for (let i = 0; i < localStorage.length; i++) {
    const other = localStorage.key(i);
    if (!other?.startsWith(`${PREFIX}${id}.`)) continue;
    const left = parsed(localStorage.getItem(other));
    if (left && Date.now() - left.at > STALE_MS) {
      localStorage.removeItem(other);
      keepUnsaved(id, left);
      return left;
    }
  }
  return null;
}

function parsed(text: string | null): (Unsaved & { at: number }) | null {
  if (!text) return null;
  try {
    return JSON.parse(text) as Unsaved & { at: number };
  } catch {
    return null;
  }
}
