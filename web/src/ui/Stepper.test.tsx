import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { drawn } from "../testing";
import { Stepper } from "./Stepper";

afterEach(cleanup);

test("buttons and arrow keys press a lever, as far as it goes", async () => {
  const up = vi.fn();
  drawn(<Stepper label="Cells in series" value="13" unit="S" onUp={up} onDown={null} />);
  expect(screen.getByRole("group", { name: "Cells in series, 13 S" })).toBeTruthy();
  const down = screen.getByRole("button", { name: "Cells in series down" });
  expect(down).toHaveProperty("disabled", true);
  await userEvent.click(screen.getByRole("button", { name: "Cells in series up" }));
  await userEvent.keyboard("{ArrowUp}{ArrowDown}{ArrowLeft}");
  expect(up).toHaveBeenCalledTimes(2);
});

test("keys that are not the lever's stay the page's", async () => {
  const seen: boolean[] = [];
  const listen = (event: KeyboardEvent) => seen.push(event.defaultPrevented);
  document.addEventListener("keydown", listen);
  drawn(<Stepper label="Mass" value="195" unit="kg" onUp={() => {}} onDown={null} />);
  screen.getByRole("button", { name: "Mass up" }).focus();
  await userEvent.keyboard("{ArrowUp}{ArrowDown}p");
  document.removeEventListener("keydown", listen);
  // Down is at its end: nothing is pressed, and the page may scroll.
  expect(seen).toEqual([true, false, false]);
});
