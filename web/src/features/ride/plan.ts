import type { RideDocument } from "../../api/types";

/** A piece of road: how long, how far up, how fast at most, and a stop at its end. */
export interface Stretch {
  lengthM: number;
  upM: number;
  limitKmh: number | null;
  stopS: number | null;
}

export type CourseKind = "road" | "start" | "stops" | "ece-15" | "wltc-1";

/** What somebody asks of a ride; kept in the browser for each build. */
export interface RidePlan {
  kind: CourseKind;
  rideKmh: number;
  stretches: Stretch[];
  thereAndBack: boolean;
  toKmh: number;
  times: number;
  chargePct: number;
  airC: number | null;
  coasts: boolean;
  regenerates: boolean;
}

/** A road with a hill, ridden as the bench takes an ordinary trip. */
export const usualPlan = (cruiseMps: number | null): RidePlan => {
  const ride = Math.max(Math.round((cruiseMps ?? 5) * 3.6), 1);
  return {
    kind: "road",
    rideKmh: ride,
    stretches: [
      { lengthM: 1500, upM: 0, limitKmh: null, stopS: null },
      { lengthM: 400, upM: 20, limitKmh: null, stopS: null },
      { lengthM: 600, upM: 0, limitKmh: null, stopS: 20 },
      { lengthM: 1500, upM: -20, limitKmh: null, stopS: null },
    ],
    thereAndBack: true,
    toKmh: ride,
    times: 10,
    chargePct: 100,
    airC: null,
    coasts: false,
    regenerates: true,
  };
};

/** The run document's part beside the build. */
export function rideOf(plan: RidePlan): RideDocument {
  return {
    format: "young-torrent.run/1",
    course: courseOf(plan),
    driver: { coast_to_stops: plan.coasts, regenerate: plan.regenerates },
    start: { soc_pct: plan.chargePct },
  };
}

function courseOf(plan: RidePlan): RideDocument["course"] {
  if (plan.kind === "start") return { kind: "standing", until_kmh: plan.toKmh, until_s: 120 };
  if (plan.kind === "stops")
    return { kind: "stops", times: plan.times, to_kmh: plan.toKmh, hold_s: 10, rest_s: 10 };
  if (plan.kind !== "road") return { kind: "cycle", name: plan.kind, repeat: 1 };
  let at = 0;
  let height = 0;
  const points = [{ distance_m: 0, elevation_m: 0, ...limit(plan.stretches[0]) }];
  plan.stretches.forEach((stretch, index) => {
    at += stretch.lengthM;
    height += stretch.upM;
    points.push({
      distance_m: at,
      elevation_m: height,
      ...limit(plan.stretches[index + 1]),
      ...(stretch.stopS ? { stop_s: stretch.stopS } : {}),
    });
  });
  return { kind: "route", ride_kmh: plan.rideKmh, points, there_and_back: plan.thereAndBack };
}

const limit = (stretch: Stretch | undefined) =>
  stretch?.limitKmh ? { limit_kmh: stretch.limitKmh } : {};

const NAME = "young-torrent.ride.";

export function keptPlan(buildId: string): RidePlan | null {
  try {
    return JSON.parse(localStorage.getItem(NAME + buildId) ?? "null") as RidePlan | null;
  } catch {
    return null;
  }
}

export const keepPlan = (buildId: string, plan: RidePlan): void =>
  localStorage.setItem(NAME + buildId, JSON.stringify(plan));
