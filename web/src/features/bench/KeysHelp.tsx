import { Popover } from "radix-ui";
import { Button } from "../../ui/Button";

const KEYS: [string, string][] = [
  ["1 to 5", "the moments"],
  ["e", "at the end of the trip, and back"],
  ["t, c, w, m", "to the tooth, cell, winding or mass lever"],
  ["↑ ↓", "press the lever"],
  ["b, g, o, v, r, l, i", "to bench, gearing, controller, conversion, ride, logbook, brief"],
  ["p", "pin what stands now"],
  ["u or Ctrl Z", "undo"],
  ["Ctrl Shift Z", "redo"],
  ["Esc", "close the opened part"],
];

export function KeysHelp() {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button kind="plain" className="no-print hidden sm:inline-flex sm:min-h-6">
          Keys
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          className="z-20 rounded-lg border border-line bg-raised p-4 text-[13px] shadow-lg"
        >
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
            {KEYS.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="figure">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
