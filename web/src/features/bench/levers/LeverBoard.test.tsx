import { cleanup, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Board } from "../../../api/types";
import { drawn } from "../../../testing";
import type { Workbench } from "../../../workbench/workbench";
import { LeverBoard } from "./LeverBoard";

const BOARD = {
  now: { top_speed_kmh: 36, climb_kmh: 30, range_km: 50, winding_c: 80, launch_s: null },
  better: { top_speed_kmh: 1, climb_kmh: 1, range_km: 1, winding_c: -1, launch_s: -1 },
  rows: [
    {
      lever: "battery.series",
      step: 1,
      say: "14 cells in series",
      stops: ["the controller would carry too many amps"],
      clears: [],
      effects: { top_speed_kmh: [2.5, 2.3, 2.7], winding_c: [4, 3, 5], range_km: [3, 2, 4] },
    },
    {
      lever: "gearing.0.driver_teeth",
      step: 1,
      say: "Stage 1 driver 17",
      stops: [],
      clears: [],
      effects: { top_speed_kmh: [1, 0.9, 1.1], winding_c: [-2, -3, -1], range_km: [0, 0, 0] },
    },
    {
      lever: "vehicle.mass_kg",
      step: -1,
      say: "5 kg less",
      stops: [],
      clears: [],
      effects: { top_speed_kmh: null },
    },
  ],
  ranked: { top_speed_kmh: [0, 1], winding_c: [1] },
} as unknown as Board;

beforeEach(() => localStorage.clear());
afterEach(cleanup);

function told() {
  const act = vi.fn();
  drawn(<LeverBoard bench={{ act } as unknown as Workbench} board={BOARD} climbS={90} />);
  return act;
}

const presses = () =>
  screen.getAllByRole("rowheader").map((head) => within(head).getByRole("button").textContent);
const rowOf = (name: RegExp) => screen.getByRole("row", { name }).textContent ?? "";

test("changes are ranked for the wish, what does nothing for it last", async () => {
  told();
  expect(presses()).toEqual(["14 cells in series", "Stage 1 driver 17", "5 kg less"]);
  await userEvent.selectOptions(screen.getByLabelText("Wish"), "winding_c");
  expect(presses()[0]).toBe("Stage 1 driver 17");
});

test("a gain says its sign, its doubt and whether it is better, in words too", () => {
  told();
  const cells = rowOf(/14 cells/);
  expect(cells).toContain("▲+2.5 better±0.2");
  // Hotter is worse, though it is more.
  expect(cells).toContain("▼+4.0 worse±1");
  expect(rowOf(/5 kg less/)).toContain("–");
});

test("how many presses a wish takes follows what is wished for", async () => {
  told();
  // Five km/h at 2.5 a press are two, at one a press five.
  expect(rowOf(/14 cells/)).toContain("× 2");
  expect(rowOf(/Stage 1/)).toContain("× 5");
  const amount = screen.getByLabelText("I want");
  await userEvent.clear(amount);
  await userEvent.type(amount, "10");
  expect(rowOf(/14 cells/)).toContain("× 4");
});

test("wishes and gains are in the unit that is chosen", () => {
  localStorage.setItem("young-torrent.units", JSON.stringify({ speed: "mph" }));
  told();
  // 2.5 km/h are 1.55 mph.
  expect(rowOf(/14 cells/)).toMatch(/\+1\.[56] better/);
});

test("a press is carried out on the bench", async () => {
  const act = told();
  await userEvent.click(screen.getByRole("button", { name: "Stage 1 driver 17" }));
  expect(act).toHaveBeenCalledWith({ do: "press", lever: "gearing.0.driver_teeth", step: 1 });
});

test("what a press would stop the build with stands under it", () => {
  told();
  expect(rowOf(/14 cells/)).toContain("Then the controller would carry too many amps");
  expect(rowOf(/Stage 1/)).not.toContain("Then");
});
