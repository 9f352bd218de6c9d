import type { BuildAnswer, LadderAnswer, Rung } from "../api/types";
import { SetIt } from "../ui/SetIt";
import { useValue } from "../units/useValue";
import { useTicks } from "./plan";

export const named = (rung: Rung) => rung.teeth.map(([a, b]) => `${a} to ${b}`).join(", ");

interface Props {
  answer: LadderAnswer;
  build: Pick<BuildAnswer, "id" | "ticks">;
  /** Where teeth can be set from here. */
  onSet?: (rung: Rung) => void;
}

/** The steps of the cautious way up, each with the temperature to stop at; ticked when ridden. */
export function PlanSteps({ answer, build, onSet }: Props) {
  const value = useValue();
  const { ticks, keep } = useTicks(build, "teeth");
  const done = new Set(ticks.done);
  const turn = (step: string) => {
    if (!done.delete(step)) done.add(step);
    const there = answer.plan.map((one) => named(one.rung));
    keep({ done: [...done], of: new Set([...there, ...done]).size });
  };
  const ridden = answer.plan.filter((step) => done.has(named(step.rung))).length;
  return (
    <>
      <p className="text-[12.5px] text-soft">
        One wheel at a time. Ride a minute flat out, read the motor case, and go on only while it
        stays under {value(answer.limits.case_c, "C", 2)}. Tick what you have ridden; the ticks stay
        with the build.
      </p>
      {answer.plan.length === 0 ? (
        <p className="py-2 text-[13px]">
          {answer.say || "No rung that is no worse than the present one leads up from here."}
        </p>
      ) : null}
      <ol className="text-[13px]">
        {answer.plan.map((step, at) => {
          const name = named(step.rung);
          return (
            <li
              key={name}
              className="flex flex-wrap items-center gap-x-3 border-t border-line py-1"
            >
              <label className="flex min-h-11 min-w-0 flex-1 basis-44 items-center gap-2.5 sm:min-h-8">
                <input
                  type="checkbox"
                  checked={done.has(name)}
                  onChange={() => turn(name)}
                  className="size-4 shrink-0 accent-water"
                />
                <span className={done.has(name) ? "text-soft" : ""}>
                  {at + 1}. {step.say}
                  <small className="block text-soft">
                    {value(step.rung.figures.top_speed_kmh, "km/h")}, case expected at{" "}
                    {value(step.expect_case_c, "C", 2)}; stop at {value(step.stop_case_c, "C", 2)}
                  </small>
                </span>
              </label>
              {onSet ? <SetIt label={name} onClick={() => onSet(step.rung)} /> : null}
            </li>
          );
        })}
      </ol>
      {answer.plan.length > 0 ? (
        <p className="pt-1 text-[12.5px] text-soft">
          {ridden} of {answer.plan.length} ridden.
        </p>
      ) : null}
    </>
  );
}
