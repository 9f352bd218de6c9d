import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { buildPages } from "../../api/queries";
import type { BuildCard } from "../../api/types";
import { MiniStream } from "../../stream/MiniStream";
import { SeverityWord } from "../../ui/Severity";
import { useUnits } from "../../units/preferences";
import { RowMenu, severityOf, streamLabel } from "./BuildRow";

interface Props {
  /** Whether they are unfolded as long as nobody folds them. */
  open: boolean;
  onChanged: () => void;
  onTrouble: (what: string | null) => void;
}

/** The builds of the workshop that come with the product, to look at and to change. */
export function Examples({ open, ...row }: Props) {
  const builds =
    useInfiniteQuery(buildPages("", "changed", "examples")).data?.pages[0]?.builds ?? [];
  const [turned, setTurned] = useState<boolean | null>(null);
  const unfolded = turned ?? open;
  if (builds.length === 0) return null;
  return (
    <section className="mt-8">
      <h2 className="text-[17px] font-semibold">
        <button
          type="button"
          aria-expanded={unfolded}
          onClick={() => setTurned(!unfolded)}
          className="flex min-h-11 items-center gap-2 text-left"
        >
          <span
            aria-hidden="true"
            className={`text-[12px] text-water ${unfolded ? "rotate-90" : ""}`}
          >
            ▶
          </span>
          Builds to learn from: the workshop of Quillmere
        </button>
      </h2>
      {unfolded ? (
        <ul className="grid gap-x-8 sm:grid-cols-2 lg:grid-cols-3">
          {builds.map((card) => (
            <Example key={card.id} card={card} {...row} />
          ))}
        </ul>
      ) : null}
    </section>
  );
}

function Example({ card, ...row }: { card: BuildCard } & Omit<Props, "open">) {
  const { text } = useUnits();
  const { figures } = card;
  return (
    <li className="group relative flex flex-col border-t border-line py-2 hover:bg-raised">
      <span className="flex items-center justify-between gap-3">
        <Link
          to={`/builds/${card.id}`}
          className="text-[15px] font-semibold after:absolute after:inset-0"
        >
          {card.name}
        </Link>
        <RowMenu card={card} {...row} />
      </span>
      {figures ? (
        <>
          <span className="flex justify-between gap-3 text-[12.5px]">
            <span className="truncate text-soft">{figures.drive}</span>
            <span className="flex shrink-0 gap-2">
              <span className="figure">{text(figures.top_speed_mps, "speed")}</span>
              <SeverityWord severity={severityOf(figures)} />
            </span>
          </span>
          <MiniStream
            state={figures.state}
            motors={figures.motors}
            label={streamLabel(card.name, figures)}
          />
        </>
      ) : (
        <span className="min-h-24 text-[13px] text-soft" aria-busy="true">
          Being worked out
        </span>
      )}
    </li>
  );
}
