import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test } from "vitest";
import { drawn } from "../testing";
import { keysAreOn } from "../ui/keys";
import { useUnits } from "../units/preferences";
import { useValue } from "../units/useValue";
import { Settings } from "./Settings";

function Page() {
  const value = useValue();
  return (
    <>
      <Settings />
      <p data-testid="shown">
        {value(100, "km/h")}; {value(50, "kg")}; {value(20, "C")}; {value(null, "kg")}
      </p>
    </>
  );
}

function Priced() {
  const { money } = useUnits();
  return <p data-testid="price">{[615.4, 4.2].map(money).join("; ")}</p>;
}

const shown = () => screen.getByTestId("shown").textContent;
const choose = async (name: string) => {
  await userEvent.click(screen.getByRole("button", { name: /Units and theme/ }));
  await userEvent.click(screen.getByRole("button", { name }));
};

beforeEach(() => {
  localStorage.clear();
  document.documentElement.removeAttribute("data-theme");
});
afterEach(cleanup);

test("every figure follows the units that are chosen, now and at the next visit", async () => {
  drawn(<Page />);
  expect(shown()).toBe("100 km/h; 50.0 kg; 20.0 °C; –");
  await choose("Imperial");
  // NIST SP 811: 1.609344 km to the mile, 0.45359237 kg to the pound.
  expect(shown()).toBe("62.1 mph; 110 lb; 68.0 °F; –");
  cleanup();
  drawn(<Page />);
  expect(shown()).toBe("62.1 mph; 110 lb; 68.0 °F; –");
});

test("one unit can be chosen by itself", async () => {
  drawn(<Page />);
  await userEvent.click(screen.getByRole("button", { name: /Units and theme/ }));
  await userEvent.selectOptions(screen.getByLabelText("Temperature"), "F");
  expect(shown()).toBe("100 km/h; 50.0 kg; 68.0 °F; –");
});

test("day and night are kept", async () => {
  drawn(<Page />);
  await choose("Night");
  expect(screen.getByRole("button", { name: "Night" }).getAttribute("aria-pressed")).toBe("true");
  const kept = JSON.stringify({ ...localStorage });
  expect(kept).toContain("dark");
});

test("money has the sign that was typed, whichever units are chosen", async () => {
  drawn(
    <>
      <Settings />
      <Priced />
    </>,
  );
  const price = () => screen.getByTestId("price").textContent;
  expect(price()).toBe("615; 4.20");
  await userEvent.click(screen.getByRole("button", { name: /Units and theme/ }));
  await userEvent.type(screen.getByLabelText("Money"), "kr");
  expect(price()).toBe("615 kr; 4.20 kr");
  await userEvent.click(screen.getByRole("button", { name: "Imperial" }));
  expect(price()).toBe("615 kr; 4.20 kr");
  await userEvent.clear(screen.getByLabelText("Money"));
  await userEvent.type(screen.getByLabelText("Money"), "¤");
  expect(price()).toBe("¤615; ¤4.20");
});

test("letters can be kept from doing anything, and that is remembered", async () => {
  drawn(<Page />);
  await userEvent.click(screen.getByRole("button", { name: /Units and theme/ }));
  await userEvent.click(screen.getByLabelText(/Single letters/));
  expect(keysAreOn()).toBe(false);
  await userEvent.click(screen.getByLabelText(/Single letters/));
  expect(keysAreOn()).toBe(true);
});
