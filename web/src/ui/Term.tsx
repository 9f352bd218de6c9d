import { Tooltip } from "radix-ui";
import { type ReactNode, useState } from "react";
import { TERMS, type TermId } from "./terms";

/** A term that explains itself on focus, under a mouse or a finger: what it is, how to measure it. */
export function Term({ id, children }: { id: TermId; children?: ReactNode }) {
  const [open, setOpen] = useState(false);
  const { term, beside, means, measure } = TERMS[id];
  return (
    <Tooltip.Provider delayDuration={350}>
      <Tooltip.Root open={open} onOpenChange={setOpen}>
        <Tooltip.Trigger asChild>
          <button
            type="button"
            // A press shows it where nothing hovers, and must not close what focus opened.
            onPointerDown={(event) => event.preventDefault()}
            onClick={(event) => {
              event.preventDefault();
              setOpen(true);
            }}
            className="cursor-help [text-align:inherit] underline decoration-line decoration-dotted underline-offset-3"
          >
            {children ?? term}
          </button>
        </Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            sideOffset={5}
            collisionPadding={10}
            className="z-30 max-w-72 rounded-md border border-line bg-raised px-3 py-2 text-[12.5px] leading-snug shadow-lg"
          >
            <b>{term}</b>, {beside}. {means}
            <span className="mt-1 block text-soft">Measured: {measure}</span>
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
