import type { ArchetypeCard, BuildDocument } from "../../api/types";
import { MiniStream } from "../../stream/MiniStream";
import { Button } from "../../ui/Button";
import { useUnits } from "../../units/preferences";

interface Props {
  archetype: ArchetypeCard;
  onBegin: (document: BuildDocument) => void;
  onMatch: (id: string) => void;
}

export function ArchetypeTile({ archetype, onBegin, onMatch }: Props) {
  const { text } = useUnits();
  return (
    <li className="flex flex-col rounded-lg border border-line hover:border-water">
      <button
        type="button"
        onClick={() => onBegin(archetype.document)}
        className="flex w-full flex-1 flex-col justify-between rounded-t-lg p-3 pb-1 text-left hover:bg-raised"
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
      {archetype.document.wheel ? (
        <div className="flex justify-end px-2 pb-2">
          <Button
            onClick={() => onMatch(archetype.id)}
            aria-label={`Find a drive for it: ${archetype.title}`}
          >
            Find a drive for it
          </Button>
        </div>
      ) : null}
    </li>
  );
}
