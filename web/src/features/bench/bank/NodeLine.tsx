import type { MomentAnswer, PartId } from "../../../api/types";
import { useUnits } from "../../../units/preferences";
import { NODES_OF, warm } from "../heat";

/** Temperatures of a part as a line, where the stream has no room for its heat bars. */
export function NodeLine({ part, moment }: { part: PartId; moment: MomentAnswer }) {
  const { text } = useUnits();
  const nodes = NODES_OF[part];
  if (!nodes) return null;
  return (
    <p className="text-[12px] text-ember min-[784px]:hidden">
      {nodes
        .map(({ id, noun }) => {
          const heat = moment.heat[id];
          const degrees = (c: number) => text(c, "temperature", c < 100 ? 2 : 3);
          return `${noun} ${warm(heat?.after_c, heat?.burnt_after_s, degrees)}`;
        })
        .join(", ")}
    </p>
  );
}
