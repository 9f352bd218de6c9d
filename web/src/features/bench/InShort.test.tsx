import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import type { Answer } from "../../api/types";
import { drawn } from "../../testing";
import { InShort } from "./InShort";

afterEach(cleanup);

const LINE = [
  { words: "", value: 36.84, unit: "km/h", leads: "top_speed" },
  { words: " on the flat, " },
  { words: "", value: 17.4, unit: "km/h", leads: "climb" },
  { words: " up your 9 % hill for " },
  { words: "", value: 132, unit: "s", leads: "climb" },
  { words: ", until the winding is too hot; " },
  { words: "what stops it", leads: "verdicts" },
  { words: ": the motor carries 163 % of its continuous rating" },
];

test("the line is read as one, and each figure opens what it is from", async () => {
  const onMoment = vi.fn();
  const onVerdicts = vi.fn();
  const answer = { in_short: LINE } as unknown as Answer;
  const { container } = drawn(
    <InShort answer={answer} onMoment={onMoment} onVerdicts={onVerdicts} />,
  );
  expect(container.textContent).toBe(
    "37 km/h on the flat, 17 km/h up your 9 % hill for 2.2 min, until the winding is too hot; what stops it: the motor carries 163 % of its continuous rating.",
  );
  await userEvent.click(screen.getByRole("button", { name: "17 km/h" }));
  expect(onMoment).toHaveBeenLastCalledWith("climb");
  await userEvent.click(screen.getByRole("button", { name: "37 km/h" }));
  expect(onMoment).toHaveBeenLastCalledWith("top_speed");
  await userEvent.click(screen.getByRole("button", { name: "what stops it" }));
  expect(onVerdicts).toHaveBeenCalledOnce();
});
