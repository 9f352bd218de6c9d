import type { ReactElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { beforeEach, expect, test } from "vitest";
import { UnitsProvider } from "./preferences";
import { Spread } from "./Spread";

const drawn = (what: ReactElement) => renderToStaticMarkup(<UnitsProvider>{what}</UnitsProvider>);

beforeEach(() => localStorage.clear());

test("a band is shown by its ends, in the unit that was chosen", () => {
  expect(drawn(<Spread band={[30, 33, 36]} unit="km/h" />)).toContain("30.0 to 36.0");
  localStorage.setItem("young-torrent.units", JSON.stringify({ speed: "mph", temperature: "F" }));
  // 30 and 36 km/h are 18.64 and 22.37 mph; 40 and 50 C are 104 and 122 F.
  expect(drawn(<Spread band={[30, 33, 36]} unit="km/h" />)).toContain("18.6 to 22.4");
  expect(drawn(<Spread band={[40, 44, 50]} unit="C" />)).toContain("104 to 122");
});

test("nothing is shown of a band that is open, missing or too narrow to tell", () => {
  for (const band of [undefined, null, [30, 33, null], [33.001, 33.002, 33.003]] as const)
    expect(drawn(<Spread band={band as never} unit="km/h" />)).toBe("");
});
