import { RadioGroup } from "radix-ui";
import type { When as Time } from "../../api/types";

const TIMES: [Time, string, string][] = [
  ["full", "full", "With a full pack, parts as cold as they begin"],
  ["now", "as it is now", "At the volts that are stated"],
  ["end", "end of the trip", "With the charge that a trip leaves, copper and magnets warm"],
];

interface Props {
  when: Time;
  onWhen: (when: Time) => void;
}

/** When the build is looked at; all figures below are of then. */
export function When({ when, onWhen }: Props) {
  return (
    <RadioGroup.Root
      aria-label="Looked at"
      value={when}
      onValueChange={(next) => onWhen(next as Time)}
      className="no-print flex shrink-0 rounded-md border border-line text-[12.5px]"
    >
      {TIMES.map(([id, words, title]) => (
        <RadioGroup.Item
          key={id}
          value={id}
          title={title}
          className="min-h-11 px-2.5 text-soft first:rounded-l-md last:rounded-r-md hover:text-ink data-[state=checked]:bg-sunk data-[state=checked]:font-semibold data-[state=checked]:text-ink sm:min-h-7"
        >
          {words}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
