import type { KeptRideCard, RideDocument, WayRead } from "../../api/types";
import type { Medium } from "./medium";

/** A piece of road: how long, how far up, how fast at most, and a stop at its end. */
export interface Stretch {
  lengthM: number;
  upM: number;
  limitKmh: number | null;
  stopS: number | null;
}

/** Where a road lies: latitude, longitude, metres along it. */
export type Track = [number, number, number][];

export type CourseKind = "road" | "start" | "stops" | "ece-15" | "wltc-1";

/** What somebody asks of a ride; kept in the browser for each build. */
export interface RidePlan {
  name?: string;
  kind: CourseKind;
  rideKmh: number;
  stretches: Stretch[];
  /** Height of the road's beginning. */
  fromM?: number;
  track?: Track | null;
  thereAndBack: boolean;
  toKmh: number;
  times: number;
  chargePct: number;
  airC: number | null;
  coasts: boolean;
  regenerates: boolean;
}

const USUAL = "A ride";

/** A road with a hill, ridden as the bench takes an ordinary trip; water has none, air no stop. */
export const usualPlan = (cruiseMps: number | null, medium: Medium = "ground"): RidePlan => {
  const ride = Math.max(Math.round((cruiseMps ?? 5) * 3.6), 1);
  const upM = medium === "water" ? 0 : 20;
  return {
    kind: "road",
    rideKmh: ride,
    stretches: [
      { lengthM: 1500, upM: 0, limitKmh: null, stopS: null },
      { lengthM: 400, upM, limitKmh: null, stopS: null },
      { lengthM: 600, upM: 0, limitKmh: null, stopS: medium === "air" ? null : 20 },
      { lengthM: 1500, upM: -upM, limitKmh: null, stopS: null },
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
    name: plan.name || USUAL,
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
  let height = plan.fromM ?? 0;
  const points = [{ distance_m: 0, elevation_m: height, ...limit(plan.stretches[0]) }];
  plan.stretches.forEach((stretch, index) => {
    at = rounded(at + stretch.lengthM);
    height = rounded(height + stretch.upM);
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

/** To the hundredth of a metre: sums of many stretches else carry digits that nobody said. */
const rounded = (metres: number) => Math.round(metres * 100) / 100;

interface RoutePoint {
  distance_m: number;
  elevation_m?: number;
  limit_kmh?: number | null;
  stop_s?: number | null;
}

/** The stretches between places of a road. */
export function stretchesOf(points: RoutePoint[]): Stretch[] {
  return points.slice(1).map((point, index) => {
    const before = points[index] as RoutePoint;
    return {
      lengthM: rounded(point.distance_m - before.distance_m),
      upM: rounded((point.elevation_m ?? 0) - (before.elevation_m ?? 0)),
      limitKmh: before.limit_kmh ?? null,
      stopS: point.stop_s ?? null,
    };
  });
}

/** A plan on the road of a file. */
export const onWay = (plan: RidePlan, way: WayRead, name: string): RidePlan => ({
  ...plan,
  kind: "road",
  name,
  stretches: stretchesOf(way.points),
  fromM: way.points[0]?.elevation_m ?? 0,
  track: way.track as Track,
  thereAndBack: false,
});

/** The plan of a ride that is kept; what a plan can't say of it stays as it was planned. */
export function planOf(kept: KeptRideCard, plan: RidePlan): RidePlan {
  const { course, driver, start } = kept.ride;
  const same: RidePlan = {
    ...plan,
    name: kept.name,
    airC: kept.air_c,
    chargePct: start?.soc_pct ?? 100,
    coasts: driver?.coast_to_stops ?? false,
    regenerates: driver?.regenerate ?? true,
    track: (kept.track as Track | null) ?? null,
  };
  if (course.kind === "standing")
    return { ...same, kind: "start", toKmh: course.until_kmh ?? plan.toKmh };
  if (course.kind === "stops")
    return { ...same, kind: "stops", times: course.times, toKmh: course.to_kmh };
  if (course.kind === "cycle") return { ...same, kind: course.name };
  if (course.kind !== "route") return same;
  return {
    ...same,
    kind: "road",
    rideKmh: course.ride_kmh,
    stretches: stretchesOf(course.points),
    fromM: course.points[0]?.elevation_m ?? 0,
    thereAndBack: course.there_and_back ?? false,
  };
}

const NAME = "young-torrent.ride.";

export function keptPlan(buildId: string): RidePlan | null {
  try {
    return JSON.parse(localStorage.getItem(NAME + buildId) ?? "null") as RidePlan | null;
  } catch {
    return null;
  }
}

export function keepPlan(buildId: string, plan: RidePlan): void {
  try {
    localStorage.setItem(NAME + buildId, JSON.stringify(plan));
  } catch {
    // A road that is too long for the browser's store is kept with the build, if it is to be kept.
  }
}
