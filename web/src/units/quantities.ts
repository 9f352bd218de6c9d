/** What is measured, in which units it can be shown, and how each follows from the stored one. */
export interface Unit {
  id: string;
  sign: string;
  /** shown = stored * factor + offset */
  factor: number;
  offset?: number;
}

export interface Quantity {
  name: string;
  /** The first is the stored unit's own, the metric choice. */
  units: [Unit, ...Unit[]];
  imperial: string;
}

const same = (id: string, sign: string): Unit => ({ id, sign, factor: 1 });

/** Factors by definition (NIST SP 811): 1 mi = 1609.344 m, 1 in = 25.4 mm, 1 lb = 0.45359237 kg. */
export const QUANTITIES = {
  speed: {
    name: "Speed",
    units: [
      { id: "km/h", sign: "km/h", factor: 3.6 },
      { id: "mph", sign: "mph", factor: 3600 / 1609.344 },
      same("m/s", "m/s"),
    ],
    imperial: "mph",
  },
  climb: {
    name: "Rate of climb",
    units: [same("m/s up", "m/s"), { id: "ft/min", sign: "ft/min", factor: 60 / 0.3048 }],
    imperial: "ft/min",
  },
  distance: {
    name: "Distance",
    units: [same("km", "km"), { id: "mi", sign: "mi", factor: 1 / 1.609344 }],
    imperial: "mi",
  },
  length: {
    name: "Length",
    units: [same("mm", "mm"), { id: "in", sign: "in", factor: 1 / 25.4 }],
    imperial: "in",
  },
  ground: {
    name: "Height and run",
    units: [same("m", "m"), { id: "ft", sign: "ft", factor: 1 / 0.3048 }],
    imperial: "ft",
  },
  area: {
    name: "Area",
    units: [same("m2", "m²"), { id: "ft2", sign: "ft²", factor: 1 / 0.09290304 }],
    imperial: "ft2",
  },
  mass: {
    name: "Mass",
    units: [same("kg", "kg"), { id: "lb", sign: "lb", factor: 1 / 0.45359237 }],
    imperial: "lb",
  },
  force: {
    name: "Push",
    units: [
      same("N", "N"),
      { id: "lbf", sign: "lbf", factor: 1 / 4.4482216152605 },
      { id: "kgf", sign: "kgf", factor: 1 / 9.80665 },
    ],
    imperial: "lbf",
  },
  torque: {
    name: "Torque",
    units: [same("N.m", "N·m"), { id: "lb-ft", sign: "lb-ft", factor: 1 / 1.3558179483314 }],
    imperial: "lb-ft",
  },
  temperature: {
    name: "Temperature",
    units: [same("C", "°C"), { id: "F", sign: "°F", factor: 1.8, offset: 32 }],
    imperial: "F",
  },
  use: {
    name: "Energy use",
    units: [same("Wh/km", "Wh/km"), { id: "Wh/mi", sign: "Wh/mi", factor: 1.609344 }],
    imperial: "Wh/mi",
  },
} satisfies Record<string, Quantity>;

/** What scales show, as it is read off them; a newton is 1/9.80665 of a kilogram's weight. */
export const SCALES: [Unit, ...Unit[]] = [
  { id: "g", sign: "g", factor: 1000 / 9.80665 },
  { id: "kg", sign: "kg", factor: 1 / 9.80665 },
  { id: "oz", sign: "oz", factor: 16 / 4.4482216152605 },
  { id: "lb", sign: "lb", factor: 1 / 4.4482216152605 },
  same("N", "N"),
];

export type QuantityId = keyof typeof QUANTITIES;
/** The chosen unit of each quantity, and the sign of the user's money. */
export type UnitChoice = Partial<Record<QuantityId | "currency", string>>;

/** What prices are in: documents hold bare numbers, the sign is the user's. */
export const PRICE = "price";

/** Quantities whose stored unit in documents has a name of its own. */
const STORED: Record<string, QuantityId> = {
  kg: "mass",
  mm: "length",
  m: "ground",
  m2: "area",
  C: "temperature",
  "N.m": "torque",
  "km/h": "speed",
  "m/s": "speed",
  "m/s up": "climb",
  km: "distance",
  N: "force",
  "Wh/km": "use",
};

const SIGNS: Record<string, string> = {
  ohm: "Ω",
  mohm: "mΩ",
  mm2: "mm²",
  "kg/m3": "kg/m³",
  "kg.m2": "kg·m²",
  "N.m2/W/kg": "N·m²/(W·kg)",
  deg: "°",
  m2: "m²",
  C: "°C",
};

export function unitOf(quantity: QuantityId, choice: UnitChoice): Unit {
  const units: Unit[] = QUANTITIES[quantity].units;
  const chosen = units.find((unit) => unit.id === choice[quantity]);
  return chosen ?? QUANTITIES[quantity].units[0];
}

export const imperialChoice = (): UnitChoice =>
  Object.fromEntries(Object.entries(QUANTITIES).map(([id, quantity]) => [id, quantity.imperial]));

/** How a document's value in `unit` is shown and typed. */
export function documentUnit(unit: string, choice: UnitChoice): Unit {
  if (unit === PRICE) return same(PRICE, choice.currency ?? "");
  if (unit === "N.m/A") {
    const torque = unitOf("torque", choice);
    return { ...torque, sign: `${torque.sign}/A` };
  }
  const quantity = STORED[unit];
  if (quantity === undefined) return same(unit, SIGNS[unit] ?? unit);
  const shown = unitOf(quantity, choice);
  // Speeds in documents are km/h (or m/s for wind); everywhere else the stored unit is the first.
  if (unit === "km/h") return { ...shown, factor: shown.factor / 3.6 };
  return shown;
}

export const toShown = (stored: number, unit: Unit): number =>
  stored * unit.factor + (unit.offset ?? 0);

export const toStored = (shown: number, unit: Unit): number => {
  const stored = (shown - (unit.offset ?? 0)) / unit.factor;
  return Number(stored.toPrecision(12));
};
