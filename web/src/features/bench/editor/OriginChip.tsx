import { Popover } from "radix-ui";
import { useState } from "react";
import type { Provenance } from "../../../api/types";
import { Button } from "../../../ui/Button";
import { typed } from "../../../units/format";
import type { Workbench } from "../workbench";

const WORDS: Record<Provenance["origin"], string> = {
  measured: "measured",
  data_sheet: "data sheet",
  estimated: "estimated",
  default: "starting guess",
};

interface Props {
  bench: Workbench;
  path: string;
  label: string;
  known: Provenance | undefined;
}

/** How a value is known and how far it may be off, and where to say so. */
export function OriginChip({ bench, path, label, known }: Props) {
  const [tolerance, setTolerance] = useState<string | null>(null);
  const [note, setNote] = useState<string | null>(null);
  const say = (next: Partial<Provenance>) =>
    bench.act({
      do: "describe",
      path,
      known: { origin: known?.origin ?? "estimated", ...known, ...next },
    });
  const off = known?.tolerance_pct;
  const words = known ? `${WORDS[known.origin]}${off ? ` ±${off} %` : ""}` : "origin?";
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button
          type="button"
          aria-label={`How ${label} is known: ${words}`}
          className={`min-h-8 shrink-0 rounded px-1.5 text-[11.5px] whitespace-nowrap hover:bg-sunk ${known ? "text-soft" : "text-watch"}`}
        >
          {words}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          className="z-20 w-64 rounded-lg border border-line bg-raised p-3 text-[13px] shadow-lg"
        >
          <p className="mb-2 font-semibold">How is it known?</p>
          <div className="mb-3 flex flex-wrap gap-1">
            {(Object.keys(WORDS) as Provenance["origin"][]).map((origin) => (
              <Button
                key={origin}
                aria-pressed={known?.origin === origin}
                className="aria-pressed:border-water aria-pressed:font-semibold"
                onClick={() => say({ origin })}
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
              value={tolerance ?? off ?? ""}
              onChange={(event) => setTolerance(event.target.value)}
              onBlur={() => {
                if (tolerance !== null) say({ tolerance_pct: typed(tolerance) });
                setTolerance(null);
              }}
            />
            %
          </label>
          <label className="block">
            Note
            <input
              className="mt-0.5 w-full rounded border border-line bg-paper px-1.5 py-1"
              value={note ?? known?.note ?? ""}
              maxLength={500}
              onChange={(event) => setNote(event.target.value)}
              onBlur={() => {
                if (note !== null) say({ note: note.trim() || null });
                setNote(null);
              }}
            />
          </label>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
