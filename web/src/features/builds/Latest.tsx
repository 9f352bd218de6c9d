import { Link } from "react-router";
import type { BuildCard } from "../../api/types";
import { MiniStream } from "../../stream/MiniStream";
import { Figures, RowMenu, streamLabel } from "./BuildRow";

interface Props {
  card: BuildCard;
  onChanged: () => void;
  onTrouble: (what: string | null) => void;
}

/** The build that was worked on last, large: where most people go on. */
export function Latest({ card, ...row }: Props) {
  const { figures } = card;
  if (!figures)
    return (
      <p className="border-y border-line py-5">
        {card.problem ? (
          card.name
        ) : (
          <Link to={`/builds/${card.id}`} className="text-[20px] font-semibold text-water">
            {card.name}
          </Link>
        )}
        <span className="block text-[13px] text-soft">
          {card.problem ? "Its document can't be read any more." : "Being worked out"}
        </span>
      </p>
    );
  return (
    <div className="group relative grid items-center gap-x-8 gap-y-2 border-y border-line px-1 py-3 hover:bg-raised sm:px-2 md:grid-cols-[16rem_1fr_14rem_auto]">
      <div className="min-w-0">
        <p className="text-[12.5px] text-soft">Worked on last</p>
        <h2 className="truncate text-[21px] font-semibold" style={{ fontStretch: "112%" }}>
          <Link to={`/builds/${card.id}`} className="after:absolute after:inset-0">
            {card.name}
          </Link>
        </h2>
        <p className="text-[13px] text-soft">{figures.drive}</p>
      </div>
      <MiniStream
        state={figures.state}
        motors={figures.motors}
        label={streamLabel(card.name, figures)}
        moving
      />
      <Figures figures={figures} />
      <RowMenu card={card} {...row} />
    </div>
  );
}
