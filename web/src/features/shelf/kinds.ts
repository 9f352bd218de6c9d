import type { PartColumn, PartKind, PartRow } from "../../api/types";
import { chosen } from "../../units/format";
import { documentUnit, PRICE, toShown, type Unit, type UnitChoice } from "../../units/quantities";

/** The kinds of part in the order of the drive, with what one of them is called. */
export const KINDS: [PartKind, plural: string, singular: string][] = [
  ["motors", "Motors", "motor"],
  ["controllers", "Controllers", "controller"],
  ["packs", "Packs", "pack"],
  ["cells", "Cells", "cell"],
  ["wheels", "Wheels", "wheel"],
  ["propellers", "Propellers", "propeller"],
  ["teeth", "Toothed wheels", "range of toothed wheels"],
  ["strands", "Chains and belts", "chain or belt"],
  ["wires", "Wires", "wire"],
  ["connectors", "Connectors", "connector"],
  ["gearboxes", "Gearboxes", "gearbox"],
  ["contactors", "Contactors", "contactor"],
  ["fuses", "Fuses", "fuse"],
  ["converters", "DC-DC converters", "DC-DC converter"],
  ["chargers", "Chargers", "charger"],
];

export const singular = (kind: PartKind): string =>
  KINDS.find(([id]) => id === kind)?.[2] ?? "part";

/** A value as a buyer reads it; null for a gap. */
export function said(
  value: PartRow["values"][number],
  column: PartColumn,
  choice: UnitChoice,
): string | null {
  if (value === null || value === undefined) return null;
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (Array.isArray(value)) return [...new Set(value)].join(" to ");
  if (typeof value === "string") return value.replaceAll("_", " ");
  return chosen(toShown(value, documentUnit(column.unit, choice)));
}

/** The unit that a column is shown in. */
export const unitOf = ({ path, unit }: PartColumn, choice: UnitChoice): Unit =>
  documentUnit(/(^|[._])price$/.test(path) ? PRICE : unit, choice);

export const signOf = (column: PartColumn, choice: UnitChoice): string =>
  unitOf(column, choice).sign;
