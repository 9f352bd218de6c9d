import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, test, vi } from "vitest";
import type { FitAnswer, Gear, GearsAnswer, StateAnswer } from "../../api/types";
import { flowOf } from "../../stream/flow";
import { drawn } from "../../testing";
import { FitDrawing } from "./FitDrawing";
import { TractionChart } from "./TractionChart";

vi.mock("../../ui/useSize", () => ({ useSize: () => [() => {}, 800, 300] }));
afterEach(cleanup);

const FIT: FitAnswer = {
  lengths: [
    { id: "adapter", label: "Adapter plate", from_mm: 0, to_mm: 22, tall_mm: 245 },
    { id: "coupler", label: "Coupler", from_mm: 22, to_mm: 92, tall_mm: 64 },
    { id: "motor", label: "Motor", from_mm: 92, to_mm: 502.5, tall_mm: 245 },
  ],
  needs_mm: 502.5,
  free_mm: 560,
  left_mm: 57.5,
  across_mm: null,
  checks: [],
  asks: [],
};

const piece = (id: string) => document.querySelector(`[data-piece="${id}"]`) as SVGRectElement;
const wide = (id: string) => Number(piece(id).getAttribute("width"));
const high = (id: string) => Number(piece(id).getAttribute("height"));

describe("the drawing of the lengths", () => {
  test("is to one scale along and across", () => {
    render(<FitDrawing answer={FIT} width={800} name="Ruff" />);
    const mm = Number(document.querySelector("svg")?.getAttribute("data-mm-per-px"));
    expect(wide("adapter") * mm).toBeCloseTo(22, 6);
    expect(wide("coupler") * mm).toBeCloseTo(70, 6);
    expect(wide("motor") * mm).toBeCloseTo(410.5, 6);
    expect(high("motor") * mm).toBeCloseTo(245, 6);
    expect(high("coupler") * mm).toBeCloseTo(64, 6);
    expect(Number(piece("motor").getAttribute("x"))).toBeCloseTo(
      Number(piece("coupler").getAttribute("x")) + wide("coupler"),
      6,
    );
  });

  test("says the figures of the document", () => {
    render(<FitDrawing answer={FIT} width={800} name="Ruff" />);
    for (const said of ["22", "70", "410.5", "502.5 mm needed", "560 mm free"])
      expect(screen.getByText(said)).toBeDefined();
    expect(
      screen.getByRole("img", {
        name: "Ruff, to scale: Adapter plate 22 mm, Coupler 70 mm, Motor 410.5 mm, of 560 mm free",
      }),
    ).toBeDefined();
  });

  test("is made smaller, not cut, where there is little room", () => {
    render(<FitDrawing answer={FIT} width={340} name="Ruff" />);
    const end = Number(piece("motor").getAttribute("x")) + wide("motor");
    expect(end).toBeLessThan(340);
    const mm = Number(document.querySelector("svg")?.getAttribute("data-mm-per-px"));
    expect(wide("motor") * mm).toBeCloseTo(410.5, 6);
  });

  test("asks for what it needs where nothing is known", () => {
    const nothing = { ...FIT, lengths: [], needs_mm: null, free_mm: null, left_mm: null };
    render(<FitDrawing answer={nothing} width={800} name="Ruff" />);
    expect(screen.getByText(/Type the motor’s length/)).toBeDefined();
    expect(screen.queryByRole("img")).toBeNull();
  });
});

const gear = (name: string, push: number, more: Partial<Gear> = {}): Gear =>
  ({
    name,
    ratio: 10,
    start_n: push,
    motor_n: [push, push / 2, 0],
    speeds_mps: [0, 5, 10],
    engine_speeds_mps: [2, 4],
    engine_n: [push * 1.2, push],
    top_kmh: 36,
    needed: false,
    ...more,
  }) as Gear;

const GEARS = {
  gears: [gear("Gear 1", 4000), gear("Gear 2", 2000, { needed: true })],
  road: [
    { grade_pct: 0, speeds_mps: [0, 10], force_n: [100, 200] },
    { grade_pct: 10, speeds_mps: [0, 10], force_n: [900, 1000] },
  ],
} as unknown as GearsAnswer;

describe("push over speed", () => {
  test("is drawn for each gear of motor and engine, and for each grade", async () => {
    await drawn(<TractionChart answer={GEARS} width={800} height={300} />);
    expect(
      screen.getByRole("img", {
        name: "Push over speed in 2 gears, of the motor and of the engine it replaces, against the road",
      }),
    ).toBeDefined();
    expect(document.querySelectorAll("path.stroke-ember")).toHaveLength(2);
    expect(document.querySelectorAll("path.stroke-water")).toHaveLength(2);
    expect(document.querySelectorAll("path.stroke-soft")).toHaveLength(2);
    expect(screen.getByText("10 %")).toBeDefined();
  });

  test("leaves the engine out where there is none", async () => {
    const bare = GEARS.gears.map((one) => ({ ...one, engine_n: [], engine_speeds_mps: [] }));
    await drawn(<TractionChart answer={{ ...GEARS, gears: bare }} width={800} height={300} />);
    expect(screen.queryByText("engine, full throttle")).toBeNull();
  });
});

describe("the stream", () => {
  const state = {
    cells_w: 1000,
    pack_heat_w: 50,
    terminals_w: 950,
    controller_heat_w: 10,
    copper_heat_w: 40,
    brush_heat_w: 0,
    turning_heat_w: 0,
    shaft_w: 800,
    stage_losses_w: [],
    road_w: 800,
    air_w: 300,
    rolling_w: 500,
    climbing_w: 0,
    speeding_up_w: 0,
    brakes_w: 0,
    takes: {},
  } as unknown as StateAnswer;

  test("shows what runs along, and so closes", () => {
    const flow = flowOf({ ...state, auxiliaries_w: 100 });
    const lost = flow.losses.reduce((sum, loss) => sum + loss.watts, 0);
    expect(flow.losses.find((loss) => loss.part === "along")?.watts).toBe(100);
    expect(flow.cells - lost).toBe(flow.road);
  });

  test("has no such branch where nothing does", () => {
    expect(flowOf({ ...state, auxiliaries_w: 0 }).losses.some((it) => it.part === "along")).toBe(
      false,
    );
  });
});
