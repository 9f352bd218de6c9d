import type { FieldInfo } from "../api/types";
import { typed } from "./format";
import { toShown, toStored, type Unit } from "./quantities";

const spelled = (option: unknown): string => String(option).replaceAll("_", " ");

/** A document's value as it stands in its input. */
export function written(value: unknown, field: FieldInfo, unit: Unit): string {
  if (value === undefined || value === null) return "";
  if (field.kind === "choices" && Array.isArray(value)) return value.map(spelled).join(", ");
  if (Array.isArray(value)) return value.join(field.kind === "list" ? ", " : " to ");
  if (typeof value !== "number") return String(value);
  if (field.kind === "whole" || (unit.factor === 1 && !unit.offset)) return String(value);
  return String(Number(toShown(value, unit).toPrecision(7)));
}

/** What was typed as the document holds it; undefined where it can't be read. */
export function parsed(text: string, field: FieldInfo, unit: Unit): unknown {
  if (field.kind === "text") return text.trim();
  if (field.kind === "choices") {
    const words = text.split(/[,;]+/).map((word) => word.trim().toLowerCase());
    const said = words
      .filter(Boolean)
      .map((word) => field.options.find((o) => spelled(o) === word));
    return said.length && said.every((one) => one !== undefined) ? said : undefined;
  }
  if (field.kind === "pair") {
    const ends = text.match(/\d+/g)?.map(Number);
    return ends?.length === 2 ? ends : undefined;
  }
  if (field.kind === "list") {
    const items = text
      .split(/[;\s]+|,\s+|,(?=\d*\.)/)
      .filter(Boolean)
      .map(typed);
    return items.length && items.every((item) => item !== null) ? items : undefined;
  }
  const number = typed(text);
  return number === null ? undefined : toStored(number, unit);
}

/** What a field takes, in words. */
export const expected = (field: FieldInfo): string =>
  field.kind === "choices"
    ? `one or more of ${field.options.map(spelled).join(", ")}`
    : wanted(field);

const wanted = (field: FieldInfo): string =>
  field.kind === "pair"
    ? "two whole numbers, such as 3 to 6"
    : field.kind === "list"
      ? "a list of numbers, such as 3.2, 2, 1.25"
      : "a number";
