import type { BuildDocument, CurveDocument, SheetAnswer } from "../../api/types";

export type Point = SheetAnswer["throttle"]["curve"][number];

/** What half of the trigger gives where nobody said: a straight line. */
export const STRAIGHT = 50;
const APART = 1;
const MOST = 20;

/** The curve that a build says, by points or by its half. */
export function curveOf(document: BuildDocument): CurveDocument {
  const { curve, half_throttle_pct: half } = document.controller;
  return curve?.points
    ? { points: curve.points }
    : { half_throttle_pct: curve?.half_throttle_pct ?? half ?? STRAIGHT };
}

/** A curve by points, one of them moved as far as its neighbours let it. */
export function moved(points: Point[], at: number, to: Point): Point[] {
  const before = points[at - 1] ?? { trigger_pct: 0, volts_pct: 0 };
  const after = points[at + 1] ?? { trigger_pct: 100, volts_pct: 100 };
  const between = (value: number, low: number, high: number) =>
    Math.round(Math.min(Math.max(value, low + APART), high - APART));
  return points.map((point, index) =>
    index === at
      ? {
          trigger_pct: between(to.trigger_pct, before.trigger_pct, after.trigger_pct),
          volts_pct: between(to.volts_pct, before.volts_pct, after.volts_pct),
        }
      : point,
  );
}

/** The points with one more in the middle of the widest gap; the same where there is no room. */
export function withOneMore(points: Point[]): Point[] {
  const all = [{ trigger_pct: 0, volts_pct: 0 }, ...points, { trigger_pct: 100, volts_pct: 100 }];
  let widest = 0;
  for (let at = 1; at < all.length - 1; at++) if (gap(all, at) > gap(all, widest)) widest = at;
  const [low, high] = [all[widest], all[widest + 1]] as [Point, Point];
  const room = high.trigger_pct - low.trigger_pct >= 4 && high.volts_pct - low.volts_pct >= 4;
  if (!room || points.length >= MOST) return points;
  const middle = {
    trigger_pct: Math.round((low.trigger_pct + high.trigger_pct) / 2),
    volts_pct: Math.round((low.volts_pct + high.volts_pct) / 2),
  };
  return [...points.slice(0, widest), middle, ...points.slice(widest)];
}

const gap = (all: Point[], at: number) =>
  (all[at + 1] as Point).trigger_pct - (all[at] as Point).trigger_pct;

/** Three points on a drawn curve, to begin with. */
export function threeOf(drawn: Point[]): Point[] {
  return [25, 50, 75].map((trigger) => {
    const above = drawn.findIndex((point) => point.trigger_pct >= trigger);
    const [low, high] = [drawn[Math.max(above - 1, 0)], drawn[above]] as [Point, Point];
    const share =
      high.trigger_pct === low.trigger_pct
        ? 0
        : (trigger - low.trigger_pct) / (high.trigger_pct - low.trigger_pct);
    const volts = low.volts_pct + share * (high.volts_pct - low.volts_pct);
    return { trigger_pct: trigger, volts_pct: Math.min(Math.max(Math.round(volts), 1), 99) };
  });
}
