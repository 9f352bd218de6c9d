import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { drawn } from "../testing";
import type { BenchState, Workbench } from "../workbench/workbench";
import { Notices } from "./Notices";

afterEach(cleanup);

const QUIET: Partial<BenchState> = {
  conflict: null,
  trouble: null,
  saving: "saved",
  refused: null,
  notice: null,
  changes: [],
};

function told(state: Partial<BenchState>, open: string[] = []) {
  const bench = {
    keepMine: vi.fn(),
    takeTheirs: vi.fn(async () => {}),
    keepBoth: vi.fn(async () => {}),
    clearRefusal: vi.fn(),
    clearNotice: vi.fn(),
  };
  const { container } = drawn(
    <Notices
      bench={bench as unknown as Workbench}
      state={{ ...QUIET, ...state } as BenchState}
      open={open}
    />,
  );
  return { bench, text: container.textContent ?? "" };
}

const press = (name: string) => userEvent.click(screen.getByRole("button", { name }));

test("a conflict names where the own change is kept, and asks which should stand", async () => {
  const { bench, text } = told({ conflict: { kept: 7, head: 8 } });
  expect(text).toContain("Your change is kept as version 7.");
  await press("Mine");
  await press("The other");
  await press("Both: mine as a build of its own");
  expect(bench.keepMine).toHaveBeenCalledOnce();
  expect(bench.takeTheirs).toHaveBeenCalledOnce();
  expect(bench.keepBoth).toHaveBeenCalledOnce();
});

test("a conflict comes before everything else, trouble before what waits", () => {
  const trouble = "The engine does not answer; trying again.";
  expect(told({ conflict: { kept: null, head: 2 }, trouble }).text).not.toContain("engine");
  cleanup();
  expect(told({ trouble, saving: "waiting" }).text).toBe(`${trouble} What you did is kept here.`);
  cleanup();
  expect(told({ saving: "waiting" }).text).toContain("you can go on");
});

test("a refusal is told here unless its own input is open and tells it", async () => {
  const refused = { where: "motor.resistance_ohm", what: "is below anything possible" };
  const { bench, text } = told({ refused });
  expect(text).toContain("motor.resistance_ohm is below anything possible.");
  await press("Understood");
  expect(bench.clearRefusal).toHaveBeenCalledOnce();
  cleanup();
  expect(told({ refused }, ["motor"]).text).toBe("");
});

test("the last thing done is said to who can't see it", () => {
  const change = {
    path: "battery.series",
    label: "Cells in series",
    unit: "",
    before: 13,
    after: 14,
  };
  const { text } = told({ changes: [change, { ...change, label: "Note", before: null }] as never });
  expect(text).toBe("Cells in series 13 → 14; Note none → 14");
});
