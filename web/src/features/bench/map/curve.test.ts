import { expect, test } from "vitest";
import { interpolated, runs } from "./curve";

test("each limit's stretch begins where the last one ended", () => {
  const found = runs([0, 1, 2, 3, 4], [9, 9, 7, 5, 1], ["motor", "motor", "pack", "pack", "volts"]);
  expect(found.map((run) => run.limit)).toEqual(["motor", "pack", "volts"]);
  expect(found[0]).toEqual({ limit: "motor", speeds: [0, 1, 2], forces: [9, 9, 7] });
  expect(found[1]?.speeds).toEqual([2, 3, 4]);
});

test("a curve is read between its points and held at its ends", () => {
  expect([-1, 0.5, 2, 9].map((x) => interpolated([0, 1, 2], [0, 10, 40], x))).toEqual([
    0, 5, 40, 40,
  ]);
});
