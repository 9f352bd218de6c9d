import { describe, expect, test } from "vitest";
import { spanOf, standing } from "./FigureTable";

describe("a figure against the one it is held against", () => {
  test("is better or worse by what is wished for", () => {
    expect(standing({ values: [3, 5], better: "more" }, 1)).toBe("better");
    expect(standing({ values: [3, 5], better: "less" }, 1)).toBe("worse");
    expect(standing({ values: [3, 5, 4], better: "more" }, 2, 1)).toBe("worse");
  });

  test("is neither where nothing is wished, nothing known, or nothing differs", () => {
    expect(standing({ values: [3, 5], better: null }, 1)).toBe("same");
    expect(standing({ values: [null, 5], better: "more" }, 1)).toBe("same");
    expect(standing({ values: [3, null], better: "more" }, 1)).toBe("same");
    expect(standing({ values: [100, 100.4], better: "more" }, 1)).toBe("same");
    expect(standing({ values: [0, 0], better: "less" }, 1)).toBe("same");
    expect(standing({ values: [0, 2], better: "less" }, 1)).toBe("worse");
    expect(standing({ values: [3, 5], better: "more" }, 0)).toBe("same");
  });
});

describe("the scale of a row", () => {
  test("holds every value and every band, with some room", () => {
    const [low, high] = spanOf({ values: [10, 30, null], bands: [[5, 10, 12], null, null] });
    expect(low).toBeCloseTo(4, 9);
    expect(high).toBeCloseTo(31, 9);
  });

  test("is never so narrow that a little looks like much", () => {
    // 100 and 101 stand near the middle of a quarter of 101, not at the ends.
    const [low, high] = spanOf({ values: [100, 101] });
    expect(high - low).toBeCloseTo(25.25, 9);
    expect((low + high) / 2).toBeCloseTo(100.5, 9);
  });

  test("has a width where all are alike, and where all are nought", () => {
    expect(spanOf({ values: [8, 8] })).toEqual([7, 9]);
    expect(spanOf({ values: [0, 0] })).toEqual([-1, 1]);
  });
});
