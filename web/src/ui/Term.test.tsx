import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test } from "vitest";
import { Term } from "./Term";
import { TERMS } from "./terms";

afterEach(cleanup);

test("a term explains itself on focus and at a press, and says how it is measured", async () => {
  render(<Term id="kv">KV of it</Term>);
  expect(screen.queryByRole("tooltip")).toBeNull();
  await userEvent.tab();
  const told = await screen.findByRole("tooltip");
  expect(told.textContent).toContain("rpm for each volt");
  expect(told.textContent).toContain("Measured: Spin it with a drill");
});

test("every term has all four of its parts, and no two are called the same", () => {
  const all = Object.values(TERMS);
  for (const one of all) {
    expect(one.term).not.toBe("");
    expect(one.beside).not.toBe("");
    expect(one.means).toMatch(/^[A-Z].{15,}\.$/);
    expect(one.measure).toMatch(/^[A-Z].{5,}\.$/);
  }
  expect(new Set(all.map((one) => one.term)).size).toBe(all.length);
});
