/** Stretches of the drive's edge that one limit sets, each joined to the next. */
export interface Run {
  limit: string;
  speeds: number[];
  forces: number[];
}

export function runs(speeds: number[], forces: number[], limits: string[]): Run[] {
  const found: Run[] = [];
  speeds.forEach((speed, i) => {
    const force = forces[i] ?? 0;
    const limit = limits[i] ?? "voltage";
    const last = found.at(-1);
    if (last && last.limit === limit) {
      last.speeds.push(speed);
      last.forces.push(force);
    } else {
      // The point where limits hand over belongs to both stretches.
      if (last) {
        last.speeds.push(speed);
        last.forces.push(force);
      }
      found.push({ limit, speeds: [speed], forces: [force] });
    }
  });
  return found;
}

/** A curve's value at `x`, held at its ends. */
export function interpolated(xs: number[], ys: number[], x: number): number {
  const after = xs.findIndex((value) => value >= x);
  if (after < 0) return ys.at(-1) ?? 0;
  if (after === 0) return ys[0] ?? 0;
  const [x0, x1] = [xs[after - 1] ?? 0, xs[after] ?? 0];
  const [y0, y1] = [ys[after - 1] ?? 0, ys[after] ?? 0];
  return x1 === x0 ? y1 : y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
}
