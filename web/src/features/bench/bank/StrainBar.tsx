import type { Gauge, MomentId } from "../../../api/types";
import { chosen, digits } from "../../../units/format";

interface Props {
  gauge: Gauge;
  moment: MomentId;
  /** During which moment it is at its worst, in words. */
  worstIn: string;
  /** Whether a verdict says stop here; a peak above a continuous rating alone is no reason. */
  over: boolean;
}

/** How much of its limit a part uses now (bar) and at its worst (mark). */
export function StrainBar({ gauge, moment, worstIn, over }: Props) {
  const now = Math.abs(gauge.by_moment[moment] ?? 0) / gauge.limit;
  const worst = Math.abs(gauge.by_moment[gauge.worst] ?? 0) / gauge.limit;
  const full = Math.max(1.15, worst * 1.05);
  const place = (share: number) => `${Math.min(100, (share / full) * 100)}%`;
  const label = `${digits(now * 100, 2)} % of ${digits(gauge.limit)} ${gauge.unit}, ${gauge.limit_is}; at worst ${digits(worst * 100, 3)} % ${worstIn}`;
  return (
    <div title={label} className="mt-1 max-w-44">
      <div role="img" aria-label={label} className="relative h-2 rounded-sm bg-sunk">
        <span
          className={`absolute inset-y-0 left-0 rounded-sm ${over && now > 1 ? "bg-stop" : "bg-water"}`}
          style={{ width: place(now) }}
        />
        <span className="absolute -inset-y-0.5 w-px bg-ink" style={{ left: place(1) }} />
        <span
          className={`absolute -top-1 size-0 border-x-4 border-t-[6px] border-x-transparent ${over ? "border-t-stop" : "border-t-soft"}`}
          style={{ left: `calc(${place(worst)} - 4px)` }}
        />
      </div>
      <p className="mt-0.5 truncate text-[11.5px] text-soft">
        {worstIn} {digits(worst * 100, 2)} % of {chosen(gauge.limit)} {gauge.unit}
      </p>
    </div>
  );
}
