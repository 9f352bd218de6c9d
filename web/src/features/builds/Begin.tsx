import { Tabs } from "radix-ui";
import type { ArchetypeCard, BriefDocument, BuildDocument } from "../../api/types";
import { Disappoints } from "./Disappoints";
import { FromParts } from "./FromParts";
import { Vehicles } from "./Vehicles";

export interface BeginProps {
  kinds: ArchetypeCard[];
  onBegin: (document: BuildDocument, query?: string) => void;
  onMatch: (
    id: string,
    change?: (document: BriefDocument) => BriefDocument,
    said?: string[],
  ) => void;
  onTrouble: (what: string | null) => void;
}

const ENTRIES = [
  ["vehicle", "I have a vehicle in mind"],
  ["parts", "I have parts"],
  ["disappoints", "I have a machine that disappoints me"],
] as const;

/** Three ways in: from a vehicle, from parts that are there, from a machine that falls short. */
export function Begin({ heading, ...props }: BeginProps & { heading: string }) {
  return (
    <section className="mt-5">
      <h2 className="text-[18px] font-semibold">{heading}</h2>
      <Tabs.Root defaultValue="vehicle">
        <Tabs.List
          aria-label="How to begin"
          className="mt-1 mb-3 flex gap-1 overflow-x-auto border-b border-line"
        >
          {ENTRIES.map(([id, title]) => (
            <Tabs.Trigger
              key={id}
              value={id}
              className="-mb-px min-h-11 shrink-0 border-b-2 border-transparent px-2.5 text-[13.5px] whitespace-nowrap text-soft hover:text-ink data-[state=active]:border-water data-[state=active]:font-semibold data-[state=active]:text-ink sm:min-h-9"
            >
              {title}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="vehicle">
          <Vehicles {...props} />
        </Tabs.Content>
        <Tabs.Content value="parts">
          <FromParts {...props} />
        </Tabs.Content>
        <Tabs.Content value="disappoints">
          <Disappoints {...props} />
        </Tabs.Content>
      </Tabs.Root>
    </section>
  );
}
