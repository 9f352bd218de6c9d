import { Popover } from "radix-ui";
import { useState } from "react";
import type { Provenance } from "../../../api/types";
import { Button } from "../../../ui/Button";
import { typed } from "../../../units/format";
import type { Workbench } from "../../../workbench/workbench";

const WORDS: Record<Provenance["origin"], string> = {
  measured: "measured",
  data_sheet: "data sheet",
  estimated: "estimated",
  fitted: "fitted to runs",
  default: "starting guess",
};

interface Props {
  bench: Workbench;
  path: string;
  label: string;
  known: Provenance | undefined;
}

interface Draft {
  origin: Provenance["origin"];
  tolerance: string;
  note: string;
}

const drafted = (known: Provenance | undefined): Draft => ({
  origin: known?.origin ?? "estimated",
  tolerance: known?.tolerance_pct == null ? "" : String(known.tolerance_pct),
  note: known?.note ?? "",
});

/** How a value is known and how far it may be off, and where to say so; said when it closes. */
export function OriginChip({ bench, path, label, known }: Props) {
  const [draft, setDraft] = useState<Draft | null>(null);
  const toggle = (open: boolean) => {
    if (open) {
      setDraft(drafted(known));
      return;
    }
    setDraft(null);
    if (draft === null || (known && JSON.stringify(draft) === JSON.stringify(drafted(known))))
      return;
    if (!known && JSON.stringify(draft) === JSON.stringify(drafted(undefined))) return;
    bench.act({
      do: "describe",
      path,
      known: {
        origin: draft.origin,
        tolerance_pct: typed(draft.tolerance),
        note: draft.note.trim() || null,
      },
    });
  };
  const change = (part: Partial<Draft>) =>
    setDraft((now) => ({ ...(now ?? drafted(known)), ...part }));
  const off = known?.tolerance_pct;
  // An efficiency of 95 % that is off by a fifth is one of 94 to 96.
  const ofLoss = path.endsWith("efficiency");
  const words = known
    ? `${WORDS[known.origin]}${off ? ` ±${off} %${ofLoss ? " of the loss" : ""}` : ""}`
    : "origin?";
  return (
    <Popover.Root open={draft !== null} onOpenChange={toggle}>
      <Popover.Trigger asChild>
        <button
          type="button"
          className={`min-h-8 shrink-0 rounded px-1.5 text-[11.5px] whitespace-nowrap hover:bg-sunk ${known ? "text-soft" : "text-watch"}`}
        >
          <span className="sr-only">How {label} is known: </span>
          {words}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          onKeyDown={(event) => event.key === "Enter" && toggle(false)}
          className="z-20 w-64 rounded-lg border border-line bg-raised p-3 text-[13px] shadow-lg"
        >
          <p className="mb-2 font-semibold">How is it known?</p>
          <div className="mb-3 flex flex-wrap gap-1">
            {(Object.keys(WORDS) as Provenance["origin"][]).map((origin) => (
              <Button
                key={origin}
                aria-pressed={draft?.origin === origin}
                className="aria-pressed:border-water aria-pressed:font-semibold"
                onClick={() => change({ origin })}
              >
                {WORDS[origin]}
              </Button>
            ))}
          </div>
          <label className="mb-2 flex items-center gap-2">
            May be off by ±
            <input
              className="w-16 rounded border border-line bg-paper px-1.5 py-1"
              inputMode="decimal"
              value={draft?.tolerance ?? ""}
              onChange={(event) => change({ tolerance: event.target.value })}
            />
            {ofLoss ? "% of what is lost" : "%"}
          </label>
          <label className="block">
            Note
            <input
              className="mt-0.5 w-full rounded border border-line bg-paper px-1.5 py-1"
              value={draft?.note ?? ""}
              maxLength={500}
              onChange={(event) => change({ note: event.target.value })}
            />
          </label>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
