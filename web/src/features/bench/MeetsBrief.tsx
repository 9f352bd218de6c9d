import { Link } from "react-router";
import type { Margin, MetBrief } from "../../api/types";
import { digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";

const isMet = (margin: Margin) => margin.margin !== null && margin.margin >= -1e-9;

/** How many wishes of the brief the bench as it stands does not meet. */
export const missed = (met: MetBrief | undefined): number =>
  met ? Object.values(met.margins).filter((margin) => !isMet(margin)).length : 0;

/** The wishes of the brief that the build was made for, each with what it is now. */
export function MeetsBrief({ met }: { met: MetBrief }) {
  const { choice } = useUnits();
  const said = (value: number, unit: string) => {
    const shown = documentUnit(unit, choice);
    return `${digits(toShown(value, shown))} ${shown.sign}`.trim();
  };
  return (
    <div className="min-h-0 overflow-y-auto">
      <ul>
        {Object.entries(met.margins).map(([id, margin]) => (
          <li
            key={id}
            className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1.5"
          >
            <span className={`w-14 text-[13px] ${isMet(margin) ? "text-fine" : "text-stop"}`}>
              {isMet(margin) ? "met" : margin.value === null ? "unknown" : "missed"}
            </span>
            <span className="flex-1 text-[13.5px]">
              {margin.label} <span className="figure">{said(margin.limit, margin.unit)}</span>
            </span>
            <span className="figure text-[13.5px]">
              {margin.value === null ? "not known" : said(margin.value, margin.unit)}
            </span>
          </li>
        ))}
      </ul>
      <p className="py-2 text-[12.5px] text-soft">
        Judged as it stands on the bench.{" "}
        {met.brief_id ? (
          <Link to={`/briefs/${met.brief_id}`} className="text-water underline">
            The brief, {met.name}
          </Link>
        ) : null}
      </p>
    </div>
  );
}
