/** A place in the browser for what the server has not acknowledged, by what is edited. */
export interface Shelf<Kept> {
  keep: (id: string, kept: Kept) => void;
  forget: (id: string) => void;
  /** What this tab kept, or a tab that is long gone. */
  read: (id: string) => Kept | null;
}

const STALE_MS = 20_000;

/** A mark of this tab that outlives a reload, so that tabs don't take each other's edits. */
function tab(): string {
  const known = sessionStorage.getItem("young-torrent.tab");
  if (known) return known;
  const made = crypto.randomUUID();
  sessionStorage.setItem("young-torrent.tab", made);
  return made;
}

/**
 * A place by name. By tab where the server tells of conflicts; else one for all tabs, so that what an
 * old tab left never comes after what was said since.
 */
export function shelfFor<Kept extends object>(name: string, byTab: boolean): Shelf<Kept> {
  const prefix = `young-torrent.${name}.`;
  const key = (id: string) => (byTab ? `${prefix}${id}.${tab()}` : `${prefix}${id}`);
  const keep = (id: string, kept: Kept) =>
    localStorage.setItem(key(id), JSON.stringify({ ...kept, at: Date.now() }));
  return {
    keep,
    forget: (id) => localStorage.removeItem(key(id)),
    read: (id) => {
      const own = parsed<Kept>(localStorage.getItem(key(id)));
      if (own || !byTab) return own;
      for (let i = 0; i < localStorage.length; i++) {
        const other = localStorage.key(i);
        if (!other?.startsWith(`${prefix}${id}.`)) continue;
        const left = parsed<Kept>(localStorage.getItem(other));
        if (left && Date.now() - left.at > STALE_MS) {
          localStorage.removeItem(other);
          keep(id, left);
          return left;
        }
      }
      return null;
    },
  };
}

function parsed<Kept>(text: string | null): (Kept & { at: number }) | null {
  if (!text) return null;
  try {
    return JSON.parse(text) as Kept & { at: number };
  } catch {
    return null;
  }
}
