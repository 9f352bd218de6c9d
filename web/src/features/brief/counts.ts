import type { BriefDocument, MatchResult } from "../../api/types";

/** What counts for how much in the order of results. */
export type Counts = Record<string, number>;

/** What a brief says of it; what it leaves out has its usual weight. */
export const weightsOf = (document: BriefDocument, usual: Counts): Counts => ({
  ...usual,
  ...(document.weights as Counts | undefined),
});

export const sameCounts = (one: Counts, other: Counts): boolean => {
  const sum = (counts: Counts) => Object.values(counts).reduce((all, each) => all + each, 0);
  return Object.keys({ ...one, ...other }).every(
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
