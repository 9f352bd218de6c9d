import type { FigureId } from "../../api/types";
import { TERMS, type TermId } from "../../ui/terms";
import type { QuantityId, Unit, UnitChoice } from "../../units/quantities";
import { unitOf } from "../../units/quantities";

interface FigureInfo {
  id: FigureId;
  name: string;
  term: TermId;
  /** What somebody wishes for who wants more of it, or less. */
  wish: string;
  quantity?: QuantityId;
  /** Documents count speeds in km/h; the quantity's own unit is m/s. */
  stored?: number;
  sign: string;
  step: number;
}

export const FIGURES: FigureInfo[] = [
  {
    id: "top_speed_kmh",
    name: TERMS.top_speed.term,
    term: "top_speed",
    wish: "faster",
    quantity: "speed",
    stored: 3.6,
    sign: "km/h",
    step: 5,
  },
  {
    id: "climb_kmh",
    name: TERMS.climb.term,
    term: "climb",
    wish: "faster uphill",
    quantity: "speed",
    stored: 3.6,
    sign: "km/h",
    step: 2,
  },
  {
    id: "launch_s",
    name: TERMS.acceleration.term,
    term: "acceleration",
    wish: "quicker off the line",
    sign: "s",
    step: 0.5,
  },
  {
    id: "climb_ms",
    name: TERMS.climb_rate.term,
    term: "climb_rate",
    wish: "a steeper climb",
    sign: "m/s",
    step: 1,
  },
  {
    id: "thrust_to_weight",
    name: TERMS.thrust_to_weight.term,
    term: "thrust_to_weight",
    wish: "an easier launch",
    sign: "",
    step: 0.1,
  },
  {
    id: "pitch_speed_kmh",
    name: TERMS.pitch_speed.term,
    term: "pitch_speed",
    wish: "a faster stream",
    quantity: "speed",
    stored: 3.6,
    sign: "km/h",
    step: 5,
  },
  {
    id: "endurance_min",
    name: TERMS.endurance.term,
    term: "endurance",
    wish: "longer out",
    sign: "min",
    step: 5,
  },
  {
    id: "range_km",
    name: TERMS.range.term,
    term: "range",
    wish: "more range",
    quantity: "distance",
    sign: "km",
    step: 5,
  },
  {
    id: "pack_peak_a",
    name: TERMS.pack_current.term,
    term: "pack_current",
    wish: "less from the pack",
    sign: "A",
    step: 5,
  },
  {
    id: "motor_peak_a",
    name: TERMS.motor_current.term,
    term: "motor_current",
    wish: "less through the motor",
    sign: "A",
    step: 5,
  },
  {
    id: "winding_c",
    name: TERMS.winding.term,
    term: "winding",
    wish: "a cooler winding",
    quantity: "temperature",
    sign: "K",
    step: 10,
  },
  {
    id: "case_c",
    name: TERMS.can.term,
    term: "can",
    wish: "a cooler can",
    quantity: "temperature",
    sign: "K",
    step: 5,
  },
];

/** The unit of a figure as the user reads it, from the figure as stored. */
export function figureUnit(figure: FigureInfo, choice: UnitChoice): Unit {
  if (!figure.quantity) return { id: figure.sign, sign: figure.sign, factor: 1 };
  const unit = unitOf(figure.quantity, choice);
  return figure.stored ? { ...unit, factor: unit.factor / figure.stored } : unit;
}

/** The unit of a difference of that figure: kelvin for degrees, no offset. */
export function stepUnit(figure: FigureInfo, choice: UnitChoice): Unit {
  const { offset: _, ...unit } = figureUnit(figure, choice);
  if (figure.quantity !== "temperature") return unit;
  return { ...unit, sign: unit.id === "C" ? "K" : unit.sign };
}

/** The figures that a kind of build has at all. */
export const figuresIn = (known: object): FigureInfo[] =>
  FIGURES.filter((info) => info.id in known);
