import type { Flow, Loss } from "./flow";

/**
 * The stream as paths, drawn from left to right. Its breadth is watts times `scale`; its top edge
 * is straight and its bottom edge rises where heat leaves. Several motors are lanes side by side
 * between controller and gearing.
 */
export interface Course {
  /** Where the parts stand along the stream, and where it ends. */
  start: number;
  controller: number;
  motor: number;
  gearing: number;
  wheel: number;
  split: number;
  finish: number;
  top: number;
  scale: number;
  lanes: number;
  /** How far below the stream's greatest breadth heat is led off. */
  floor: number;
}

export interface Spill {
  loss: Loss;
  path: string;
  /** Where its label belongs. */
  x: number;
}

export interface Ending {
  id: string;
  label: string;
  watts: number;
  path: string;
  y: number;
}

export interface Drawing {
  lanes: string[];
  lines: string[];
  bottom: string;
  spills: Spill[];
  ends: Ending[];
}

const SAMPLES = 96;
const LANE_GAP = 5;
const LANE_EASE = 26;
const NARROWING = 30;
const BEND = 9;
const END_GAP = 9;

/** Where along its part each loss leaves the stream. */
export function lossPlaces(flow: Flow, course: Course): number[] {
  const stages = flow.losses.filter((loss) => loss.part === "gearing").length;
  const span = course.wheel - course.gearing;
  const along = (from: number, to: number, share: number) => from + (to - from) * share;
  return flow.losses.map((loss) => {
    if (loss.part === "pack") return along(course.start, course.controller, 0.52);
    if (loss.part === "controller") return along(course.controller, course.motor, 0.42);
    if (loss.part === "along") return along(course.controller, course.motor, 0.96);
    if (loss.part === "motor") return along(course.motor, course.gearing, 0.2);
    if (loss.part === "propeller") {
      return along(course.wheel, course.split, loss.id === "wake" ? 0.56 : 0.02);
    }
    return course.gearing + (span * ((loss.stage ?? 0) + 0.32)) / stages;
  });
}

export function draw(flow: Flow, course: Course): Drawing {
  const places = lossPlaces(flow, course);
  const breadths = flow.losses.map((loss) => loss.watts * course.scale);
  const first = Math.max(flow.cells, 0) * course.scale;
  // Against the stream (power coming back) the breadth grows by what each part takes.
  const turn = flow.forward ? -1 : 1;
  const breadthAt = (x: number) =>
    Math.max(
      0,
      places.reduce((sum, place, i) => (x > place ? sum + turn * (breadths[i] ?? 0) : sum), first),
    );
  // Inside the stream the same narrowing is drawn as a slope, so that its lines bend and don't break.
  const easedAt = (x: number) =>
    Math.max(
      0,
      places.reduce(
        (sum, place, i) => sum + turn * (breadths[i] ?? 0) * ease((x - place) / NARROWING),
        first,
      ),
    );
  const gapAt = (x: number) => {
    if (course.lanes < 2) return 0;
    const rise = ease((x - course.controller) / LANE_EASE);
    return LANE_GAP * Math.min(rise, ease((course.gearing - x) / LANE_EASE));
  };
  const xs = sampled(course, places);
  const edge = (lane: number, low: boolean) =>
    xs.map((x): Point => {
      const outer = low && lane === course.lanes - 1;
      const breadth = outer ? breadthAt(x) : (easedAt(x) / course.lanes) * (lane + (low ? 1 : 0));
      return [x, course.top + breadth + gapAt(x) * lane];
    });
  const lanes = Array.from({ length: course.lanes }, (_, lane) =>
    closed(edge(lane, false), edge(lane, true)),
  );
  const thick = first > 14 ? 5 : first > 6 ? 2 : 0;
  const lines = Array.from({ length: thick }, (_, i) =>
    open(
      xs.map((x): Point => {
        const share = (i + 1) / (thick + 1);
        const lane = Math.min(course.lanes - 1, Math.floor(share * course.lanes));
        return [x, course.top + easedAt(x) * share + gapAt(x) * lane];
      }),
    ),
  );
  const lowest = (x: number) => course.top + breadthAt(x) + gapAt(x) * (course.lanes - 1);
  return {
    lanes,
    lines,
    bottom: open(edge(course.lanes - 1, true)),
    spills: flow.losses.map((loss, i) => {
      const x = places[i] ?? 0;
      const breadth = breadths[i] ?? 0;
      return { loss, x: x + BEND + breadth / 2, path: spill(x, lowest(x + 0.02), breadth, course) };
    }),
    ends: endings(flow, course, breadthAt(course.split)),
  };
}

type Point = [number, number];

/** Even samples, and a pair hard by each place where the breadth steps; always equally many. */
function sampled(course: Course, places: number[]): number[] {
  const even = Array.from(
    { length: SAMPLES },
    (_, i) => course.start + ((course.split - course.start) * i) / (SAMPLES - 1),
  );
  const steps = places.flatMap((place) => [place, place + 0.02]);
  return [...even, ...steps].sort((a, b) => a - b);
}

/** A ribbon that leaves the bottom of the stream and bends down to the floor. */
function spill(x: number, top: number, breadth: number, course: Course): string {
  const right = x + BEND + breadth;
  const under = top + breadth;
  return [
    `M${at(x, top)}`,
    `C${at(x + (BEND + breadth) * 0.6, top)} ${at(right, top + (BEND + breadth) * 0.4)} ${at(right, under + BEND)}`,
    `L${at(right, Math.max(course.floor, under + BEND))}`,
    `L${at(x + BEND, Math.max(course.floor, under + BEND))}`,
    `L${at(x + BEND, under + BEND)}`,
    `C${at(x + BEND, under + BEND * 0.4)} ${at(x + BEND * 0.6, under)} ${at(x, under)}Z`,
  ].join("");
}

/** Where the watts end, fanned out between the top of the stream and the floor. */
function endings(flow: Flow, course: Course, breadth: number): Ending[] {
  const total = flow.ends.reduce((sum, end) => sum + end.watts, 0);
  if (total <= 0 || breadth <= 0) return [];
  const shares = flow.ends.map((end) => (end.watts / total) * breadth);
  const least = shares.map((share) => Math.max(share, 15) + END_GAP);
  const height = least.reduce((sum, h) => sum + h, 0) - END_GAP;
  let from = course.top;
  let to = Math.max(6, course.top + breadth / 2 - height / 2);
  return flow.ends.map((end, i) => {
    const share = shares[i] ?? 0;
    const room = least[i] ?? 0;
    const landing = to + (room - END_GAP - share) / 2;
    const middle = (course.split + course.finish) / 2;
    const path = [
      `M${at(course.split, from)}`,
      `C${at(middle, from)} ${at(middle, landing)} ${at(course.finish, landing)}`,
      `L${at(course.finish, landing + share)}`,
      `C${at(middle, landing + share)} ${at(middle, from + share)} ${at(course.split, from + share)}Z`,
    ].join("");
    from += share;
    to += room;
    return { id: end.id, label: end.label, watts: end.watts, path, y: landing + share / 2 };
  });
}

const ease = (t: number): number => {
  const u = Math.min(1, Math.max(0, t));
  return u * u * (3 - 2 * u);
};

const at = (x: number, y: number): string => `${x.toFixed(2)} ${y.toFixed(2)}`;
const open = (points: Point[]): string =>
  points.map(([x, y], i) => `${i ? "L" : "M"}${at(x, y)}`).join("");
const closed = (upper: Point[], lower: Point[]): string =>
  `${open([...upper, ...lower.slice().reverse()])}Z`;
