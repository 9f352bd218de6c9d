import { expect, test } from "vitest";
import { bestOf } from "./Rows";

test("the better of a line stands out where one does", () => {
  expect(bestOf({ values: [3, 5, 4], better: "more" })).toBe(1);
  expect(bestOf({ values: [3, 5, 4], better: "less" })).toBe(0);
});

test("none does in a tie, alone, or where neither way is better", () => {
  expect(bestOf({ values: [5, 5, 4], better: "more" })).toBeNull();
  expect(bestOf({ values: [5, null], better: "more" })).toBeNull();
  expect(bestOf({ values: [3, 5], better: null })).toBeNull();
});

test("what is not known is no best", () => {
  expect(bestOf({ values: [null, 5, 7], better: "less" })).toBe(1);
});
