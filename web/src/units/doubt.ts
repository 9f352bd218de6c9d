import type { Band } from "../api/types";
import { digits } from "./format";

/** How far a figure may be off, as a share of it; nothing where that is too little to matter. */
export function doubtOf(band: Band | undefined): string | null {
  const [low, mid, high] = band ?? [];
  if (low == null || mid == null || high == null || mid === 0) return null;
  const half = (high - low) / 2 / Math.abs(mid);
  if (half < 0.004) return null;
  return half > 2 ? "very unsure" : `±${digits(half * 100, half < 0.1 ? 1 : 2)} %`;
}
