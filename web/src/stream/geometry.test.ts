import { describe, expect, test } from "vitest";
import type { Flow } from "./flow";
import { type Course, draw } from "./geometry";

const flow: Flow = {
  forward: true,
  cells: 900,
  terminals: 880,
  shaft: 780,
  road: 730,
  losses: [
    { id: "pack", part: "pack", watts: 20 },
    { id: "controller", part: "controller", watts: 10 },
    { id: "motor", part: "motor", watts: 90 },
    { id: "stage 0", part: "gearing", stage: 0, watts: 30 },
    { id: "stage 1", part: "gearing", stage: 1, watts: 20 },
  ],
  ends: [
    { id: "air", label: "air", watts: 550 },
    { id: "tyres", label: "tyres", watts: 180 },
  ],
};

const course: Course = {
  start: 0,
  controller: 200,
  motor: 400,
  gearing: 600,
  wheel: 900,
  split: 1000,
  finish: 1080,
  top: 30,
  scale: 0.1,
  lanes: 1,
  floor: 140,
};

const points = (path: string) =>
  path
    .replace(/Z$/, "")
    .slice(1)
    .split("L")
    .map((corner) => corner.split(" ").map(Number) as [number, number]);

/** Height of a lane at its first and last sample. */
function breadths(path: string): [number, number] {
  const all = points(path);
  const half = all.length / 2;
  const y = (i: number) => (all[i] as [number, number])[1];
  return [y(all.length - 1) - y(0), y(half) - y(half - 1)];
}

describe("the stream", () => {
  test("is as broad as its watts at both ends", () => {
    const [first, last] = breadths(draw(flow, course).lanes[0] as string);
    expect(first).toBeCloseTo(90, 1);
    expect(last).toBeCloseTo(73, 1);
  });

  test("of a propeller that stands still spills all of it as stirred air", () => {
    const stands: Flow = {
      ...flow,
      losses: [
        ...flow.losses,
        { id: "blades", part: "propeller", label: "blade drag", watts: 230 },
        { id: "wake", part: "propeller", label: "wake", watts: 500 },
      ],
      ends: [],
    };
    const { lanes, spills, ends } = draw(stands, course);
    expect(breadths(lanes[0] as string)[1]).toBeCloseTo(0, 6);
    expect(ends).toEqual([]);
    const last = spills.slice(-2).map((spill) => spill.x);
    expect(last[0]).toBeGreaterThan(course.wheel);
    expect(last[1]).toBeGreaterThan(last[0] as number);
    expect(last[1]).toBeLessThan(course.finish);
  });

  test("of several motors is as many lanes, of the same breadth together", () => {
    const lanes = draw(flow, { ...course, lanes: 3 }).lanes.map(breadths);
    expect(lanes).toHaveLength(3);
    expect(lanes.reduce((sum, [first]) => sum + first, 0)).toBeCloseTo(90, 1);
    expect(lanes.reduce((sum, [, last]) => sum + last, 0)).toBeCloseTo(73, 1);
  });

  test("lets each loss out within its own part", () => {
    const { spills } = draw(flow, course);
    const places = spills.map((spill) => Number(spill.path.slice(1).split(" ")[0]));
    expect(places[0]).toBeLessThan(200);
    expect(places[1]).toBeGreaterThan(200);
    expect(places[2]).toBeGreaterThan(400);
    expect(places[3]).toBeGreaterThan(600);
    expect(places[4]).toBeGreaterThan(750);
    expect(Math.max(...places)).toBeLessThan(900);
  });

  test("ends where the watts end, the largest broadest, none overlapping", () => {
    const { ends } = draw(flow, course);
    expect(ends.map((end) => end.id)).toEqual(["air", "tyres"]);
    const [air, tyres] = ends.map((end) => end.y) as [number, number];
    expect(tyres - air).toBeGreaterThanOrEqual((55 + 18) / 2);
  });

  test("that runs backward grows by what each part takes", () => {
    const back = { ...flow, forward: false, cells: 560, road: 730, ends: [] };
    const [first, last] = breadths(draw(back, course).lanes[0] as string);
    expect(last - first).toBeCloseTo(17, 1);
  });

  test("keeps its number of points, so that it can change smoothly", () => {
    const weak = {
      ...flow,
      cells: 500,
      losses: flow.losses.map((l) => ({ ...l, watts: l.watts / 3 })),
    };
    const count = (f: Flow) => points(draw(f, course).lanes[0] as string).length;
    expect(count(weak)).toBe(count(flow));
  });
});
