import { digits } from "./format";
import { useUnits } from "./preferences";
import { documentUnit, toShown } from "./quantities";

/** A value with its unit as the user wants it. */
export function useValue() {
  const { choice } = useUnits();
  return (value: number | null | undefined, unit: string, significant = 3): string => {
    if (value === null || value === undefined) return "–";
    const own = documentUnit(unit, choice);
    return `${digits(toShown(value, own), significant)}${own.sign ? ` ${own.sign}` : ""}`;
  };
}
