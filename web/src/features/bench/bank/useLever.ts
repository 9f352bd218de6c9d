import type { BuildDocument, Lever } from "../../../api/types";
import { valueAt } from "../../../ui/paths";
import { chosen } from "../../../units/format";
import { useUnits } from "../../../units/preferences";
import { documentUnit, toShown } from "../../../units/quantities";
import type { Workbench } from "../../../workbench/workbench";

/** What a stepper needs of a lever: its value as shown, its presses, and the pinned value. */
export function useLever(bench: Workbench, pinned: BuildDocument) {
  const { choice } = useUnits();
  return (lever: Lever) => {
    const unit = documentUnit(lever.unit, choice);
    const text = (value: number) => chosen(toShown(value, unit));
    const before = valueAt(pinned, lever.path);
    const press = (step: 1 | -1) => () => bench.act({ do: "press", lever: lever.id, step });
    return {
      leverId: lever.id,
      label: lever.label,
      value: text(lever.value),
      unit: unit.sign,
      tag: lever.tag,
      onUp: lever.up ? press(1) : null,
      onDown: lever.down ? press(-1) : null,
      was: typeof before === "number" && before !== lever.value ? text(before) : null,
    };
  };
}
