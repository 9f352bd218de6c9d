import type { BriefDocument, MatchResult } from "../../api/types";

/** What counts for how much in the order of results; what is left out has its usual weight. */
export type Counts = Record<string, number>;

const USUAL: Counts = { margin: 3, cost: 2, mass: 1, range: 1, simplicity: 1 };

export const weightsOf = (document: BriefDocument): Counts => ({
  ...USUAL,
  ...(document.weights as Counts | undefined),
});

export const sameCounts = (one: Counts, other: Counts): boolean => {
  const sum = (counts: Counts) => Object.values(counts).reduce((all, each) => all + each, 0);
  return Object.keys(USUAL).every(
    (key) => Math.abs((one[key] ?? 0) / sum(one) - (other[key] ?? 0) / sum(other)) < 1e-9,
  );
};

/** Results in the order of other weights; equal ones stay as they were. */
export function sortedBy(results: MatchResult[], counts: Counts): MatchResult[] {
  const score = (result: MatchResult) =>
    Object.entries(counts).reduce(
      (sum, [key, weight]) => sum + weight * (result.worth[key] ?? 0),
      0,
    );
  return [...results].sort((a, b) => score(b) - score(a) || a.rank - b.rank);
}
