import { useState } from "react";
import type { DayCheck, LadderAnswer } from "../../api/types";
import { Button } from "../../ui/Button";
import { useUnits } from "../../units/preferences";
import { documentUnit } from "../../units/quantities";
import { useValue } from "../../units/useValue";
import { useOpened } from "../../workbench/opened";
import { kindsFor } from "./kinds";

const ROUTINE = [
  "One minute, then stop: feel the motor, the controller and the pack, or measure them.",
  "Too hot to hold means stop, whatever the figures say.",
  "Change one thing, write it down, then ride again.",
];

interface Props {
  before: DayCheck[];
  plan: LadderAnswer["plan"];
}

/** A sheet to take along and fill in by hand: what to look at before, and room for readings. */
export function DaySheet({ before, plan }: Props) {
  const { state } = useOpened();
  const { choice, text } = useUnits();
  const value = useValue();
  const { document, build, answer } = state;
  const top = answer?.moments.find((moment) => moment.id === "top_speed")?.state.speed_mps;
  const [shown, setShown] = useState(false);
  return (
    <>
      <div className="no-print flex flex-wrap items-center gap-3 border-t border-line pt-3 pb-2 text-[13.5px]">
        <Button onClick={() => window.print()}>Print the day sheet</Button>
        <Button kind="plain" aria-expanded={shown} onClick={() => setShown(!shown)}>
          {shown ? "Put it away" : "Look at it"}
        </Button>
        <span className="text-soft">Without a phone: the same on paper, to fill in by hand.</span>
      </div>
      <section
        aria-label="Day sheet"
        className={`max-w-3xl text-[13.5px] ${shown ? "" : "hidden print:block"}`}
      >
        <h2 className="text-[17px] font-semibold">
          {document.name}, version {build.head}
        </h2>
        <p className="text-soft">
          Day and place ______________________ Air ______ °C Wind ______ Who ______________________
        </p>
        <h3 className="pt-3 text-[15px] font-semibold">Before</h3>
        <ul>
          {before.map((one) => (
            <li key={one.id} className="flex gap-2 py-0.5">
              <Box />
              {one.say} {one.expect == null ? "" : `${value(one.expect, one.unit ?? "", 3)}.`}
            </li>
          ))}
        </ul>
        <h3 className="pt-3 text-[15px] font-semibold">Riding</h3>
        <ul className="list-disc pl-5">
          {ROUTINE.map((line) => (
            <li key={line}>{line}</li>
          ))}
          {top ? <li>Expected flat out on the level: {text(top, "speed", 2)}.</li> : null}
        </ul>
        {plan.length ? (
          <ol className="pt-2">
            {plan.map((step) => (
              <li key={step.say} className="flex gap-2 py-0.5">
                <Box />
                {step.say}: {value(step.rung.figures.top_speed_kmh, "km/h")} expected; stop at{" "}
                {value(step.stop_case_c, "C", 2)}. Went ________ Case ________
              </li>
            ))}
          </ol>
        ) : null}
        <h3 className="pt-3 text-[15px] font-semibold">Readings</h3>
        <table className="w-full border-collapse">
          <tbody>
            {kindsFor(document).map((kind) => (
              <tr key={kind.id} className="border-t border-line align-top">
                <th scope="row" className="w-28 py-2 text-left font-semibold">
                  {kind.title}
                </th>
                <td className="py-2">
                  {kind.id === "coast_down"
                    ? "seconds and speed, a pair for each look: ________________________________"
                    : kind.asked
                        .map(
                          (one) => `${one.label} ________ ${documentUnit(one.unit, choice).sign}`,
                        )
                        .join("   ")}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </>
  );
}

const Box = () => <span aria-hidden="true" className="mt-1 size-3.5 shrink-0 border border-ink" />;
