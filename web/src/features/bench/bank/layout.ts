/** Where the parts stand across the bench; bank and stream share it so that they line up. */
export interface Stations {
  edges: number[];
  columns: string;
}

/** Shares of the width: pack, controller, motor, gearing, wheel, where it goes. */
export function stations(width: number, stages: number): Stations {
  const shares = [1, 1.02, 1.06, stages > 2 ? 1.34 : 1.24, 0.86, 1.08];
  const total = shares.reduce((sum, share) => sum + share, 0);
  let edge = 0;
  const edges = [0, ...shares.map((share) => (edge += (share / total) * width))];
  return { edges, columns: shares.map((share) => `${share}fr`).join(" ") };
}
