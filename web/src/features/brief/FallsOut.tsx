import type { MatchAnswer } from "../../api/types";

const SHOWN = 8;

/** Why the rest of the shelf falls out: each combination counted by the first reason met. */
export function FallsOut({ answer }: { answer: MatchAnswer }) {
  const counted = Object.entries(answer.rejected).sort((a, b) => b[1] - a[1]);
  if (counted.length === 0) return null;
  const share = (count: number) => Math.log10(count + 1) / Math.log10(answer.considered + 1);
  return (
    <section className="mt-4">
      <h2 className="mb-1 text-[13px] font-semibold">Why the others fall out</h2>
      <ul>
        {counted.slice(0, SHOWN).map(([reason, count]) => (
          <li key={reason} className="py-1 text-[12.5px]">
            <span className="flex justify-between gap-3">
              <span>{answer.reasons[reason] ?? reason}</span>
              <span className="figure whitespace-nowrap text-soft">
                {count.toLocaleString("en-GB")}
              </span>
            </span>
            <span
              className="block h-1 rounded-full bg-glow"
              style={{ width: `${100 * share(count)}%` }}
            />
          </li>
        ))}
      </ul>
      <p className="text-[12px] text-soft">
        Each counted once, by the first reason met. Bars grow with the number of digits.
      </p>
    </section>
  );
}
