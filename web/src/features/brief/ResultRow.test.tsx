import { renderToStaticMarkup } from "react-dom/server";
import { beforeEach, expect, test } from "vitest";
import type { MatchResult } from "../../api/types";
import { UnitsProvider } from "../../units/preferences";
import { ResultRow, tightest } from "./ResultRow";

const RESULT = {
  rank: 2,
  parts: {
    motor: "m",
    controller: "c",
    battery: "p",
    gearing: [{ driver_teeth: 11, driven_teeth: 44 }],
    ratio: 4,
    twins: 1,
  },
  gearings: 3,
  figures: { top_speed_kmh: 30, climb_kmh: 20, range_km: null, added_mass_kg: 5, price: 400 },
  margins: {
    budget: { label: "Costs at most", unit: "", value: 400, limit: 500, margin: 0.2, at: "x" },
    climb: { label: "Push", unit: "%", value: 130, limit: 100, margin: 0.3, at: "full" },
    top: { label: "Top speed at least", unit: "km/h", value: 30, limit: 24, margin: 0.25, at: "y" },
  },
  bands: { top_speed_kmh: [28, 30, 32] },
  differs: [
    { by: 18.4, unit: "", say: "costs {} less" },
    { by: 0.5, unit: "kg", say: "weighs {} more" },
  ],
} as unknown as MatchResult;

const row = (follows: boolean, result = RESULT) =>
  renderToStaticMarkup(
    <UnitsProvider>
      <ResultRow
        result={result}
        place={2}
        follows={follows}
        nameOf={(id) => `the ${id}`}
        marked={false}
        onMark={() => {}}
        onMake={() => {}}
        ticked={false}
        onTick={null}
      />
    </UnitsProvider>,
  ).replace(/<[^>]*>/g, "");

beforeEach(() => localStorage.clear());

test("a result says what to buy, what it does and how sure that is", () => {
  const text = row(false);
  expect(text).toContain("the m, the c, the p");
  expect(text).toContain("11 to 44 teeth, 4.00 to 1; 2 other gearings do");
  expect(text).toContain("30.0 km/h28.0 to 32.0");
  expect(text).toContain("rangenot known");
});

test("a near-tie is told in the unit that was chosen, beside the one it is held against", () => {
  expect(row(false)).not.toContain("Nearly");
  expect(row(true)).toContain("it costs 18.4 less, weighs 0.500 kg more.");
  localStorage.setItem("young-torrent.units", JSON.stringify({ mass: "lb" }));
  // Half a kilogram is 1.102 lb.
  expect(row(true)).toContain("weighs 1.10 lb more");
  expect(row(true, { ...RESULT, differs: [] })).toContain("differs in nothing that counts");
  expect(row(true, { ...RESULT, differs: null })).not.toContain("Nearly");
});

test("the wish with the smallest margin is one of the ride, not of a part that fits", () => {
  expect(tightest(RESULT)?.label).toBe("Top speed at least");
});
