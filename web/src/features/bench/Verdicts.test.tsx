import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import type { Answer } from "../../api/types";
import { drawn } from "../../testing";
import type { Workbench } from "../../workbench/workbench";
import { Verdicts } from "./Verdicts";

const verdict = (id: string, severity: string, fix: object | null = null) => ({
  id,
  part: "motor",
  title: `Title of ${id}`,
  severity,
  why: `Why ${id}.`,
  fix,
});

const ANSWER = {
  warnings: [{ where: "motor.resistance_ohm", what: "is a thousand times more than usual" }],
  verdicts: [
    verdict("volts", "stop", { say: "11 cells in series", change: { "battery.series": 11 } }),
    verdict("heat", "watch"),
    verdict("amps", "ok"),
    verdict("rpm", "ok"),
  ],
  not_judged: [{ id: "erpm", part: "controller", say: "No highest rpm is stated." }],
} as unknown as Answer;

afterEach(cleanup);

function told(answer = ANSWER) {
  const [act, onOpen] = [vi.fn(), vi.fn()];
  drawn(<Verdicts bench={{ act } as unknown as Workbench} answer={answer} onOpen={onOpen} />);
  return { act, onOpen };
}

test("what is pressing stands first, what is fine is folded away", () => {
  told();
  expect(screen.getByText("1 to stop for, 1 to watch, 2 fine")).toBeTruthy();
  const words = screen.getByRole("list", { name: "All verdicts" }).textContent ?? "";
  const places = ["Unusual value", "Title of volts", "Title of heat", "2 fine", "1 not judged"].map(
    (one) => words.indexOf(one),
  );
  expect(places).toEqual([...places].sort((a, b) => a - b));
  expect(Math.min(...places)).toBeGreaterThan(-1);
  expect(screen.getByText("2 fine").closest("details")?.open).toBe(false);
  // The usual caution stands below every list of verdicts.
  expect(words).toContain("Local law, event rules and licensed trades come first.");
});

test("a cure is one press", async () => {
  const { act } = told();
  await userEvent.click(screen.getByRole("button", { name: "11 cells in series" }));
  expect(act).toHaveBeenCalledWith({ do: "set", values: { "battery.series": 11 } });
});

test("what can't be judged names what is missing and opens it", async () => {
  const { onOpen } = told();
  await userEvent.click(screen.getByText("1 not judged"));
  await userEvent.click(screen.getByRole("button", { name: "Fill it in" }));
  expect(onOpen).toHaveBeenCalledWith("controller");
});

test("where nothing presses, what is fine stands open", () => {
  const fine = ANSWER.verdicts.filter((one) => one.severity === "ok");
  told({ ...ANSWER, warnings: [], verdicts: fine, not_judged: [] });
  expect(screen.getByText("2 fine", { selector: "p" })).toBeTruthy();
  expect(screen.getByText("2 fine", { selector: "summary" }).closest("details")?.open).toBe(true);
});
