import { PRICE } from "../../units/quantities";

export interface BlankInfo {
  label: string;
  unit: string;
  /** What stands in the blank while nothing is said. */
  open?: string;
  needed?: boolean;
}

/** Every number that is asked for, by its place in the document. */
export const BLANKS = {
  "vehicle.mass_kg": { label: "Mass without drive", unit: "kg", open: "?", needed: true },
  "wheel.rolling_circumference_mm": {
    label: "One turn of the wheel",
    unit: "mm",
    open: "?",
    needed: true,
  },
  "final_drive.ratio": { label: "Ratio of the axle itself", unit: "", open: "nothing" },
  "vehicle.drag_area_m2": { label: "Drag area", unit: "m2", open: "?", needed: true },
  "wishes.top_speed_kmh.min": { label: "Top speed at least", unit: "km/h" },
  "wishes.top_speed_kmh.max": { label: "Top speed at most", unit: "km/h" },
  "wishes.cruise_kmh": { label: "Cruising speed", unit: "km/h" },
  "wishes.climb.grade_pct": { label: "Grade of the hill", unit: "%", open: "no" },
  "wishes.climb.length_m": { label: "Length of the hill", unit: "m" },
  "wishes.climb.speed_kmh": { label: "Speed on the hill", unit: "km/h" },
  "wishes.range_km": { label: "Range", unit: "km" },
  "wishes.budget": { label: "Budget", unit: PRICE, open: "no limit" },
  "wishes.max_added_mass_kg": { label: "Added mass at most", unit: "kg" },
  "wishes.max_full_charge_v": { label: "Volts at most", unit: "V" },
  "vehicle.wing_area_m2": { label: "Wing area", unit: "m2", open: "?", needed: true },
  "vehicle.span_m": { label: "Span", unit: "m", open: "?", needed: true },
  "vehicle.zero_lift_drag": { label: "Drag without lift", unit: "", open: "0.04" },
  "vehicle.air_drag_area_m2": { label: "Drag area above water", unit: "m2", open: "0" },
  "wishes.thrust_to_weight": { label: "Thrust over weight", unit: "", open: "any" },
  "wishes.pitch_speed_over_stall": { label: "Pitch speed over stall speed", unit: "" },
  "wishes.climb_ms": { label: "Rate of climb", unit: "m/s up" },
  "wishes.endurance_min": { label: "Time out", unit: "min" },
  "wishes.max_diameter_mm": { label: "Propeller at most", unit: "mm" },
  "wishes.motor_space.diameter_mm": { label: "Motor's diameter at most", unit: "mm" },
} satisfies Record<string, BlankInfo>;

/** What is asked for at a place, in the words of the page. */
export function asked(path: string): string {
  const blank = (BLANKS as Record<string, BlankInfo>)[path];
  const last = path.split(".").at(-1) ?? path;
  return blank?.label ?? last.replace(/_(kmh|km|kg|mm|m|m2|pct|v|s)$/, "").replaceAll("_", " ");
}

export type BlankPath = keyof typeof BLANKS;
