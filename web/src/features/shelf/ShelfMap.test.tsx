import { describe, expect, test } from "vitest";
import type { PartsTable } from "../../api/types";
import { axesOf, figuresOf, inside } from "./ShelfMap";

const row = (id: string, values: unknown[], figures: unknown[]) => ({ id, values, figures });

const TABLE = {
  kind: "packs",
  columns: [
    { path: "battery.chemistry", label: "Chemistry", unit: "" },
    { path: "battery.mass_kg", label: "Mass", unit: "kg" },
    { path: "battery.series", label: "Cells", unit: "cells" },
  ],
  figures: [{ path: "energy_wh", label: "Energy", unit: "Wh" }],
  rows: [
    row("a", ["li_ion", 2, 10], [400]),
    row("b", ["lfp", 4, 10], [600]),
    row("c", ["lfp", null, 10], [900]),
  ],
} as unknown as PartsTable;

const named = (figures: ReturnType<typeof figuresOf>) => figures.map((one) => one.column.path);

describe("a map of the shelf", () => {
  test("is laid out by numbers that differ, worked out ones among them", () => {
    expect(named(figuresOf(TABLE, {}))).toEqual(["battery.mass_kg", "energy_wh"]);
  });

  test("shows what was chosen, else what is usual of the kind", () => {
    const figures = figuresOf(TABLE, { mass: "lb" });
    const usual = axesOf(TABLE, figures, null, null);
    expect(usual?.map((one) => one.column.path)).toEqual(["energy_wh", "battery.mass_kg"]);
    const turned = axesOf(TABLE, figures, "battery.mass_kg", "energy_wh");
    expect(turned?.map((one) => one.column.path)).toEqual(["battery.mass_kg", "energy_wh"]);
    // 2 kg are 4.409 lb (NIST SP 811); what does not say has no place.
    const [, mass] = usual ?? [];
    expect(mass?.of(TABLE.rows[0] as never)).toBeCloseTo(4.409245, 5);
    expect(mass?.of(TABLE.rows[2] as never)).toBeNull();
  });

  test("there is none of parts that say less than two figures", () => {
    const bare = { ...TABLE, figures: [] } as PartsTable;
    expect(axesOf(bare, figuresOf(bare, {}), null, null)).toBeNull();
  });

  test("a part is inside what was marked by both its figures, edges included", () => {
    const marked = { x: [400, 600] as [number, number], y: [1, 4] as [number, number] };
    expect(inside(marked, 400, 4)).toBe(true);
    expect(inside(marked, 601, 2)).toBe(false);
    expect(inside(marked, 500, 0.9)).toBe(false);
    expect(inside(marked, 500, null)).toBe(false);
  });
});
