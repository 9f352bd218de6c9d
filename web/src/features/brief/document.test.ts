import { describe, expect, it } from "vitest";
import type { BriefDocument } from "../../api/types";
import { valueAt } from "../../ui/paths";
import { withSaid } from "./document";

const brief = {
  format: "young-torrent.brief/1",
  vehicle: { kind: "ground", mass_kg: 185, rolling_resistance: 0.009, drag_area_m2: 0.85 },
  wheel: { rolling_circumference_mm: 1830 },
  wishes: { climb: { grade_pct: 6, speed_kmh: 12 }, budget: 900 },
} as BriefDocument;

describe("a brief that is being said", () => {
  it("takes a value at its place and leaves the one before as it was", () => {
    const next = withSaid(brief, "vehicle.mass_kg", 170);
    expect(valueAt(next, "vehicle.mass_kg")).toBe(170);
    expect(valueAt(brief, "vehicle.mass_kg")).toBe(185);
  });

  it("makes room for a wish that was not there", () => {
    const next = withSaid(brief, "wishes.top_speed_kmh.min", 24);
    expect(next.wishes?.top_speed_kmh).toEqual({ min: 24 });
  });

  it("gives a wish up whole once nothing of it is left", () => {
    const asked = withSaid(brief, "wishes.top_speed_kmh.min", 24);
    const next = withSaid(asked, "wishes.top_speed_kmh.min", null);
    expect(next.wishes).toEqual(brief.wishes);
    expect(withSaid(brief, "wishes.budget", null).wishes).toEqual({ climb: brief.wishes?.climb });
  });

  it("gives the hill up with its grade, since a hill without one is none", () => {
    expect(valueAt(withSaid(brief, "wishes.climb.grade_pct", null), "wishes.climb")).toBe(
      undefined,
    );
    expect(valueAt(withSaid(brief, "wishes.climb.speed_kmh", null), "wishes.climb")).toEqual({
      grade_pct: 6,
    });
  });

  it("knows nothing of a place that is not there", () => {
    expect(valueAt(brief, "owned.motor")).toBe(undefined);
    expect(valueAt(brief, "name.first")).toBe(undefined);
  });
});
