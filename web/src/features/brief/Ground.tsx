import { Choice } from "./Choice";
import type { Saying } from "./useBrief";

const GROUND: [string, string][] = [
  ["0.005", "smooth rollers or track"],
  ["0.01", "tarmac"],
  ["0.02", "gravel"],
  ["0.04", "hard earth"],
  ["0.08", "wet grass"],
  ["0.15", "mud or sand"],
];

/** What it rolls on, in words; the document holds the rolling resistance. */
export function Ground({ saying }: { saying: Saying }) {
  const now = Number(saying.value("vehicle.rolling_resistance"));
  const nearest = GROUND.reduce((best, one) =>
    Math.abs(Math.log(Number(one[0]) / now)) < Math.abs(Math.log(Number(best[0]) / now))
      ? one
      : best,
  );
  const known = GROUND.some(([value]) => Number(value) === now);
  const options: [string, string][] = known
    ? GROUND
    : [[String(now), `ground like ${nearest[1]} (${now})`], ...GROUND];
  return (
    <Choice
      saying={saying}
      path="vehicle.rolling_resistance"
      label="Ground"
      options={options}
      to={Number}
      from={() => options.find(([value]) => Number(value) === now)?.[0] ?? ""}
    />
  );
}
