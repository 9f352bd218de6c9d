import { cleanup, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, test } from "vitest";
import type { CompareAnswer } from "../../api/types";
import { drawn } from "../../testing";
import { Rows } from "./Rows";

afterEach(cleanup);
beforeEach(() => localStorage.clear());

const row = (id: string, label: string, more = {}) => ({
  id,
  of: "ride",
  label,
  unit: "",
  better: "less",
  values: [0, 2],
  notes: ["", ""],
  bands: [null, null],
  ...more,
});

const LONG = "The hill can't be climbed. The motor carries 164 % of its continuous rating";

const ANSWER = {
  candidates: [{ name: "Punt" }, { name: "Barrow" }],
  rows: [
    row("mass", "Mass of one", { of: "motor", unit: "kg", values: [2, 4], notes: ["", "a guess"] }),
    row("speed", "Top speed", {
      unit: "km/h",
      better: "more",
      values: [30, null],
      notes: ["", "can't be held"],
      bands: [[28, 30, 32], null],
    }),
    row("stops", "Limits passed", { notes: ["", LONG] }),
  ],
} as unknown as CompareAnswer;

describe("the table", () => {
  const lines = () => screen.getAllByRole("row").map((one) => one.textContent);

  test("goes by what a builder compares: bands, words for gaps, better and worse than the first", () => {
    drawn(<Rows answer={ANSWER} />);
    expect(lines()).toEqual([
      "A PuntB Barrow",
      "Motor",
      "Mass of onekg2.004.00▼worsea guess",
      "What it does",
      "Top speedkm/h30.028.0 to 32.0can't be held",
      `Limits passed02▼worse${LONG}`,
    ]);
  });

  test("follows the units that are chosen", () => {
    localStorage.setItem("young-torrent.units", JSON.stringify({ mass: "lb", speed: "mph" }));
    drawn(<Rows answer={ANSWER} />);
    // 2 and 4 kg are 4.41 and 8.82 lb; 28, 30 and 32 km/h 17.4, 18.6 and 19.9 mph.
    expect(lines()[2]).toBe("Mass of onelb4.418.82▼worsea guess");
    expect(lines()[4]).toBe("Top speedmph18.617.4 to 19.9can't be held");
  });
});
