import type { Answer, Band, MomentId, PartId } from "../../api/types";
import { digits } from "../../units/format";

export type NodeId = keyof Answer["heat_limits"] & string;

/** What has a temperature at each part. */
export const NODES_OF: Partial<Record<PartId, { id: NodeId; noun: string }[]>> = {
  pack: [{ id: "pack", noun: "cells" }],
  controller: [{ id: "controller", noun: "case" }],
  motor: [
    { id: "winding", noun: "winding" },
    { id: "case", noun: "can" },
  ],
};

export const NODE_WORDS: Record<NodeId, string> = {
  winding: "winding",
  case: "motor can",
  controller: "controller",
  pack: "pack",
};

/** A temperature, or after how long there is nothing left to have one. */
export const warm = (
  afterC: number | null | undefined,
  burntS: number | null | undefined,
  degrees: (c: number) => string,
): string =>
  afterC == null ? `burnt after ${burntS == null ? "a while" : spoken(burntS)}` : degrees(afterC);

/** A length of time as people say it. */
export function spoken(seconds: number): string {
  if (seconds < 1) return "under 1 s";
  if (seconds < 120) return `${digits(seconds, 2)} s`;
  if (seconds < 7200) return `${digits(seconds / 60, 2)} min`;
  return `${digits(seconds / 3600, 2)} h`;
}

function halfWidth(band: Band | undefined): number {
  const [low, , high] = band ?? [];
  return low == null || high == null ? 0 : (high - low) / 2;
}

export interface Warmth {
  id: NodeId;
  noun: string;
  /** Null where it is burnt by then; `burntS` says when. */
  nowC: number | null;
  burntS: number | null;
  /** Kelvin by which that may be off, either way. */
  offK: number;
  limitC: number;
  /** How much of the way from the air to the limit, now and at the worst moment. */
  share: number;
  worstShare: number;
  /** During which moment, in words. */
  worst: string;
  /** Null where it burns then. */
  worstC: number | null;
  /** Seconds to the limit in the moment that gets there first; null if none does. */
  firstS: number | null;
  first: string | null;
}

/** A launch is over in seconds, and nobody rides with the wheels in the air. */
const LASTING: MomentId[] = ["climb", "cruise", "top_speed"];

/** How warm each node of a part is, now and where it fares worst among moments that last. */
export function warmthsOf(answer: Answer, part: PartId, moment: MomentId, airC: number): Warmth[] {
  const lasting = answer.moments.filter((item) => LASTING.includes(item.id));
  return (NODES_OF[part] ?? []).map(({ id, noun }) => {
    const limitC = answer.heat_limits[id]?.value_c ?? 100;
    const share = (c: number) => (c - airC) / Math.max(limitC - airC, 1e-6);
    const at = (item: (typeof lasting)[number]) => {
      const heat = item.heat[id];
      return heat ? (heat.after_c ?? Number.POSITIVE_INFINITY) : airC;
    };
    const known = (c: number) => (Number.isFinite(c) ? c : null);
    const now = answer.moments.find((item) => item.id === moment);
    const worst = lasting.reduce((a, b) => (at(b) > at(a) ? b : a));
    const first = lasting
      .map((item) => ({ during: item.during, s: item.heat[id]?.to_limit_s ?? null }))
      .filter((item): item is { during: string; s: number } => item.s !== null)
      .reduce<{ during: string; s: number } | null>((a, b) => (a && a.s <= b.s ? a : b), null);
    return {
      id,
      noun,
      nowC: known(now ? at(now) : airC),
      burntS: now?.heat[id]?.burnt_after_s ?? null,
      offK: halfWidth(now?.bands[`${id}_c`]),
      limitC,
      share: share(now ? at(now) : airC),
      worstShare: share(at(worst)),
      worst: worst.during,
      worstC: known(at(worst)),
      firstS: first?.s ?? null,
      first: first?.during ?? null,
    };
  });
}
