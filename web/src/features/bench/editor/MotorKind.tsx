import { useQuery } from "@tanstack/react-query";
import { fieldList } from "../../../api/queries";
import type { BuildDocument } from "../../../api/types";
import type { BenchState, Workbench } from "../../../workbench/workbench";

type Kind = BuildDocument["motor"]["kind"];

/** Which kind of motor it is; another kind begins with constants about as fast and as strong. */
export function MotorKind({ bench, state }: { bench: Workbench; state: BenchState }) {
  const kinds = useQuery(fieldList).data?.motor_kinds ?? [];
  return (
    <label className="mb-3 flex flex-wrap items-center gap-2 text-[13px]">
      <span className="font-semibold">Kind of motor</span>
      <select
        className="min-h-11 rounded-md border border-line bg-raised px-2 text-[14px] sm:min-h-8"
        value={state.document.motor.kind}
        onChange={(event) => bench.act({ do: "turn", kind: event.target.value as Kind })}
      >
        {kinds.map(({ kind, label }) => (
          <option key={kind} value={kind}>
            {label}
          </option>
        ))}
      </select>
      <span className="text-[12px] text-soft">
        Another kind begins as a guess about as fast and as strong; undo brings this one back.
      </span>
    </label>
  );
}
