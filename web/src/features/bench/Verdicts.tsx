import { memo, type ReactNode } from "react";
import type { Answer, PartId, Verdict } from "../../api/types";
import { SeverityWord } from "../../ui/Severity";
import type { Workbench } from "../../workbench/workbench";

interface Props {
  bench: Workbench;
  answer: Answer;
  onOpen: (part: PartId) => void;
}

/** Every limit judged, the worst first, each with the change that cures it. */
export const Verdicts = memo(function Verdicts({ bench, answer, onOpen }: Props) {
  const count = (severity: string) => answer.verdicts.filter((v) => v.severity === severity).length;
  const parts = [
    [count("stop"), "to stop for"],
    [count("watch"), "to watch"],
    [count("ok"), "fine"],
  ]
    .filter(([n]) => n !== 0)
    .map(([n, words]) => `${n} ${words}`);
  const pressing = answer.verdicts.filter((verdict) => verdict.severity !== "ok");
  const fine = answer.verdicts.filter((verdict) => verdict.severity === "ok");
  return (
    <section aria-label="Verdicts" className="flex min-h-0 flex-1 flex-col">
      <p className="text-[12.5px] text-soft">{parts.join(", ")}</p>
      <ul
        tabIndex={0}
        aria-label="All verdicts"
        className="mt-1 min-h-0 flex-1 overflow-y-auto text-[13px]"
      >
        {answer.warnings.map((warning) => (
          <li key={warning.where} className="border-t border-line py-1.5">
            <span className="font-semibold text-watch">Unusual value</span> {warning.where}:{" "}
            {warning.what}
          </li>
        ))}
        {pressing.map((verdict) => (
          <Judged key={verdict.id} verdict={verdict} bench={bench} />
        ))}
        {fine.length ? (
          <Folded title={`${fine.length} fine`} open={pressing.length === 0}>
            {fine.map((verdict) => (
              <Judged key={verdict.id} verdict={verdict} bench={bench} />
            ))}
          </Folded>
        ) : null}
        {answer.not_judged.length ? (
          <Folded title={`${answer.not_judged.length} not judged`} open={false}>
            {answer.not_judged.map((limit) => (
              <li
                key={limit.id}
                className="grid grid-cols-[64px_1fr] gap-x-2 border-t border-line py-1.5 text-soft"
              >
                <span className="text-[12.5px]">Not judged</span>
                <p>
                  {limit.say}{" "}
                  <button
                    type="button"
                    className="text-water underline"
                    onClick={() => onOpen(limit.part)}
                  >
                    Fill it in
                  </button>
                </p>
              </li>
            ))}
          </Folded>
        ) : null}
        <li className="border-t border-line py-1.5 text-soft">
          Computed, not tried. {answer.load?.caution} Know how your cells are charged and stored.
          Local law, event rules and licensed trades come first.
        </li>
      </ul>
    </section>
  );
});

interface FoldedProps {
  title: string;
  open: boolean;
  children: ReactNode;
}

/** What needs no attention now, one press away. */
function Folded({ title, open, children }: FoldedProps) {
  return (
    <li className="border-t border-line">
      <details open={open}>
        <summary className="cursor-pointer py-1.5 text-soft">{title}</summary>
        <ul>{children}</ul>
      </details>
    </li>
  );
}

function Judged({ verdict, bench }: { verdict: Verdict; bench: Workbench }) {
  const { fix } = verdict;
  return (
    <li className="grid grid-cols-[64px_1fr] gap-x-2 border-t border-line py-1.5">
      <SeverityWord severity={verdict.severity} />
      <div>
        <p className="font-semibold">{verdict.title}</p>
        <p className="text-soft">{verdict.why}</p>
        {fix ? (
          <button
            type="button"
            className="mt-1 min-h-8 rounded-md border border-current px-2.5 py-0.5 text-left text-[12.5px] font-semibold text-watch hover:bg-sunk"
            onClick={() => bench.act({ do: "set", values: fix.change })}
          >
            {fix.say}
          </button>
        ) : null}
      </div>
    </li>
  );
}
