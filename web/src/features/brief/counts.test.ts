import { expect, test } from "vitest";
import type { BriefDocument, MatchResult } from "../../api/types";
import { sameCounts, sortedBy, weightsOf } from "./counts";

const result = (rank: number, worth: Record<string, number>) =>
  ({ rank, worth }) as unknown as MatchResult;

const SOME = [
  result(1, { margin: 0.9, cost: 0.2, mass: 0.5, range: 0.5, simplicity: 0.5 }),
  result(2, { margin: 0.5, cost: 0.6, mass: 0.5, range: 0.5, simplicity: 0.5 }),
  result(3, { margin: 0.1, cost: 0.9, mass: 0.5, range: 0.5, simplicity: 0.5 }),
];
const ranks = (results: MatchResult[]) => results.map((one) => one.rank);

test("what counts most comes first, and the list itself is left as it was", () => {
  expect(ranks(sortedBy(SOME, { margin: 1, cost: 0 }))).toEqual([1, 2, 3]);
  expect(ranks(sortedBy(SOME, { margin: 0, cost: 1 }))).toEqual([3, 2, 1]);
  // Halves: 0.55, 0.55, 0.5.
  expect(ranks(sortedBy(SOME, { margin: 1, cost: 1 }))).toEqual([1, 2, 3]);
  expect(ranks(SOME)).toEqual([1, 2, 3]);
});

test("only the proportions of weights matter", () => {
  const usual = { margin: 3, cost: 2, mass: 1, range: 1, simplicity: 1 };
  expect(weightsOf({} as BriefDocument, usual)).toEqual(usual);
  expect(sameCounts(usual, { margin: 6, cost: 4, mass: 2, range: 2, simplicity: 2 })).toBe(true);
  const dearer = weightsOf({ weights: { cost: 5 } } as unknown as BriefDocument, usual);
  expect(dearer.margin).toBe(3);
  expect(sameCounts(usual, dearer)).toBe(false);
});
