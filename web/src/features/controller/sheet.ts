import type { SettingRow } from "../../api/types";

export type SettingValue = number | string;

/** What is set when a row is: its field, and beside it when, and what was worked out by then. */
export function asSet(
  row: Pick<SettingRow, "id" | "value" | "stands">,
  value: SettingValue | null,
  on: string,
): Record<string, unknown> {
  const { path, per } = row.stands;
  const held = `controller.settings.${row.id}`;
  // Nothing typed takes it out, and what was noted of it.
  if (value === null) return path === null ? { [held]: null } : { [path]: null, [held]: null };
  const kept = { [held]: { value, on, worked_out: row.value } };
  if (path === null) return kept;
  return { [path]: typeof value === "number" ? value / per : value, ...kept };
}

/** The day it is here. */
export function today(now = new Date()): string {
  const two = (value: number) => String(value).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}

/** The sheet as lines of text, to be sent on. */
export function asText(rows: SettingRow[], name: string): string {
  const line = ({ label, value, unit, why, stands }: SettingRow) => {
    const told = (some: SettingValue) => `${some} ${unit}`.trim();
    const { by_hand: hand } = stands;
    const set = hand ? ` Set by hand to ${told(hand.value)} on ${hand.on}.` : "";
    return `${label}: ${value === null ? "not known" : told(value)}. ${why}${set}`;
  };
  return [`Controller of ${name}`, "", ...rows.map(line)].join("\n");
}
