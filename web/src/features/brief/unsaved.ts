import type { BriefDocument } from "../../api/types";

/** A brief and the places in it that somebody said; null where all of it was said. */
export interface Told {
  document: BriefDocument;
  said: string[] | null;
}

const KEPT_AS = "young-torrent.brief.unsaved.";

/** What was said of a brief and is not known to be kept yet; stays when the page is closed. */
export const keepUnsaved = (id: string, told: Told): void =>
  localStorage.setItem(KEPT_AS + id, JSON.stringify(told));

export const forgetUnsaved = (id: string): void => localStorage.removeItem(KEPT_AS + id);

export function readUnsaved(id: string): Told | null {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT_AS + id) ?? "null") as Told | null;
    return kept?.document ? kept : null;
  } catch {
    return null;
  }
}
