import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { LadderAnswer, Rung } from "../../api/types";
import { drawn, serverAnswers } from "../../testing";
import { forgetTicks } from "../../workbench/plan";
import { Plan } from "./Plan";

const rung = (driver: number, speed: number) =>
  ({
    teeth: [[driver, 60]],
    ratio: 60 / driver,
    figures: { top_speed_kmh: speed },
    stopped: null,
    change: { "gearing.0.driver_teeth": driver },
  }) as unknown as Rung;

const answer = (drivers: number[], say = "") =>
  ({
    present: rung(16, 36),
    say,
    limits: { winding_c: 105, case_c: 65 },
    plan: drivers.map((driver, at) => ({
      rung: rung(driver, 34 + 2 * at),
      say: `Step ${driver}`,
      stop_case_c: 65,
      expect_case_c: 30 + at,
    })),
  }) as unknown as LadderAnswer;

const ticked = () =>
  screen.getAllByRole("checkbox").map((box) => (box as HTMLInputElement).checked);

const B = { id: "b", ticks: {} };

beforeEach(() => {
  localStorage.clear();
  forgetTicks();
  serverAnswers(() => ({ data: null }));
});
afterEach(cleanup);

test("each step says what to expect and when to stop, and sets its teeth", async () => {
  const onSet = vi.fn();
  drawn(<Plan answer={answer([15, 16])} build={B} onSet={onSet} />);
  expect(screen.getByText("34.0 km/h, case expected at 30 °C; stop at 65 °C")).toBeTruthy();
  await userEvent.click(screen.getByRole("button", { name: "Set it: 16 to 60" }));
  expect(onSet.mock.calls[0]?.[0].change).toEqual({ "gearing.0.driver_teeth": 16 });
});

test("ticks stay with their build and their teeth, wherever the step stands in the plan", async () => {
  drawn(<Plan answer={answer([15, 16, 17])} build={B} onSet={() => {}} />);
  await userEvent.click(screen.getByLabelText(/Step 16/));
  expect(screen.getByText("1 of 3 ridden.")).toBeTruthy();
  cleanup();
  drawn(<Plan answer={answer([16, 17])} build={B} onSet={() => {}} />);
  expect(ticked()).toEqual([true, false]);
  cleanup();
  drawn(<Plan answer={answer([16, 17])} build={{ id: "other", ticks: {} }} onSet={() => {}} />);
  expect(ticked()).toEqual([false, false]);
});

test("a tick is taken back, and a store that holds nonsense is an empty one", async () => {
  localStorage.setItem("young-torrent.plan.done.b", "{not a list");
  drawn(<Plan answer={answer([16])} build={B} onSet={() => {}} />);
  const box = screen.getByRole("checkbox");
  await userEvent.click(box);
  await userEvent.click(box);
  expect(ticked()).toEqual([false]);
  expect(screen.getByText("0 of 1 ridden.")).toBeTruthy();
});

test("without a step it says which part the nearest one would overload", () => {
  const say = "Every other rung is worse than the present one; the nearest: the winding.";
  drawn(<Plan answer={answer([], say)} build={B} onSet={() => {}} />);
  expect(screen.getByText(say)).toBeTruthy();
  expect(screen.queryByRole("checkbox")).toBeNull();
});
