import { type QuantityId, toShown, type Unit, type UnitChoice, unitOf } from "./quantities";

/** Formats are kept: to make one takes a hundred times as long as to use it. */
const formats = new Map<string, Intl.NumberFormat>();

function formatted(value: number, options: Intl.NumberFormatOptions): string {
  const key = JSON.stringify(options);
  const known = formats.get(key) ?? new Intl.NumberFormat("en-GB", options);
  formats.set(key, known);
  return known.format(value);
}

/** A number with so many significant digits, thousands set apart, and no digits it can't vouch for. */
export function digits(value: number, significant = 3): string {
  if (!Number.isFinite(value)) return "–";
  return value === 0
    ? "0"
    : formatted(value, {
        minimumSignificantDigits: significant,
        maximumSignificantDigits: significant,
        // Whole numbers keep all of their digits.
        maximumFractionDigits: 0,
        roundingPriority: "morePrecision",
      });
}

/**
 * How many significant digits a figure deserves: as far as the second digit of its doubt
 * (JCGM 100:2008, 7.2.6), and at most `most`.
 */
export function deserved(
  value: number,
  band: readonly (number | null)[] | null | undefined,
  most = 3,
): number {
  const [low, , high] = band ?? [];
  if (low == null || high == null || !(high > low) || value === 0) return most;
  const place = Math.floor(Math.log10((high - low) / 2)) - 1;
  return Math.min(Math.max(Math.floor(Math.log10(Math.abs(value))) - place + 1, 1), most);
}

/** A number with so many significant digits and no more, whole numbers rounded, too. */
export const rounded = (value: number, significant: number): string =>
  digits(Number(value.toPrecision(significant)), significant);

/** A number somebody chose, as they would write it: no digits added. */
export const chosen = (value: number, significant = 4): string =>
  formatted(value, { maximumSignificantDigits: significant });

export interface Shown {
  text: string;
  sign: string;
}

/** A value in SI (or the quantity's stored unit) as the user wants to read it. */
export function shown(
  value: number,
  quantity: QuantityId,
  choice: UnitChoice,
  significant = 3,
): Shown {
  const unit = unitOf(quantity, choice);
  return { text: digits(toShown(value, unit), significant), sign: unit.sign };
}

/** The difference of two values in the user's unit, or null when it would read as nothing. */
export function difference(
  now: number,
  before: number,
  unit: Unit = { id: "", sign: "", factor: 1 },
  significant = 3,
): string | null {
  const delta = (now - before) * unit.factor;
  const scale = Math.max(Math.abs(now), Math.abs(before)) * Math.abs(unit.factor);
  if (scale === 0 || Math.abs(delta) < scale * 10 ** -significant) return null;
  const size = Math.floor(Math.log10(scale));
  const decimals = Math.max(0, Math.min(6, significant - 1 - size));
  const text = Math.abs(delta).toFixed(decimals);
  if (Number(text) === 0) return null;
  return `${delta > 0 ? "+" : "−"}${text}`;
}

/** The number a person typed, with either decimal sign, or null if it is none. */
export function typed(text: string): number | null {
  const trimmed = text.trim().replace(/\s/g, "").replace("−", "-");
  if (trimmed === "") return null;
  let plain = trimmed;
  if (/^[-+]?[1-9]\d{0,2}(,\d{3})+(\.\d+)?$/.test(trimmed)) plain = trimmed.replace(/,/g, "");
  else if (!trimmed.includes(".")) plain = trimmed.replace(",", ".");
  if (!/^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(plain)) return null;
  const value = Number(plain);
  return Number.isFinite(value) ? value : null;
}
