import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { DoubtAnswer } from "../../../api/types";
import { drawn } from "../../../testing";
import { HowSure } from "./HowSure";

const KV = {
  path: "motor.kv_rpm_per_v",
  label: "KV",
  origin: "data_sheet",
  tolerance_pct: 10,
  share: 0.7,
  width_left: 0.55,
  how: "Spin it and count.",
};

const figure = (value: number | null, band: (number | null)[], weakest: object[] = []) => ({
  value,
  band,
  weakest,
});

const DOUBT = {
  figures: {
    top_speed_kmh: figure(36, [33, 36, 40], [KV]),
    launch_s: figure(3, [2.8, 3, null], [{ ...KV, share: 0.05 }]),
    range_km: figure(50, [44, 50, 57]),
  },
  measure_next: KV,
} as unknown as DoubtAnswer;

beforeEach(() => localStorage.clear());
afterEach(cleanup);

const rowOf = (name: RegExp) => screen.getByRole("row", { name }).textContent;

test("what to measure next says how, how much it is off, and what it would narrow", async () => {
  const onOpen = vi.fn();
  drawn(<HowSure doubt={DOUBT} loadFactor={null} onOpen={onOpen} />);
  expect(screen.getByText(/Spin it and count/).textContent).toBe(
    "Spin it and count. It is from a data sheet, ±10 %; measured, it leaves 55 % of the width (top speed).",
  );
  await userEvent.click(screen.getByRole("button", { name: "Fill it in" }));
  expect(onOpen).toHaveBeenCalledWith("motor");
});

test("a band is drawn and read out, one that ends in never is said", () => {
  drawn(<HowSure doubt={DOUBT} loadFactor={null} onOpen={() => {}} />);
  expect(screen.getByRole("img", { name: "33.0 to 40.0" })).toBeTruthy();
  expect(rowOf(/Acceleration/)).toContain("not in every case");
  expect(rowOf(/Top speed/)).toContain("KV 70 %");
  expect(rowOf(/Range/)).toContain("nothing stands out");
});

test("bands follow the units that are chosen", () => {
  localStorage.setItem("young-torrent.units", JSON.stringify({ speed: "mph", distance: "mi" }));
  drawn(<HowSure doubt={DOUBT} loadFactor={0.12} onOpen={() => {}} />);
  // 33 and 40 km/h are 20.5 and 24.9 mph, 44 and 57 km are 27.3 and 35.4 mi.
  expect(screen.getByRole("img", { name: "20.5 to 24.9" })).toBeTruthy();
  expect(screen.getByRole("img", { name: "27.3 to 35.4" })).toBeTruthy();
  expect(screen.getByText("12 %")).toBeTruthy();
});

test("where every input is measured nothing is asked for", () => {
  drawn(<HowSure doubt={{ ...DOUBT, measure_next: null }} loadFactor={null} onOpen={() => {}} />);
  expect(screen.getByText(/No guess stands out/)).toBeTruthy();
  expect(screen.queryByRole("button")).toBeNull();
});
