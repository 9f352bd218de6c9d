import { useState } from "react";
import { whyNot } from "../../api/matching";
import type { ShelfNames, WhyAnswer } from "../../api/types";
import { Button } from "../../ui/Button";
import { digits } from "../../units/format";

type Named = { motor?: string; controller?: string; battery?: string; propeller?: string };

interface Props {
  matchId: string;
  shelf: ShelfNames;
  /** Whether propellers are asked about, too. */
  craft: boolean;
}

/** Asks about one part or several together: does it do, and if not, what excludes it. */
export function WhyNot({ matchId, shelf, craft }: Props) {
  const [named, setNamed] = useState<Named>({});
  const [told, setTold] = useState<WhyAnswer | "asking" | null>(null);
  const kinds = [
    ["motor", "any motor", shelf.motors],
    ["controller", "any controller", shelf.controllers],
    ["battery", "any pack", shelf.packs],
    ...(craft ? [["propeller", "any propeller", shelf.propellers] as const] : []),
  ] as const;
  const nameOf = (id: string) => shelf.propellers.find((part) => part.id === id)?.name ?? id;
  const ask = async () => {
    setTold("asking");
    try {
      setTold((await whyNot(matchId, named)).answer);
    } catch {
      setTold(null);
    }
  };
  return (
    <section className="mt-4 border-t border-line pt-3">
      <h2 className="mb-1 text-[13px] font-semibold">And why not this one?</h2>
      <div className="flex flex-wrap gap-2">
        {kinds.map(([key, any, list]) => (
          <select
            key={key}
            aria-label={any.replace("any ", "")}
            value={named[key] ?? ""}
            onChange={(event) => {
              const { [key]: _, ...rest } = named;
              setNamed(event.target.value ? { ...rest, [key]: event.target.value } : rest);
              setTold(null);
            }}
            className="min-h-9 min-w-0 max-w-full rounded border border-line bg-raised px-1 text-[13px] sm:min-h-8"
          >
            <option value="">{any}</option>
            {list.map((part) => (
              <option key={part.id} value={part.id}>
                {part.name}
              </option>
            ))}
          </select>
        ))}
        <Button onClick={ask} disabled={Object.keys(named).length === 0 || told === "asking"}>
          Ask
        </Button>
      </div>
      <div role="status" className="mt-2 text-[13px]">
        {told === "asking" ? "Looking" : told ? <Told told={told} nameOf={nameOf} /> : null}
      </div>
    </section>
  );
}

function Told({ told, nameOf }: { told: WhyAnswer; nameOf: (id: string) => string }) {
  if (told.feasible > 0)
    return (
      <p>
        It does: {told.feasible.toLocaleString("en-GB")} combinations with it meet the brief, the
        best{" "}
        {told.best?.propeller
          ? `with a ${nameOf(told.best.propeller)}`
          : `geared ${digits(told.best?.ratio ?? 0, 3)} to 1`}
        .
      </p>
    );
  return (
    <>
      <p>Nothing with it meets the brief.</p>
      <ul className="mt-1 list-disc pl-5">
        {told.relaxed.map((one) => (
          <li key={one.wish}>{one.say}</li>
        ))}
        {told.relaxed.length === 0 ? (
          <li>No single wish given up would let it through. What met it first:</li>
        ) : null}
        {told.relaxed.length === 0
          ? told.reasons.slice(0, 4).map((reason) => (
              <li key={reason.id}>
                {reason.say} ({digits(100 * reason.share, 2)} %)
              </li>
            ))
          : null}
      </ul>
    </>
  );
}
