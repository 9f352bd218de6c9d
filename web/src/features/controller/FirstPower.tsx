import type { Answer, BuildAnswer, SheetAnswer } from "../../api/types";
import { useEnds } from "../../units/Spread";
import { useValue } from "../../units/useValue";
import { useTicks } from "../../workbench/plan";

interface Props {
  steps: SheetAnswer["first_power"];
  answer: Answer | null;
  build: Pick<BuildAnswer, "id" | "ticks">;
}

/** The first time under power, step by step, each with the figure that should be read then. */
export function FirstPower({ steps, answer, build }: Props) {
  const value = useValue();
  const ends = useEnds();
  const { ticks, keep } = useTicks(build, "power");
  const done = new Set(ticks.done);
  const turn = (id: string) => {
    if (!done.delete(id)) done.add(id);
    const known = steps.map((step) => step.id);
    keep({ done: known.filter((one) => done.has(one)), of: known.length });
  };
  const free = answer?.moments.find((moment) => moment.id === "wheels_up")?.bands.motor_rpm;
  return (
    <section aria-label="First power" className="text-[13px]">
      <h2 className="text-[16px] font-semibold">The first time under power</h2>
      <p className="text-[12.5px] text-soft">
        In this order. The ticks stay with the build. Local law, event rules and licensed trades
        come first.
      </p>
      <ol>
        {steps.map((step, at) => {
          const between = step.id === "full" ? ends(free, step.unit ?? "") : null;
          return (
            <li key={step.id} className="border-t border-line py-1">
              <label className="flex min-h-11 items-start gap-2.5 pt-1 sm:min-h-8">
                <input
                  type="checkbox"
                  checked={done.has(step.id)}
                  onChange={() => turn(step.id)}
                  className="mt-0.5 size-4 shrink-0 accent-water"
                />
                <span className={`flex-1 ${done.has(step.id) ? "text-soft" : ""}`}>
                  {at + 1}. {step.say}
                  <span className="block text-[12px] text-soft">{step.watch}</span>
                </span>
                {step.expect === null || step.expect === undefined ? null : (
                  <span className="figure text-right">
                    {value(step.expect, step.unit ?? "")}
                    {between ? (
                      <small className="block font-normal text-soft">{between}</small>
                    ) : null}
                  </span>
                )}
              </label>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
