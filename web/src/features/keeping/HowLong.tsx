import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError } from "../../api/client";
import { setPolicy, upkeep } from "../../api/keeping";
import type { Policy } from "../../api/types";

const CHOICES = [7, 30, 90, 365, 1000];

/** How long what may go is kept, chosen by whoever owns it. */
export function HowLong({ policy }: { policy: Policy }) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<string | null>(null);
  const choose = async (change: Partial<Policy>) => {
    setTrouble(null);
    try {
      queries.setQueryData(upkeep.queryKey, await setPolicy({ ...policy, ...change }));
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTrouble(`Not changed: ${problem.where} ${problem.what}.`);
    }
  };
  return (
    <section>
      <h2 className="mb-1 text-[16px] font-semibold">What may go, and when</h2>
      <Days
        label="Old searches of a brief"
        note="The last one of each brief always stays."
        days={policy.searches_days}
        onDays={(days) => void choose({ searches_days: days })}
      />
      <Days
        label="What was taken out of a list"
        note="Builds, parts and briefs; until then they can be brought back."
        days={policy.removed_days}
        onDays={(days) => void choose({ removed_days: days })}
      />
      <p className="mt-2 text-[13px] text-soft">
        Notes of work done go after a week. It happens within the hour.
      </p>
      {trouble ? (
        <p role="alert" className="mt-2 text-[13px] text-stop">
          {trouble}
        </p>
      ) : null}
    </section>
  );
}

interface DaysProps {
  label: string;
  note: string;
  days: number | null;
  onDays: (days: number | null) => void;
}

function Days({ label, note, days, onDays }: DaysProps) {
  const choices =
    days === null || CHOICES.includes(days) ? CHOICES : [...CHOICES, days].sort(byDays);
  return (
    <label className="grid grid-cols-[1fr_auto] items-center gap-x-4 border-t border-line py-2 text-[13.5px]">
      <span>
        {label}
        <span className="block text-[12.5px] text-soft">{note}</span>
      </span>
      <select
        value={days ?? ""}
        onChange={(event) => onDays(event.target.value ? Number(event.target.value) : null)}
        className="min-h-11 rounded-md border border-line bg-raised px-2 sm:min-h-8"
      >
        <option value="">kept for good</option>
        {choices.map((choice) => (
          <option key={choice} value={choice}>
            go after {choice} days
          </option>
        ))}
      </select>
    </label>
  );
}

const byDays = (one: number, other: number) => one - other;
