import type { ArchetypeCard } from "../../api/types";
import { MiniStream } from "../../stream/MiniStream";
import { useUnits } from "../../units/preferences";

/** What this is, in one sentence and one stream, for who comes first. */
export function Opening({ kinds }: { kinds: ArchetypeCard[] }) {
  const { text } = useUnits();
  const shown = kinds[0];
  return (
    <section className="grid items-center gap-x-10 gap-y-1 pt-4 sm:pt-5 md:grid-cols-[1fr_1.15fr]">
      <div>
        <h1 className="text-[21px] leading-tight font-semibold sm:text-[25px]">
          See where the watts go before a part burns.
        </h1>
        <p className="mt-1.5 text-[14px] text-soft sm:text-[14.5px]">
          Young Torrent matches motor, controller, battery and gearing to a small electric vehicle:
          how fast, up which hill, how hot, what stops it, and how sure all of that is.
        </p>
      </div>
      <div className="sm:min-h-24">
        {shown ? (
          <>
            <MiniStream
              state={shown.state}
              motors={shown.document.motor.count ?? 1}
              label={`Stream of power of a ${shown.title.toLowerCase()}, from the cells to the road`}
              moving
            />
            <p className="hidden text-[12px] text-soft sm:block">
              A {shown.title.toLowerCase()} at {text(shown.state.speed_mps, "speed", 2)}: its power
              from the cells on the left to the road on the right; what falls away is heat.
            </p>
          </>
        ) : null}
      </div>
    </section>
  );
}
