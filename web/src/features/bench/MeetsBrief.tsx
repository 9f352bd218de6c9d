import { Link } from "react-router";
import type { MetBrief } from "../../api/types";
import { digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { isMet } from "../../workbench/met";

/** The wishes of the brief that the build was made for, each with what it is now. */
export function MeetsBrief({ met, buildId }: { met: MetBrief; buildId: string }) {
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
        Judged as it stands on the bench
        {met.changed ? ", by the brief as it reads now: it was changed since" : ""}.{" "}
        <Link to={`/builds/${buildId}/brief`} className="text-water underline">
          The brief, {met.name}
        </Link>
      </p>
    </div>
  );
}
