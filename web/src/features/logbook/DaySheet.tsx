import { Button } from "../../ui/Button";
import { useUnits } from "../../units/preferences";
import { documentUnit } from "../../units/quantities";
import { useOpened } from "../../workbench/opened";
import { KINDS } from "./kinds";

const BEFORE = [
  "Wheels up first: turns the right way, stops when let go, stops when the signal is lost.",
  "Bolts of wheels, motor and mounts; chain or belt runs true and has its slack.",
  "Brakes hold by themselves, without the motor.",
  "Logger cleared, its clock set; meters on, phones charged.",
  "Pack warm, charged, and fast in its place; nothing rubs on a wire.",
  "Helmet, gloves, covered shoes; bystanders behind something, one who knows the main switch.",
  "Road dry and closed to others, or allowed: local law and the place's owner come first.",
];

const ROUTINE = [
  "One minute, then stop: feel the motor, the controller and the pack, or measure them.",
  "Too hot to hold means stop, whatever the figures say.",
  "Change one thing, write it down, then ride again.",
];

/** A sheet to take along and fill in by hand: what to look at before, and room for readings. */
export function DaySheet() {
  const { state } = useOpened();
  const { choice, text } = useUnits();
  const { document, build, answer } = state;
  const top = answer?.moments.find((moment) => moment.id === "top_speed")?.state.speed_mps;
  return (
    <section aria-label="Day sheet" className="max-w-3xl text-[13.5px]">
      <div className="no-print pb-2">
        <Button onClick={() => window.print()}>Print it</Button>
      </div>
      <h2 className="text-[17px] font-semibold">
        {document.name}, version {build.head}
      </h2>
      <p className="text-soft">
        Day and place ______________________ Air ______ °C Wind ______ Who ______________________
      </p>
      <h3 className="pt-3 text-[15px] font-semibold">Before</h3>
      <ul>
        {BEFORE.map((line) => (
          <li key={line} className="flex gap-2 py-0.5">
            <span aria-hidden="true" className="mt-1 size-3.5 shrink-0 border border-ink" />
            {line}
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
      <h3 className="pt-3 text-[15px] font-semibold">Readings</h3>
      <table className="w-full border-collapse">
        <tbody>
          {KINDS.map((kind) => (
            <tr key={kind.id} className="border-t border-line align-top">
              <th scope="row" className="w-28 py-2 text-left font-semibold">
                {kind.title}
              </th>
              <td className="py-2">
                {kind.id === "coast_down"
                  ? "seconds and speed, a pair for each look: ________________________________"
                  : kind.asked
                      .map((one) => `${one.label} ________ ${documentUnit(one.unit, choice).sign}`)
                      .join("   ")}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
