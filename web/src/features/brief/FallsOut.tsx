import type { MatchAnswer } from "../../api/types";

const SHOWN = 8;

/** Why the rest of the shelf falls out: each combination counted by the first reason met. */
export function FallsOut({ answer }: { answer: MatchAnswer }) {
  const counted = Object.entries(answer.rejected).sort((a, b) => b[1] - a[1]);
  if (counted.length === 0) return null;
  const share = (count: number) => (100 * count) / answer.considered;
  return (
    <section className="mt-4">
      <h2 className="mb-1 text-[13px] font-semibold">Why the others fall out</h2>
      <ul>
        {counted.slice(0, SHOWN).map(([reason, count]) => (
          <li key={reason} className="py-1 text-[12.5px]">
            <span className="flex justify-between gap-3">
              <span>{answer.reasons[reason] ?? reason}</span>
              <span
                className="figure whitespace-nowrap text-soft"
                title={count.toLocaleString("en-GB")}
              >
                {share(count) < 0.1 ? "under 0.1" : share(count).toFixed(1)} %
              </span>
            </span>
            <span
              className="block h-1 min-w-0.5 rounded-full bg-ember"
              style={{ width: `${share(count)}%` }}
            />
          </li>
        ))}
      </ul>
      <p className="text-[12px] text-soft">
        Of all combinations, each counted once by the first reason met.
      </p>
    </section>
  );
}
