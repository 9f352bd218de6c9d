import { ladder } from "../../api/gearing";
import { dayList } from "../../api/logbook";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";
import { useValue } from "../../units/useValue";
import { useOpened } from "../../workbench/opened";
import { PlanSteps } from "../../workbench/PlanSteps";
import { useTicks } from "../../workbench/plan";
import { DaySheet } from "./DaySheet";

/** A day of testing: what to look at before, the way up rung by rung, and a sheet to take along. */
export function TheDay() {
  const { state } = useOpened();
  const { build, document, saving } = state;
  const toothed = (document.gearing ?? []).some((stage) => "driver_teeth" in stage);
  const { data, error } = useAsked(
    [document, null, null, "ladder"],
    () => ladder(document, null, null),
    toothed,
  );
  const before = useAsked(
    [build.id, "logbook", build.head, "day"],
    () => dayList(build.id),
    saving === "saved",
  );
  return (
    <>
      <div className="no-print grid gap-x-10 gap-y-4 pb-6 lg:grid-cols-2">
        <section aria-label="Before riding">
          <h2 className="text-[15px] font-semibold">Before riding</h2>
          {before.data ? (
            <Checks checks={before.data.before} />
          ) : (
            <Waiting error={before.error} what="Looking at the machine" />
          )}
        </section>
        <section aria-label="The way up">
          <h2 className="text-[15px] font-semibold">The way up, one minute at a time</h2>
          {!toothed ? (
            <p className="text-[13px] text-soft">
              No teeth to change here: ride one minute, then feel and measure, and change one thing
              at a time.
            </p>
          ) : data ? (
            <PlanSteps answer={data} build={build} />
          ) : (
            <Waiting error={error} what="Climbing every rung" />
          )}
        </section>
      </div>
      <DaySheet before={before.data?.before ?? []} plan={data?.plan ?? []} />
    </>
  );
}

interface ChecksProps {
  checks: { id: string; say: string; expect?: number | null; unit?: string }[];
}

function Checks({ checks }: ChecksProps) {
  const value = useValue();
  const { state } = useOpened();
  const { ticks, keep } = useTicks(state.build, "day");
  const done = new Set(ticks.done);
  const known = checks.map((one) => one.id);
  const turn = (id: string) => {
    if (!done.delete(id)) done.add(id);
    keep({ done: known.filter((one) => done.has(one)), of: known.length });
  };
  return (
    <>
      <ul className="text-[13px]">
        {checks.map((one) => (
          <li key={one.id} className="border-t border-line">
            <label className="flex min-h-11 items-center gap-2.5 py-1 sm:min-h-8">
              <input
                type="checkbox"
                checked={done.has(one.id)}
                onChange={() => turn(one.id)}
                className="size-5 shrink-0 accent-water sm:size-4"
              />
              <span className={done.has(one.id) ? "text-soft" : ""}>
                {one.say} {one.expect == null ? "" : `${value(one.expect, one.unit ?? "", 3)}.`}
              </span>
            </label>
          </li>
        ))}
      </ul>
      <p className="flex items-center gap-3 pt-1 text-[12.5px] text-soft">
        {known.filter((one) => done.has(one)).length} of {known.length} looked at.
        {done.size ? (
          <button
            type="button"
            className="min-h-11 text-water underline sm:min-h-8"
            onClick={() => keep({ done: [], of: known.length })}
          >
            A new day: none of them
          </button>
        ) : null}
      </p>
    </>
  );
}
