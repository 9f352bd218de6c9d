import type { BuildDocument, SettingRow } from "../../api/types";
import { valueAt } from "../../ui/paths";

/** Where a setting stands in the document; those that are not there can only be read off. */
const PATHS: Partial<Record<SettingRow["id"], string>> = {
  motor_current_limit_a: "controller.motor_current_limit_a",
  battery_current_limit_a: "controller.battery_current_limit_a",
  regen_current_limit_a: "controller.regen_current_limit_a",
  timing_deg: "controller.timing_deg",
  boost_timing_deg: "controller.boost_timing_deg",
  turbo_timing_deg: "controller.turbo_timing_deg",
  half_throttle_pct: "controller.half_throttle_pct",
  ramp_pct_per_s: "controller.ramp_pct_per_s",
  drag_brake_pct: "controller.drag_brake_pct",
  brake_pct: "controller.brake_pct",
  pwm_hz: "controller.pwm_hz",
  reverse: "controller.reverse",
};

/** The path of a setting in a document; that of the curve goes before where there is one. */
export function pathOf(id: SettingRow["id"], document: BuildDocument): string | null {
  if (id === "half_throttle_pct" && document.controller.curve)
    return "controller.curve.half_throttle_pct";
  return PATHS[id] ?? null;
}

/** What a build has set now; null where nothing is. */
export function setNow(id: SettingRow["id"], document: BuildDocument): number | string | null {
  const path = pathOf(id, document);
  const value = path ? valueAt(document, path) : null;
  return typeof value === "number" || typeof value === "string" ? value : null;
}

/** The sheet as lines of text, to be sent on. */
export function asText(rows: SettingRow[], name: string): string {
  const line = ({ label, value, unit, why }: SettingRow) =>
    `${label}: ${value === null ? "not known" : `${value} ${unit}`.trim()}. ${why}`;
  return [`Controller of ${name}`, "", ...rows.map(line)].join("\n");
}
