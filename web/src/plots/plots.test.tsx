import { render } from "@testing-library/react";
import { scaleLinear, scaleLog } from "d3-scale";
import { expect, test } from "vitest";
import { unitOf } from "../units/quantities";
import { Axes } from "./Axes";
import { pushPlot } from "./push";

const MARGIN = { left: 40, right: 10, top: 10, bottom: 30 };
const plot = (speed = {}) =>
  pushPlot({
    fastest: 10,
    hardest: 400,
    speed: unitOf("speed", speed),
    force: unitOf("force", {}),
    width: 450,
    height: 240,
    margin: MARGIN,
  });

const lettered = (axes: React.ReactElement) => {
  const { container, unmount } = render(<svg aria-hidden="true">{axes}</svg>);
  const found = [...container.querySelectorAll("text")].map((one) => ({
    text: one.textContent,
    x: Number(one.getAttribute("x")),
    y: Number(one.getAttribute("y")),
  }));
  const lines = container.querySelectorAll("line").length;
  unmount();
  return { found, lines };
};

test("a plot of push is as wide as its margins leave, whatever the unit", () => {
  for (const speed of [{}, { speed: "mph" }, { speed: "m/s" }]) {
    const { px, py } = plot(speed);
    expect([px(0), px(10), py(0), py(400)]).toEqual([40, 440, 210, 10]);
    expect(px(5)).toBeCloseTo(240, 9);
  }
});

test("a curve goes through its points in order", () => {
  expect(plot().path([0, 5, 10], [400, 200, 0])).toBe("M40,10L240,110L440,210");
  expect(plot().path([], [])).toBe("");
});

test("axes are lettered in the unit of their scales, the last value with its sign", () => {
  const { x, y } = plot();
  const { found, lines } = lettered(<Axes x={x} y={y} sign="km/h" />);
  // 10 m/s are 36 km/h; 400 N in four steps.
  const across = found.filter((one) => one.y > 220);
  expect(across.map((one) => one.text)).toEqual([
    "0",
    "5",
    "10",
    "15",
    "20",
    "25",
    "30",
    "35 km/h",
  ]);
  const up = found.filter((one) => one.y <= 214);
  expect(up.map((one) => one.text)).toEqual(["0", "100", "200", "300", "400"]);
  expect(lines).toBe(5);
  expect(across[2]?.x).toBeCloseTo(40 + (400 * 10) / 36, 9);
});

test("a scale may bring its own ticks, and thousands are told apart", () => {
  const x = scaleLog([1, 100], [0, 200]);
  const y = scaleLinear([0, 4000], [100, 0]);
  const { found } = lettered(<Axes x={x} y={y} xTicks={[1, 10, 100]} />);
  expect(found.filter((one) => one.y > 110).map((one) => [one.text, one.x])).toEqual([
    ["1", 0],
    ["10", 100],
    ["100", 200],
  ]);
  expect(found.map((one) => one.text)).toContain("4,000");
});
