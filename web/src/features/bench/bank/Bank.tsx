import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { fieldList } from "../../../api/queries";
import type { MomentId, PartId } from "../../../api/types";
import { SeverityMark } from "../../../ui/Severity";
import { Stepper } from "../../../ui/Stepper";
import type { BenchState, Workbench } from "../../../workbench/workbench";
import { momentOf, partLine, partTitle, worstSeverity } from "../parts";
import { NodeLine } from "./NodeLine";
import { PartFigures } from "./PartFigures";
import { StrainBar } from "./StrainBar";
import { useLever } from "./useLever";

export interface BankProps {
  bench: Workbench;
  state: BenchState;
  moment: MomentId;
  open: PartId | null;
  onOpen: (part: PartId | null) => void;
}

/** One part on the bank: what it is, what is read there, how strained it is, its levers. */
export function PartOnBank({ part, ...rest }: BankProps & { part: PartId }) {
  const { bench, state, moment, open, onOpen } = rest;
  const lever = useLever(bench, state.build.pinned.document);
  const { answer, pinned, document } = state;
  const kinds = useQuery(fieldList).data?.motor_kinds ?? [];
  if (!answer) return null;
  const title = partTitle(part, answer);
  const severity = worstSeverity(answer.verdicts, part);
  const gauge = answer.gauges.find((item) => item.part === part);
  const levers = answer.levers.filter((item) => item.part === part && item.at_part !== false);
  return (
    <section aria-label={title} className="min-w-0 border-l-2 border-line pl-2.5">
      <button
        type="button"
        aria-expanded={open === part}
        onClick={() => onOpen(open === part ? null : part)}
        className="group flex max-w-full items-center gap-1.5 text-left"
      >
        <span className="text-[14px] font-semibold">{title}</span>
        {severity && severity !== "ok" ? <SeverityMark severity={severity} /> : null}
        <span className="truncate text-[12px] text-water group-hover:underline">
          {open === part ? "close" : "open"}
        </span>
      </button>
      <p className="truncate text-[12px] text-soft">
        {partLine(part, document, kinds, answer.load)}
      </p>
      <PartFigures
        part={part}
        answer={answer}
        moment={momentOf(answer, moment)}
        pinned={pinned ? momentOf(pinned, moment).state : null}
        document={document}
      />
      <NodeLine part={part} moment={momentOf(answer, moment)} />
      {gauge ? (
        <StrainBar
          gauge={gauge}
          moment={moment}
          worstIn={momentOf(answer, gauge.worst).during}
          over={severity === "stop"}
        />
      ) : null}
      <div className="mt-1.5 flex flex-wrap gap-1">
        {part === "gearing" ? (
          <>
            <StageLevers state={state} lever={lever} />
            <GearLever bench={bench} state={state} />
          </>
        ) : (
          levers.map((item) => <Stepper key={item.id} {...lever(item)} />)
        )}
      </div>
    </section>
  );
}

/** The gear that somebody has engaged, or the best at each speed; the build keeps all of them. */
function GearLever({ bench, state }: Pick<BankProps, "bench" | "state">) {
  const [box, ...others] = state.document.gearing.filter((stage) => stage.kind === "gearbox");
  if (!box || others.length || !("ratios" in box)) return null;
  const { gear } = state;
  const last = box.ratios.length;
  if (last < 2) return null;
  return (
    <Stepper
      label="Gear engaged"
      tag="gear"
      value={gear === null ? "best" : `${gear}`}
      unit=""
      onUp={gear === last ? null : () => bench.engage((gear ?? 0) + 1)}
      onDown={gear === null ? null : () => bench.engage(gear > 1 ? gear - 1 : null)}
    />
  );
}

function StageLevers({ state, lever }: { state: BenchState; lever: ReturnType<typeof useLever> }) {
  const levers = state.answer?.levers ?? [];
  const find = (path: string) => levers.find((item) => item.path === path);
  const rows = state.document.gearing.map((_, index): ReactNode => {
    const place = `gearing.${index}`;
    const [driver, driven, ratio] = [
      find(`${place}.driver_teeth`),
      find(`${place}.driven_teeth`),
      find(`${place}.ratio`),
    ];
    const number = state.document.gearing.length > 1 ? `${index + 1}` : "";
    return (
      // A stage has no name but its place in the train.
      <div key={index} className="flex items-center gap-1 text-[12px] text-soft">
        <span className="w-3">{number}</span>
        {driver ? <Stepper {...lever(driver)} unit="" compact /> : null}
        {driver ? <span>:</span> : null}
        {driven ? <Stepper {...lever(driven)} unit="" compact /> : null}
        {ratio ? <Stepper {...lever(ratio)} unit=": 1" compact /> : null}
      </div>
    );
  });
  return <div className="flex max-h-30 flex-col gap-1 overflow-y-auto">{rows}</div>;
}
