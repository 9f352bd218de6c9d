import type { Stretch } from "./plan";

/** A place of a road, its height above where the road begins. */
export interface Place {
  atM: number;
  heightM: number;
}

const LEAST_M = 10;

/** The ends of all stretches, the road's beginning first. */
export function placesOf(stretches: Stretch[]): Place[] {
  const places: Place[] = [{ atM: 0, heightM: 0 }];
  for (const one of stretches) {
    const last = places.at(-1) as Place;
    places.push({ atM: last.atM + one.lengthM, heightM: last.heightM + one.upM });
  }
  return places;
}

/** The road with one of its places elsewhere: between its neighbours, all others where they are. */
export function withPlaceMoved(
  stretches: Stretch[],
  index: number,
  atM: number,
  heightM: number,
): Stretch[] {
  const places = placesOf(stretches);
  const before = places[index - 1];
  const after = places[index + 1];
  const now = places[index];
  if (!now) return stretches;
  const low = before ? before.atM + LEAST_M : 0;
  const high = after ? after.atM - LEAST_M : Number.POSITIVE_INFINITY;
  // The road begins where it begins: of its first place only the height moves.
  const to = index === 0 ? 0 : Math.min(Math.max(atM, low), Math.max(high, low));
  const up = heightM - now.heightM;
  const on = to - now.atM;
  return stretches.map((one, at) => {
    if (at === index - 1) return { ...one, lengthM: one.lengthM + on, upM: one.upM + up };
    if (at === index) return { ...one, lengthM: one.lengthM - on, upM: one.upM - up };
    return one;
  });
}

/** The road with one place more; the stop of a stretch stays at its end, its limit on both. */
export function withPlaceAt(stretches: Stretch[], { atM, heightM }: Place): Stretch[] {
  const places = placesOf(stretches);
  const index = stretches.findIndex((_, at) => {
    const [from, to] = [places[at], places[at + 1]];
    return from && to && atM > from.atM + LEAST_M && atM < to.atM - LEAST_M;
  });
  const [from, to, cut] = [places[index], places[index + 1], stretches[index]];
  if (!from || !to || !cut) return stretches;
  const first = { ...cut, lengthM: atM - from.atM, upM: heightM - from.heightM, stopS: null };
  const second = { ...cut, lengthM: to.atM - atM, upM: to.heightM - heightM };
  return [...stretches.slice(0, index), first, second, ...stretches.slice(index + 1)];
}

/** The road without a place: its two stretches become one; of the ends, their stretch goes. */
export function withPlaceOut(stretches: Stretch[], index: number): Stretch[] {
  const [before, after] = [stretches[index - 1], stretches[index]];
  if (!before) return stretches.slice(1);
  if (!after) return stretches.slice(0, -1);
  const joined = {
    ...after,
    lengthM: before.lengthM + after.lengthM,
    upM: before.upM + after.upM,
    limitKmh: before.limitKmh ?? after.limitKmh,
  };
  return [...stretches.slice(0, index - 1), joined, ...stretches.slice(index + 1)];
}
