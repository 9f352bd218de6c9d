import type { ArchetypeCard, BuildDocument } from "../../api/types";
import { MiniStream } from "../../stream/MiniStream";
import { useUnits } from "../../units/preferences";

interface Props {
  archetype: ArchetypeCard;
  onBegin: (document: BuildDocument) => void;
}

export function ArchetypeTile({ archetype, onBegin }: Props) {
  const { text } = useUnits();
  return (
    <li>
      <button
        type="button"
        onClick={() => onBegin(archetype.document)}
        className="flex h-full w-full flex-col justify-between rounded-lg border border-line p-3 text-left hover:border-water hover:bg-raised"
      >
        <span className="flex w-full items-baseline justify-between gap-3">
          <span className="text-[15px] font-semibold">{archetype.title}</span>
          <span className="figure text-[13px]">to {text(archetype.top_speed_mps, "speed", 2)}</span>
        </span>
        <span className="mb-1 block text-[12.5px] text-soft">{archetype.say}</span>
        <MiniStream
          state={archetype.state}
          motors={archetype.document.motor.count ?? 1}
          label={`Stream of the ${archetype.title}`}
        />
      </button>
    </li>
  );
}
