import { describe, expect, test } from "vitest";
import { chosen, deserved, difference, digits, rounded, shown, typed } from "./format";
import { documentUnit, imperialChoice, QUANTITIES, toShown, toStored, unitOf } from "./quantities";

describe("numbers are shown with the digits they deserve", () => {
  test.each([
    [36.78966, 3, "36.8"],
    [3071.389, 4, "3,071"],
    [0.03712, 2, "0.037"],
    [999.96, 3, "1,000"],
    [0, 3, "0"],
    [2246.6, 3, "2,247"],
    [Number.NaN, 3, "–"],
  ])("%d with %d digits", (value, significant, text) => {
    expect(digits(value, significant)).toBe(text);
  });

  test("what somebody chose gets no digits added", () => {
    expect([chosen(8), chosen(63.5), chosen(0.1 + 0.2), chosen(1830)]).toEqual([
      "8",
      "63.5",
      "0.3",
      "1,830",
    ]);
  });
});

describe("differences", () => {
  test("carry their sign and as many decimals as the figure", () => {
    expect(difference(38.92, 36.79)).toBe("+2.1");
    expect(difference(36.79, 38.92)).toBe("−2.1");
  });

  test("that would read as nothing are not shown", () => {
    expect(difference(36.79, 36.79)).toBeNull();
    expect(difference(36.7901, 36.79)).toBeNull();
    expect(difference(0, 0)).toBeNull();
  });
});

describe("typed numbers", () => {
  test.each([
    ["0.045", 0.045],
    ["0,045", 0.045],
    ["1,830", 1830],
    ["1,830.5", 1830.5],
    [" 12 ", 12],
    ["-4", -4],
    ["−4", -4],
    ["1e3", 1000],
    [".5", 0.5],
  ])("%s", (text, value) => {
    expect(typed(text)).toBe(value);
  });

  test.each(["", "soft", "12 V", "1.2.3", "1e999", "--2", "Infinity"])("%s is none", (text) => {
    expect(typed(text)).toBeNull();
  });
});

describe("units", () => {
  // NIST SP 811 (from memory).
  test.each([
    ["speed", 10, 22.3694],
    ["mass", 1, 2.20462],
    ["length", 25.4, 1],
    ["torque", 1, 0.737562],
    ["force", 1, 0.224809],
    ["temperature", 100, 212],
    ["ground", 1, 3.28084],
  ] as const)("%s in imperial", (quantity, stored, imperial) => {
    const unit = unitOf(quantity, imperialChoice());
    expect(toShown(stored, unit)).toBeCloseTo(imperial, 4);
  });

  test("every unit goes there and back", () => {
    for (const quantity of Object.values(QUANTITIES)) {
      for (const unit of quantity.units) {
        expect(toStored(toShown(123.456, unit), unit)).toBeCloseTo(123.456, 8);
      }
    }
  });

  test("a document's km/h is not multiplied twice", () => {
    expect(toShown(18, documentUnit("km/h", {}))).toBeCloseTo(18, 12);
    expect(toShown(18, documentUnit("km/h", { speed: "mph" }))).toBeCloseTo(11.1847, 4);
    expect(toShown(5, documentUnit("m/s", { speed: "km/h" }))).toBeCloseTo(18, 12);
  });

  test("what documents and answers hold follows the choice, whatever its unit is called", () => {
    // NIST SP 811: 1.609344 km, 4.4482216 N; so 100 km are 62.137 mi and 100 N are 22.481 lbf.
    expect(toShown(100, documentUnit("km", { distance: "mi" }))).toBeCloseTo(62.137, 3);
    expect(toShown(100, documentUnit("N", { force: "lbf" }))).toBeCloseTo(22.481, 3);
    expect(toShown(10, documentUnit("Wh/km", { use: "Wh/mi" }))).toBeCloseTo(16.0934, 4);
    expect(documentUnit("km", { distance: "mi" }).sign).toBe("mi");
  });

  test("units without a choice keep their sign", () => {
    // A foot-pound is 1.3558 N.m.
    expect(toShown(8.53, documentUnit("N.m", { torque: "lb-ft" }))).toBeCloseTo(6.291, 3);
    expect(documentUnit("N.m/A", { torque: "lb-ft" }).sign).toBe("lb-ft/A");
    expect(documentUnit("mohm", {}).sign).toBe("mΩ");
    expect(shown(10.219, "speed", {})).toEqual({ text: "36.8", sign: "km/h" });
  });
});

describe("a figure shows as many digits as its doubt leaves it", () => {
  // To the second digit of the half width (JCGM 100:2008, 7.2.6): 241 of 893 leaves the tens.
  test.each([
    [893.2, [652, 893, 1134], 3, "890"],
    [36.78, [33.5, 36.8, 40.1], 3, "36.8"],
    [3071, [2800, 3071, 3350], 4, "3,070"],
    [36.78, [36.7, 36.8, 36.9], 3, "36.8"],
    [0.0371, [0.02, 0.037, 0.06], 3, "0.037"],
    [12.3, [1, 12, 40], 3, "12"],
    [4, [0, 40, 900], 3, "4"],
    [36.78, [null, 36.8, 40], 3, "36.8"],
    [36.78, undefined, 3, "36.8"],
    [0, [-1, 0, 1], 3, "0"],
  ] as const)("%d in %j", (value, band, most, text) => {
    expect(rounded(value, deserved(value, band, most))).toBe(text);
  });
});
