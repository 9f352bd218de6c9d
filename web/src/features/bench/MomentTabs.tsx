import { memo } from "react";
import type { Answer, MomentAnswer, MomentId } from "../../api/types";
import { LIMIT_WORDS } from "../../stream/limits";
import { SeverityMark } from "../../ui/Severity";
import { chosen, digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { momentOf } from "./parts";

interface Props {
  answer: Answer;
  moment: MomentId;
  onChoose: (moment: MomentId) => void;
}

export const MOMENTS: MomentId[] = ["launch", "climb", "cruise", "top_speed", "wheels_up"];

/** The five moments, each with what it comes to; the bar below says how strong its stream is. */
export const MomentTabs = memo(function MomentTabs({ answer, moment, onChoose }: Props) {
  const strongest = Math.max(...answer.moments.map((m) => Math.abs(m.state.cells_w)), 1e-9);
  const top = momentOf(answer, "top_speed");
  return (
    <div
      role="tablist"
      aria-label="Moment"
      className="flex snap-x gap-2 overflow-x-auto px-3 py-2 sm:grid sm:grid-cols-5 sm:overflow-visible sm:px-6"
    >
      {answer.moments.map((item, index) => (
        <Tab
          key={item.id}
          item={item}
          top={top}
          index={index}
          chosen={item.id === moment}
          share={Math.abs(item.state.cells_w) / strongest}
          severity={worstIn(answer, item.id)}
          onChoose={() => onChoose(item.id)}
        />
      ))}
    </div>
  );
});

function worstIn(answer: Answer, moment: MomentId) {
  return answer.verdicts.find((v) => v.moment === moment && v.severity !== "ok")?.severity ?? null;
}

interface TabProps {
  item: MomentAnswer;
  top: MomentAnswer;
  index: number;
  chosen: boolean;
  share: number;
  severity: "stop" | "watch" | "ok" | null;
  onChoose: () => void;
}

function Tab({ item, top, index, chosen, share, severity, onChoose }: TabProps) {
  const words = useMomentWords(item, top);
  return (
    <button
      type="button"
      role="tab"
      aria-selected={chosen}
      onClick={onChoose}
      className={`relative min-w-40 snap-start overflow-hidden rounded-md border px-3 pt-1.5 pb-2.5 text-left sm:min-w-0 ${chosen ? "border-water bg-raised" : "border-line hover:border-water"}`}
    >
      <span className="flex items-center gap-1.5 text-[12.5px] text-soft">
        <kbd className="rounded border border-line px-1 text-[11px]">{index + 1}</kbd>
        {words.title}
        {severity ? <SeverityMark severity={severity} /> : null}
      </span>
      <span className="block truncate">
        <span className="figure text-[17px]">{words.figure}</span>
        <span className="ml-1.5 text-[12px] text-soft">{words.rest}</span>
      </span>
      <span
        aria-hidden="true"
        className="absolute bottom-0 left-0 h-1 bg-water"
        style={{ width: `${Math.max(share * 100, 0.5)}%` }}
      />
    </button>
  );
}

function useMomentWords(
  item: MomentAnswer,
  top: MomentAnswer,
): { title: string; figure: string; rest: string } {
  const { choice, text, show } = useUnits();
  const { state } = item;
  const speed = text(state.speed_mps, "speed");
  const limit = state.limited_by ? (LIMIT_WORDS[state.limited_by] ?? "") : "";
  const target =
    item.target_kmh === null
      ? ""
      : chosen(toShown(item.target_kmh, documentUnit("km/h", choice)), 3);
  const short = item.met ? null : shortfall(item, top, target, text(top.state.speed_mps, "speed"));
  const still = item.met && state.speed_mps === 0;
  switch (item.id) {
    case "launch":
      if (state.blades_w > 0)
        return { title: item.title, figure: text(state.force_n, "force"), rest: "thrust" };
      return {
        title: item.title,
        figure: item.time_s === null ? "never" : `${digits(item.time_s, 2)} s`,
        rest: short ?? `0 to ${target} ${show(0, "speed").sign}`,
      };
    case "climb":
      return {
        title: `${item.title}${item.assumed ? ", assumed" : ""}`,
        figure: still ? `${digits(state.motor_current_a)} A` : speed,
        rest: short ?? (still ? "motor amps" : limit),
      };
    case "cruise":
      return {
        title: item.title,
        figure: speed,
        rest:
          short ??
          (state.range_km === null
            ? `${digits(Math.abs(state.terminals_w))} W${state.terminals_w < 0 ? " into the pack" : ""}`
            : `${text(state.energy_wh_per_km ?? 0, "use")}, ${text(state.range_km, "distance", 2)}`),
      };
    case "top_speed":
      return { title: item.title, figure: speed, rest: short ?? limit };
    case "wheels_up":
      return {
        title: item.title,
        figure: `${digits(state.motor_rpm, 4)} rpm`,
        rest: "off the charger",
      };
  }
}

/** What a drive does instead of what was asked. */
function shortfall(
  item: MomentAnswer,
  top: MomentAnswer,
  target: string,
  topSpeed: string,
): string {
  if (top.state.speed_mps <= 0 || item.state.limited_by === "cannot_move") return "can't start";
  return item.id === "launch" ? `tops out at ${topSpeed}` : `not the ${target} asked`;
}
