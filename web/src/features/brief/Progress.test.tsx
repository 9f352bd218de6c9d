import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import type { MatchProgress } from "../../api/types";
import { drawn } from "../../testing";
import { Progress } from "./Progress";

afterEach(cleanup);

const match = (state: string, more = {}) =>
  ({
    id: "m",
    state,
    considered: 8_000_000,
    to_solve: 4000,
    solved: 1000,
    feasible: 0,
    problem: "",
    ...more,
  }) as unknown as MatchProgress;

const told = (of: MatchProgress | undefined) => {
  const [onCancel, onAgain] = [vi.fn(), vi.fn()];
  drawn(<Progress match={of} onCancel={onCancel} onAgain={onAgain} />);
  return { words: screen.getByRole("status").textContent, onCancel, onAgain };
};

test.each([
  [undefined, "Going to the shelf"],
  [match("waiting"), "Going to the shelf"],
  [match("running"), "8,000,000 combinations on the shelf: none does so far"],
  [match("running", { feasible: 3 }), "8,000,000 combinations on the shelf: 3 do so far"],
  [
    match("cancelled", { feasible: 3 }),
    "Stopped early. Of 8,000,000 combinations on the shelf 3 do so far.",
  ],
  [match("done"), "None of the 8,000,000 combinations on the shelf does all of this."],
  [
    match("done", { feasible: 12 }),
    "12 of the 8,000,000 combinations on the shelf do all of this.",
  ],
  [match("failed", { problem: "Three times over." }), "The search failed. Three times over."],
])("it says how far a search is (%#)", (of, words) => {
  expect(told(of).words).toBe(words);
});

test("a search that runs shows its share and can be stopped", async () => {
  const { onCancel } = told(match("running"));
  expect(screen.getByRole("progressbar")).toHaveProperty("value", 0.25);
  await userEvent.click(screen.getByRole("button", { name: "Stop searching" }));
  expect(onCancel).toHaveBeenCalledOnce();
});

test("one that has not begun can't be stopped, one that was stopped can be begun again", async () => {
  told(undefined);
  expect(screen.getByRole("button", { name: "Stop searching" })).toHaveProperty("disabled", true);
  cleanup();
  const { onAgain } = told(match("cancelled"));
  expect(screen.queryByRole("progressbar")).toBeNull();
  await userEvent.click(screen.getByRole("button", { name: "Search again" }));
  expect(onAgain).toHaveBeenCalledOnce();
  cleanup();
  told(match("done"));
  expect(screen.queryByRole("button")).toBeNull();
});
