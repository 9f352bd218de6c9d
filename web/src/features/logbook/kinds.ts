import type { MeasuredRunBody } from "../../api/types";

export type Observation = MeasuredRunBody["observations"][number];
export type KindId = Exclude<Observation["kind"], "telemetry">;

export interface Asked {
  key: string;
  label: string;
  unit: string;
  /** Whether nothing can be said without it. */
  needed?: boolean;
  /** Whether it says at what was read, and is no reading itself. */
  given?: boolean;
}

export interface KindForm {
  id: KindId;
  title: string;
  how: string;
  asked: Asked[];
}

const PACK: Asked[] = [
  { key: "battery_voltage_v", label: "Pack volts", unit: "V" },
  { key: "battery_current_a", label: "Pack amps", unit: "A" },
];
const GRADE: Asked = { key: "grade_pct", label: "On a slope of", unit: "%" };

/** What people read with, each as good as it usually is. */
export const INSTRUMENTS: [string, string][] = [
  ["satellite", "a satellite display"],
  ["tachometer", "a tachometer"],
  ["watt_meter", "a watt meter"],
  ["clamp", "a clamp meter"],
  ["infrared", "an infrared thermometer"],
  ["stopwatch", "a stopwatch"],
  ["tape", "a tape"],
  ["logger", "a logger"],
  ["hand", "eye and hand"],
];

/** What people read on a test day, each as they do it. */
export const KINDS: KindForm[] = [
  {
    id: "top_speed",
    title: "Top speed",
    how: "Flat out until it goes no faster, both ways if there is wind.",
    asked: [
      { key: "speed_kmh", label: "Speed", unit: "km/h" },
      ...PACK,
      { key: "motor_rpm", label: "Motor", unit: "rpm" },
      { key: "motor_current_a", label: "Motor amps", unit: "A" },
      GRADE,
    ],
  },
  {
    id: "free",
    title: "Wheels up",
    how: "Wheels in the air, clear of everybody, full throttle.",
    asked: [
      { key: "motor_rpm", label: "Motor", unit: "rpm" },
      { key: "wheel_rpm", label: "Wheel", unit: "rpm" },
      ...PACK,
    ],
  },
  {
    id: "steady",
    title: "Held speed",
    how: "Hold a speed on the level and read the meters.",
    asked: [
      { key: "speed_kmh", label: "Held", unit: "km/h", needed: true, given: true },
      ...PACK,
      GRADE,
    ],
  },
  {
    id: "launch",
    title: "Start",
    how: "From rest at full throttle to a speed, by stopwatch.",
    asked: [
      { key: "to_kmh", label: "To", unit: "km/h", needed: true, given: true },
      { key: "time_s", label: "Time", unit: "s" },
      { key: "distance_m", label: "Way", unit: "m" },
      GRADE,
    ],
  },
  {
    id: "coast_down",
    title: "Rolling out",
    how: "Motors off at speed: a line for each look at the display, seconds and speed.",
    asked: [GRADE],
  },
  {
    id: "roll_out",
    title: "Tape",
    how: "Chalk the loaded tyre and measure one turn.",
    asked: [{ key: "rolling_circumference_mm", label: "One turn", unit: "mm", needed: true }],
  },
  {
    id: "temperature",
    title: "Warmth",
    how: "Right after a ride at one speed, with an infrared thermometer or by hand.",
    asked: [
      { key: "after_s", label: "Ridden for", unit: "s", needed: true, given: true },
      { key: "speed_kmh", label: "At", unit: "km/h", needed: true, given: true },
      { key: "case_c", label: "Motor's can", unit: "C" },
      { key: "controller_c", label: "Controller", unit: "C" },
      { key: "pack_c", label: "Pack", unit: "C" },
      GRADE,
    ],
  },
  {
    id: "trip",
    title: "Trip",
    how: "A trip at about one speed: way and watt-hours.",
    asked: [
      { key: "speed_kmh", label: "At about", unit: "km/h", needed: true, given: true },
      { key: "distance_km", label: "Way", unit: "km", needed: true },
      { key: "energy_wh", label: "Used", unit: "Wh" },
      { key: "soc_end_pct", label: "Charge left", unit: "%" },
    ],
  },
];

/** What is read of a craft on a field. */
const IN_AIR: KindForm[] = [
  {
    id: "static",
    title: "On the scale",
    how: "The craft held fast by a luggage scale, full throttle, everybody behind the propeller.",
    asked: [
      { key: "thrust_n", label: "Thrust", unit: "N" },
      { key: "motor_rpm", label: "Motor", unit: "rpm" },
      ...PACK,
    ],
  },
];

const OF_WHEELS = new Set(["launch", "coast_down", "roll_out"]);

/** What is read of a build: of a craft its thrust, and nothing that is of wheels. */
export const kindsFor = (document: { propeller?: unknown }): KindForm[] =>
  document.propeller
    ? [
        ...KINDS.filter((one) => !OF_WHEELS.has(one.id)).map((one) =>
          one.id === "free"
            ? {
                ...one,
                title: "Propeller off",
                how: "The propeller off, full throttle.",
                asked: one.asked.filter((field) => field.key !== "wheel_rpm"),
              }
            : one,
        ),
        ...IN_AIR,
      ]
    : KINDS;

const ALL = [...KINDS, ...IN_AIR];

export const kindOf = (id: string): KindForm | undefined => ALL.find((one) => one.id === id);

/** Seconds and speed of each line; null where a line is neither. */
export function samplesOf(text: string): { t_s: number; speed_kmh: number }[] | null {
  const lines = text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);
  const samples = lines.map((line) => {
    const [time, speed] = line
      .split(/[;\t ]+|,(?=\s)/)
      .filter(Boolean)
      .map((word) => Number(word.replace(",", ".")));
    return { t_s: time ?? Number.NaN, speed_kmh: speed ?? Number.NaN };
  });
  const bad = samples.some((one) => !Number.isFinite(one.t_s) || !Number.isFinite(one.speed_kmh));
  return bad || samples.length < 2 ? null : samples;
}

const FIELDS: Record<string, [string, string]> = Object.fromEntries(
  ALL.flatMap((kind) => kind.asked.map((one) => [one.key, [one.label, one.unit]])),
);

/** What a reading is called, and its unit. */
export const fieldOf = (key: string): [string, string] =>
  key === "speed_kmh" ? ["Speed", "km/h"] : (FIELDS[key] ?? [key, ""]);

/** How often something so far off would be, in words. */
export function oddsOf(surprise: number): string {
  if (surprise < 1) return "as predicted";
  if (surprise < 1.65) return "a little off, as one in four would be";
  if (surprise < 2.1) return "off, as one in fifteen would be";
  if (surprise < 2.6) return "one in fifty would be so far off";
  return "hardly one in a hundred would be so far off";
}

/** By how much something is off, in words. */
export function offBy(measured: number, middle: number): string {
  const share = Math.abs(measured / middle - 1);
  const side = measured < middle ? "below" : "above";
  if (share < 0.01) return "right on it";
  const parts: [number, string][] = [
    [1 / 2, "half"],
    [1 / 3, "a third"],
    [1 / 4, "a quarter"],
    [1 / 5, "a fifth"],
    [1 / 6, "a sixth"],
    [1 / 8, "an eighth"],
    [1 / 10, "a tenth"],
  ];
  const near = parts.find(([part]) => Math.abs(share / part - 1) < 0.07);
  return `${near ? near[1] : `${Math.round(share * 100)} %`} ${side}`;
}
