import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { PartsTable } from "../../api/types";
import { drawn } from "../../testing";
import { differing, PartsView } from "./PartsView";

const row = (id: string, more = {}) => ({
  id,
  name: `Motor ${id}`,
  own: false,
  values: [790, 0.5, null],
  origins: ["data_sheet", "estimated", ""],
  asked: [true, true, true],
  unfit: null,
  ...more,
});

const TABLE = {
  kind: "motors",
  columns: [
    { path: "motor.kv_rpm_per_v", label: "Turns", unit: "rpm/V" },
    { path: "motor.mass_kg", label: "Mass", unit: "kg" },
    { path: "motor.poles", label: "Poles", unit: "" },
  ],
  rows: [
    row("a", { values: [790, 0.5, null] }),
    row("b", { values: [800, 0.6, null], unfit: "It turns too fast.", own: true }),
    row("c", { values: [790, 0.5, 14], asked: [true, true, false] }),
  ],
  total: 3,
} as unknown as PartsTable;

const given = () => ({
  table: TABLE,
  sort: "motor.mass_kg",
  falling: true,
  onSort: vi.fn(),
  beside: ["a"],
  onBeside: vi.fn(),
  onOpen: vi.fn(),
});

beforeEach(() => localStorage.clear());
afterEach(cleanup);

test("a table marks its gaps, its guesses and what fits", () => {
  drawn(<PartsView {...given()} wide asksFit />);
  const rows = screen.getAllByRole("row").map((one) => one.textContent);
  expect(rows.slice(1)).toEqual([
    "Motor ayes7900.5 (estimated)·not said",
    "Motor bownno It turns too fast.8000.6 (estimated)·not said",
    "Motor cyes7900.5 (estimated)14",
  ]);
  const sorted = screen.getByRole("columnheader", { name: /Mass/ });
  expect(sorted.getAttribute("aria-sort")).toBe("descending");
});

test("heads sort, names open, and ticks lay parts side by side", async () => {
  const props = given();
  drawn(<PartsView {...props} wide asksFit={false} />);
  await userEvent.click(screen.getByRole("button", { name: /Turns/ }));
  expect(props.onSort).toHaveBeenCalledWith("motor.kv_rpm_per_v");
  await userEvent.click(screen.getByRole("button", { name: "Motor b" }));
  expect(props.onOpen).toHaveBeenCalledWith("b");
  await userEvent.click(screen.getByLabelText("Side by side: Motor b"));
  expect(props.onBeside).toHaveBeenCalledWith("b");
  expect(screen.queryByRole("columnheader", { name: "Fits" })).toBeNull();
});

test("five side by side are enough; one of them can be taken out", () => {
  const props = { ...given(), beside: ["a", "1", "2", "3", "4"] };
  drawn(<PartsView {...props} wide asksFit={false} />);
  expect(screen.getByLabelText("Side by side: Motor a")).toHaveProperty("disabled", false);
  expect(screen.getByLabelText("Side by side: Motor b")).toHaveProperty("disabled", true);
});

test("where there is no room for a table each part is a card with the same figures", () => {
  localStorage.setItem("young-torrent.units", JSON.stringify({ mass: "lb" }));
  drawn(<PartsView {...given()} wide={false} asksFit />);
  expect(screen.queryByRole("table")).toBeNull();
  const [first] = screen.getAllByRole("listitem");
  // Half a kilogram is 1.102 lb (NIST SP 811).
  expect((first as HTMLElement).textContent).toMatch(
    /^Motor a Turns790 rpm\/VMass1\.102\d* lbnot said: polesyes$/,
  );
});

test("what all say alike is said once, above, and takes no column", () => {
  const rows = [row("a", { values: [790, 0.5, 14] }), row("b", { values: [900, 0.5, null] })];
  const table = { ...TABLE, rows } as PartsTable;
  expect(differing(table)).toEqual({ shown: [0, 2], alike: [1] });
  drawn(<PartsView {...given()} table={table} wide asksFit={false} />);
  expect(screen.getByText("Alike for all of them: mass 0.5 kg.")).toBeTruthy();
  expect(screen.queryByRole("columnheader", { name: /Mass/ })).toBeNull();
  // One alone has nothing to be like.
  expect(differing({ ...table, rows: rows.slice(1) } as PartsTable).alike).toEqual([]);
});
