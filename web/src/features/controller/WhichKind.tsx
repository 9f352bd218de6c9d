import type { AdviceAnswer } from "../../api/types";

const TITLES = [
  ["commutation", "Brushes"],
  ["sensing", "Sensors"],
  ["rotor", "Rotor"],
  ["machine", "Machine"],
] as const;

const PICKS: Record<string, string> = {
  brushed: "with brushes",
  brushless: "without brushes",
  sensored: "sensored",
  sensorless: "sensorless",
  hybrid: "sensors for the start, none above",
  inrunner: "inrunner",
  outrunner: "outrunner, geared",
  hub: "hub motor",
  permanent_magnet: "permanent magnets",
  series_wound: "series-wound",
  packaged: "a machine with its inverter",
  induction: "AC induction",
  either: "either does",
};

/** Which kind of motor suits the vehicle as it is, with the reason that decided and both schools. */
export function WhichKind({ answer }: { answer: AdviceAnswer }) {
  return (
    <section aria-label="Which kind?" className="mt-5 text-[13px]">
      <h2 className="text-[16px] font-semibold">Which kind of motor at all?</h2>
      {TITLES.map(([key, title]) => {
        const one = answer[key];
        return (
          <details key={key} className="border-t border-line py-1">
            <summary className="cursor-pointer py-1">
              <span className="text-soft">{title}: </span>
              <b>{PICKS[one.pick] ?? one.pick}</b>
              <span className="block pl-4 text-soft">{one.why[0]?.say}</span>
            </summary>
            <ul className="list-disc pl-8">
              {one.why.slice(1).map((why) => (
                <li key={why.say}>{why.say}</li>
              ))}
              <li>What would turn it: {one.turns}</li>
              {one.schools.map((school) => (
                <li key={school} className="text-soft">
                  {school}
                </li>
              ))}
            </ul>
          </details>
        );
      })}
    </section>
  );
}
