import type { MomentAnswer, PartId } from "../../../api/types";
import { useUnits } from "../../../units/preferences";
import { NODES_OF } from "../heat";

/** Temperatures of a part as a line, where the stream has no room for its heat bars. */
export function NodeLine({ part, moment }: { part: PartId; moment: MomentAnswer }) {
  const { text } = useUnits();
  const nodes = NODES_OF[part];
  if (!nodes) return null;
  return (
    <p className="text-[12px] text-ember min-[784px]:hidden">
      {nodes
        .map(({ id, noun }) => `${noun} ${text(moment.heat[id]?.after_c ?? 0, "temperature", 2)}`)
        .join(", ")}
    </p>
  );
}
