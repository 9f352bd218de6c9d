import { Tabs } from "radix-ui";
import { type ReactNode, useEffect, useRef } from "react";
import { useAddress } from "./useAddress";

export interface View {
  id: string;
  title: string;
  shows: () => ReactNode;
}

/** Views of one page, of which one is open; which one stands in the address. */
export function Views({ label, views }: { label: string; views: View[] }) {
  const [search, say] = useAddress();
  const open = views.find((view) => view.id === search.get("view")) ?? views[0];
  const tabs = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // On a phone the tabs scroll; the one that is open is kept in sight.
    tabs.current
      ?.querySelector(`[data-view="${open?.id}"]`)
      ?.scrollIntoView({ inline: "center", block: "nearest" });
  }, [open?.id]);
  return (
    <Tabs.Root
      value={open?.id}
      onValueChange={(next) => say({ view: next })}
      className="flex-1 px-3 pb-8 sm:px-6"
    >
      <Tabs.List
        ref={tabs}
        aria-label={label}
        className="no-print mb-3 flex gap-1 overflow-x-auto border-b border-line"
      >
        {views.map(({ id, title }) => (
          <Tabs.Trigger
            key={id}
            value={id}
            data-view={id}
            className="-mb-px min-h-11 shrink-0 border-b-2 border-transparent px-2.5 text-[13.5px] whitespace-nowrap text-soft hover:text-ink data-[state=active]:border-water data-[state=active]:font-semibold data-[state=active]:text-ink sm:min-h-9"
          >
            {title}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {views.map(({ id, shows }) => (
        <Tabs.Content key={id} value={id}>
          {id === open?.id ? shows() : null}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
