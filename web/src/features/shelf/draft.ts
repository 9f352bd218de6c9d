import type { FieldInfo, PartKind } from "../../api/types";
import { type Plain, valueAt } from "../../ui/paths";

/** A part's document as it is being edited: plain values by dotted path. */
export type Draft = Plain;

export type Origin = "measured" | "data_sheet" | "estimated" | "default";

/** The draft with how a value is known said beside it. */
export function known(draft: Draft, path: string, origin: Origin | null): Draft {
  const copy = structuredClone(draft);
  const provenance = (copy.provenance ?? {}) as Record<string, unknown>;
  if (origin === null) delete provenance[path];
  else provenance[path] = { origin };
  return { ...copy, provenance };
}

export const originOf = (draft: Draft, path: string): Origin | "" => {
  const provenance = draft.provenance as Record<string, { origin: Origin }> | undefined;
  return provenance?.[path]?.origin ?? "";
};

/** What a part of a kind begins with. */
export const BLANK: Record<PartKind, Draft> = {
  motors: { name: "", motor: { kind: "permanent_magnet" } },
  controllers: { name: "", drives: "brushless", controller: {} },
  packs: { name: "", battery: { chemistry: "li_ion", cell_voltage_v: 3.7 } },
  cells: { name: "", chemistry: "li_ion" },
  wheels: { name: "", wheel: {} },
  propellers: { name: "", propeller: {} },
  teeth: { name: "", kind: "chain", side: "driver", efficiency: 0.96, sizes: [] },
  strands: { name: "", kind: "chain" },
  wires: { name: "" },
  connectors: { name: "" },
  gearboxes: { name: "", efficiency: 0.96 },
  contactors: { name: "" },
  fuses: { name: "" },
  converters: { name: "", gives_v: 13.8, efficiency: 0.9 },
  chargers: { name: "" },
};

/** The fields of a part that a person fills in, needed ones first; a motor's go by its kind. */
export function fieldsFor(fields: FieldInfo[], draft: Draft): [FieldInfo[], FieldInfo[]] {
  const kind = valueAt(draft, "motor.kind");
  const mine = fields.filter(
    (field) =>
      !["id", "name"].includes(field.path) &&
      !HIDDEN.has(field.path) &&
      (field.kinds.length === 0 || typeof kind !== "string" || field.kinds.includes(kind)),
  );
  const first = (field: FieldInfo) =>
    field.required || (valueAt(draft, field.path) ?? undefined) !== undefined;
  return [mine.filter(first), mine.filter((field) => !first(field))];
}

/** The part's own name stands for these, or a shelf has no use for them. */
const HIDDEN = new Set([
  "motor.name",
  "motor.count",
  "controller.name",
  "battery.name",
  "wheel.name",
  "propeller.name",
]);

/** Sizes of a range as text, and text as sizes; a size that stays keeps its mass and price. */
export const sizesText = (sizes: unknown): string =>
  Array.isArray(sizes) ? sizes.map((size: { teeth: number }) => size.teeth).join(" ") : "";

export function sizesOf(text: string, before: unknown): { teeth: number }[] | null {
  const words = text.split(/[\s,;]+/).filter(Boolean);
  if (words.some((word) => !/^\d+$/.test(word))) return null;
  const known = Array.isArray(before) ? (before as { teeth: number }[]) : [];
  const teeth = [...new Set(words.map(Number))].sort((a, b) => a - b);
  return teeth.map((count) => known.find((size) => size.teeth === count) ?? { teeth: count });
}
