import type { Band } from "../api/types";
import { digits } from "./format";
import { useUnits } from "./preferences";
import { documentUnit, toShown } from "./quantities";

/** A band's ends in words, without their unit; null where there is nothing to tell. */
export function useEnds() {
  const { choice } = useUnits();
  return (band: Band | undefined | null, unit: string, significant = 3): string | null => {
    const [low, , high] = band ?? [];
    if (low == null || high == null) return null;
    const own = documentUnit(unit, choice);
    const [from, to] = [low, high].map((value) => digits(toShown(value, own), significant));
    return from === to ? null : `${from} to ${to}`;
  };
}

/** Between what a figure lies four times in five; nothing where that is too narrow to tell. */
export function Spread({
  band,
  unit,
  significant = 3,
  block = false,
}: {
  band: Band | undefined | null;
  unit: string;
  significant?: number;
  block?: boolean;
}) {
  const ends = useEnds()(band, unit, significant);
  if (ends === null) return null;
  return (
    <small
      className={`font-normal whitespace-nowrap text-soft ${block ? "block text-[11.5px]" : "ml-1 text-[11.5px]"}`}
      title="Four times in five it lies between these"
    >
      {ends}
    </small>
  );
}
