import { adviseBrief, adviseKind } from "../../api/controller";
import type { AdviceAnswer, BriefDocument, BuildDocument } from "../../api/types";
import { Button } from "../../ui/Button";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";

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
export function WhichKind({ document }: { document: BuildDocument }) {
  const { data, error } = useAsked([document, "advise"], () => adviseKind(document));
  return (
    <section aria-label="Which kind?" className="text-[13px]">
      <h2 className="text-[16px] font-semibold">Which kind of motor at all?</h2>
      {data ? <Kinds answer={data} /> : <Waiting error={error} what="Weighing the kinds" />}
    </section>
  );
}

/** The same for a brief, with the press that makes the search look for that kind alone. */
export function KindForBrief({
  brief,
  onOnly,
}: {
  brief: BriefDocument;
  onOnly: (kind: "brushed" | "brushless" | null) => void;
}) {
  const { data } = useAsked([brief, "advise"], () => adviseBrief(brief));
  if (!data) return null;
  const { pick, why } = data.commutation;
  const stated = brief.wishes?.commutation ?? null;
  return (
    <details className="border-b border-line py-2.5 text-[13px]">
      <summary className="min-h-9 cursor-pointer py-1 sm:min-h-0">
        <span className="font-semibold text-water">Which kind? </span>
        {stated ? `Only ${PICKS[stated]}, as you say` : `${PICKS[pick]}`}
        <span className="text-soft"> ({why[0]?.say})</span>
      </summary>
      {stated ? (
        <Only words="Search for any kind" onPress={() => onOnly(null)} />
      ) : pick !== "either" ? (
        <Only
          words={`Search only for motors ${PICKS[pick]}`}
          onPress={() => onOnly(pick as "brushed" | "brushless")}
        />
      ) : null}
      <Kinds answer={data} />
    </details>
  );
}

function Only({ words, onPress }: { words: string; onPress: () => void }) {
  return (
    <p className="py-1">
      <Button onClick={onPress}>{words}</Button>
    </p>
  );
}

function Kinds({ answer }: { answer: AdviceAnswer }) {
  return TITLES.map(([key, title]) => {
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
  });
}
