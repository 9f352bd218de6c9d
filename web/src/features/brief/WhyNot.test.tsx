import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import type { ShelfNames } from "../../api/types";
import { drawn, serverAnswers } from "../../testing";
import { WhyNot } from "./WhyNot";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const SHELF = {
  motors: [{ id: "m", name: "Millrace 80" }],
  controllers: [{ id: "c", name: "Sallow 60" }],
  packs: [{ id: "p", name: "Reed 10S" }],
  propellers: [{ id: "w", name: "Sallow 9x6" }],
} as unknown as ShelfNames;

async function asked(answer: object) {
  const sent = serverAnswers(() => ({ data: { answer } }));
  drawn(<WhyNot matchId="match" shelf={SHELF} craft={false} />);
  const ask = screen.getByRole("button", { name: "Ask" });
  expect(ask).toHaveProperty("disabled", true);
  await userEvent.selectOptions(screen.getByLabelText("motor"), "m");
  await userEvent.selectOptions(screen.getByLabelText("pack"), "p");
  await userEvent.click(ask);
  expect(sent[0]).toMatchObject({
    params: { match_id: "match" },
    body: { motor: "m", battery: "p" },
  });
}

test("what does is told with how many combinations and the best of them", async () => {
  await asked({ feasible: 1234, best: { ratio: 8.25 }, relaxed: [], reasons: [] });
  expect(await screen.findByText(/1,234 combinations with it meet the brief/)).toHaveProperty(
    "textContent",
    "It does: 1,234 combinations with it meet the brief, the best geared 8.25 to 1.",
  );
});

test("what does not is told by the wish that would let it through", async () => {
  const relaxed = [{ wish: "budget", say: "Costs at most: 640 instead of 600 would do." }];
  await asked({ feasible: 0, best: null, relaxed, reasons: [{ id: "x", say: "y", share: 1 }] });
  expect(await screen.findByText("Costs at most: 640 instead of 600 would do.")).toBeTruthy();
  expect(screen.queryByText(/No single wish/)).toBeNull();
});

test("where no single wish is enough the first reasons are told, four at most", async () => {
  const reasons = ["a", "b", "c", "d", "e"].map((id) => ({ id, say: `because ${id}`, share: 0.2 }));
  await asked({ feasible: 0, best: null, relaxed: [], reasons });
  expect(await screen.findByText(/No single wish given up/)).toBeTruthy();
  expect(screen.getAllByText(/because/).map((one) => one.textContent)).toEqual([
    "because a (20 %)",
    "because b (20 %)",
    "because c (20 %)",
    "because d (20 %)",
  ]);
});

test("another choice takes the old answer away", async () => {
  await asked({ feasible: 0, best: null, relaxed: [], reasons: [] });
  expect(await screen.findByText("Nothing with it meets the brief.")).toBeTruthy();
  await userEvent.selectOptions(screen.getByLabelText("motor"), "");
  expect(screen.queryByText("Nothing with it meets the brief.")).toBeNull();
});
