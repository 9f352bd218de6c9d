import { cleanup, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { drawn, serverAnswers } from "../../testing";
import { PasteListing } from "./PasteListing";

const asked = (path: string, label: string, unit: string, guess: number | null, needed = true) => ({
  needed,
  path,
  label,
  unit,
  guess,
  options: [],
  why: guess === null ? "" : "that of like cans",
  explain: "",
});

const LISTING = {
  kind: "motors",
  document: { name: "Motor of 35 by 48", motor: { kind: "permanent_magnet", kv_rpm_per_v: 790 } },
  understood: [
    {
      path: "motor.kv_rpm_per_v",
      label: "Turns",
      unit: "rpm/V",
      value: 790,
      words: "790 KV",
      note: "",
    },
    { path: "motor.shaft_mm", label: "Shaft", unit: "mm", value: 5, words: "5 mm shaft", note: "" },
    {
      path: "motor.rated_cells",
      label: "Cells",
      unit: "",
      value: [3, 6],
      words: "3S-6S",
      note: "",
    },
  ],
  unread: ["smooth as butter"],
  asked: [
    asked("motor.resistance_ohm", "Resistance", "ohm", 0.04),
    asked("motor.mass_kg", "Mass", "kg", null),
  ],
};

let sent: ReturnType<typeof serverAnswers>;
const onAdded = vi.fn();

beforeEach(() => {
  localStorage.clear();
  onAdded.mockReset();
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

async function pasted(refuse = false) {
  sent = serverAnswers((_, one) => {
    if (one.path.endsWith("/read-listing")) return { data: LISTING };
    return refuse
      ? { status: 422, where: "motor.mass_kg", what: "is below anything possible" }
      : { data: { id: "mine" } };
  });
  drawn(<PasteListing onClose={() => {}} onAdded={onAdded} />);
  const box = screen.getByLabelText(/What the shop says/);
  await userEvent.type(box, "3548, 790 KV, smooth as butter");
  await screen.findByText("A motor, as understood", undefined, { timeout: 3000 });
}

const put = () => screen.getByRole("button", { name: "Put it on the shelf" });

test("a line is read back field by field, with what was not understood", async () => {
  await pasted();
  const rows = screen.getAllByRole("listitem").map((row) => row.textContent);
  expect(rows).toEqual(["Turns790 rpm/V“790 KV”", "Shaft5 mm“5 mm shaft”", "Cells3 to 6“3S-6S”"]);
  expect(screen.getByText("Not understood: “smooth as butter”")).toBeTruthy();
  // Asked once it rests, not letter by letter.
  expect(sent.filter((one) => one.path.endsWith("/read-listing")).length).toBeLessThan(10);
});

test("only what is missing is asked, and nothing goes in before that is said", async () => {
  await pasted();
  expect(put()).toHaveProperty("disabled", true);
  expect(screen.getByText("Still asked: resistance, mass")).toBeTruthy();
  await userEvent.click(screen.getByRole("button", { name: "Take the guess 0.04 Ω" }));
  expect(screen.getByText("Still asked: mass")).toBeTruthy();
  await userEvent.type(screen.getByLabelText("Mass"), "0.18{Enter}");
  await userEvent.click(put());
  await waitFor(() => expect(onAdded).toHaveBeenCalledWith("motors", "mine"));
  expect(sent.at(-1)?.body).toMatchObject({
    document: {
      motor: { kv_rpm_per_v: 790, resistance_ohm: 0.04, mass_kg: 0.18 },
      // A guess is marked as one, what the shop said as the data sheet's.
      provenance: {
        "motor.resistance_ohm": { origin: "estimated" },
        "motor.mass_kg": { origin: "data_sheet" },
      },
    },
  });
});

test("what a line likely means is offered and nothing waits for it", async () => {
  LISTING.asked.push(asked("facts.peak_s", "Peak lasts", "s", 30, false));
  try {
    await pasted();
    expect(screen.getByText("It may mean")).toBeTruthy();
    expect(screen.getByText("Still asked: resistance, mass")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Take the guess 0.04 Ω" }));
    await userEvent.type(screen.getByLabelText("Mass"), "0.18{Enter}");
    await userEvent.click(put());
    await waitFor(() => expect(onAdded).toHaveBeenCalled());
    expect(JSON.stringify(sent.at(-1)?.body)).not.toContain("peak_s");
  } finally {
    LISTING.asked.pop();
  }
});

test("a mass that is typed in pounds is kept in kilograms", async () => {
  localStorage.setItem("young-torrent.units", JSON.stringify({ mass: "lb" }));
  await pasted();
  await userEvent.click(screen.getByRole("button", { name: "Take the guess 0.04 Ω" }));
  await userEvent.type(screen.getByLabelText("Mass"), "2{Enter}");
  await userEvent.click(put());
  await waitFor(() => expect(onAdded).toHaveBeenCalled());
  // NIST SP 811: a pound is 0.45359237 kg.
  const body = sent.at(-1)?.body as { document: { motor: { mass_kg: number } } };
  expect(body.document.motor.mass_kg).toBeCloseTo(0.90718474, 8);
});

test("what the server refuses is said and everything typed stays", async () => {
  await pasted(true);
  await userEvent.click(screen.getByRole("button", { name: "Take the guess 0.04 Ω" }));
  await userEvent.type(screen.getByLabelText("Mass"), "-1{Enter}");
  await userEvent.click(put());
  expect(await screen.findByRole("alert")).toHaveProperty(
    "textContent",
    "Not kept: motor.mass_kg is below anything possible",
  );
  expect(onAdded).not.toHaveBeenCalled();
  expect(screen.getByLabelText("Mass")).toHaveProperty("value", "-1");
});
