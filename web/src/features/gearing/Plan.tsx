import type { BuildAnswer, LadderAnswer, Rung } from "../../api/types";
import { PlanSteps } from "../../workbench/PlanSteps";

/** From today's speed upwards one wheel at a time, with the temperature to stop at; ticked off. */
export function Plan(props: {
  answer: LadderAnswer;
  build: Pick<BuildAnswer, "id" | "ticks">;
  onSet: (rung: Rung) => void;
}) {
  return (
    <section className="mt-3">
      <h2 className="text-[15px] font-semibold">The cautious way up</h2>
      <PlanSteps {...props} />
    </section>
  );
}
