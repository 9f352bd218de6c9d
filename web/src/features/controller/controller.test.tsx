import { cleanup, fireEvent, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import type { Answer, BuildDocument, SettingRow, SheetAnswer } from "../../api/types";
import { drawn, serverAnswers } from "../../testing";
import { Feel } from "./Feel";
import { FirstPower } from "./FirstPower";
import { asText, pathOf, setNow } from "./paths";
import { Sheet } from "./Sheet";

const DOCUMENT = {
  name: "Punt",
  controller: { motor_current_limit_a: 80, timing_deg: 12 },
} as unknown as BuildDocument;

const row = (id: string, value: number | string | null, more = {}): SettingRow =>
  ({
    id,
    label: `The ${id}`,
    value,
    unit: "A",
    why: "Because.",
    below: "Cooler.",
    above: "Hotter.",
    at_most: false,
    offered: null,
    ...more,
  }) as SettingRow;

const onSet = vi.fn();
beforeEach(() => {
  localStorage.clear();
  onSet.mockReset();
});
afterEach(cleanup);

describe("where a setting stands", () => {
  test("in the controller, or in its curve where it has one", () => {
    expect(pathOf("half_throttle_pct", DOCUMENT)).toBe("controller.half_throttle_pct");
    const curved = {
      ...DOCUMENT,
      controller: { ...DOCUMENT.controller, curve: { half_throttle_pct: 20 } },
    } as BuildDocument;
    expect(pathOf("half_throttle_pct", curved)).toBe("controller.curve.half_throttle_pct");
    expect(setNow("half_throttle_pct", curved)).toBe(20);
    // What no document holds can only be read off.
    expect(pathOf("dead_band_pct", DOCUMENT)).toBeNull();
    expect(setNow("timing_deg", DOCUMENT)).toBe(12);
  });

  test("is told as text, what is not known as such", () => {
    const rows = [row("max_rpm", null), row("timing_deg", 12, { unit: "deg" })];
    expect(asText(rows, "Punt")).toBe(
      "Controller of Punt\n\nThe max_rpm: not known. Because.\nThe timing_deg: 12 deg. Because.",
    );
  });
});

describe("the sheet", () => {
  test("a limit that is set lower is left alone, one above is offered", async () => {
    drawn(
      <Sheet
        rows={[row("motor_current_limit_a", 100, { at_most: true })]}
        document={DOCUMENT}
        onSet={onSet}
      />,
    );
    expect(screen.getByText("now 80 A, within it")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Set it/ })).toBeNull();
    cleanup();
    drawn(
      <Sheet
        rows={[row("motor_current_limit_a", 60, { at_most: true })]}
        document={DOCUMENT}
        onSet={onSet}
      />,
    );
    await userEvent.click(screen.getByRole("button", { name: /^Set it/ }));
    expect(onSet).toHaveBeenCalledWith({ "controller.motor_current_limit_a": 60 });
  });

  test("says what the controller offers, and what is set so already", () => {
    const rows = [
      row("timing_deg", 12, { unit: "deg", offered: true }),
      row("pwm_hz", 16000, { unit: "Hz", offered: false }),
    ];
    drawn(<Sheet rows={rows} document={DOCUMENT} onSet={onSet} />);
    expect(screen.getByText("set so")).toBeTruthy();
    expect(screen.getByText("it can be set")).toBeTruthy();
    expect(screen.getByText("this controller has none")).toBeTruthy();
    expect(screen.getByText("16,000 Hz")).toBeTruthy();
  });
});

describe("how it feels", () => {
  const ANSWER = {
    settings: [],
    throttle: {
      curve: [
        { trigger_pct: 0, volts_pct: 0 },
        { trigger_pct: 100, volts_pct: 100 },
      ],
      steps_forward: 512,
      volts_per_step: { low: 0.01, half: 0.02, high: 0.05 },
      kmh_per_step: { low: 0.02, half: 0.04, high: 0.1 },
      start_volts: 0.4,
      slowest_steady_kmh: 0.05,
      slower_by: [{ path: "battery.series", change: { "battery.series": 2 }, to_kmh: 0.03 }],
    },
    timing: { total_deg: 0, limit_deg: 60, free_rpm: 9000, tooth: null },
    ramp: { fastest_pct_per_s: 400, limited_by: "grip", inrush_a: 59, least_pack_v: 10.5 },
    drag_brake: { holds_grade_pct: 15, creep_kmh: 0.17, heat_w: 0.25 },
    limits: {},
  } as unknown as SheetAnswer;

  test("half of the trigger is moved by the slider and kept when it is let go", () => {
    drawn(<Feel answer={ANSWER} document={DOCUMENT} onSet={onSet} />);
    const slider = screen.getByRole("slider", { name: /Half trigger gives/ });
    fireEvent.change(slider, { target: { value: "20" } });
    expect(onSet).not.toHaveBeenCalled();
    fireEvent.keyUp(slider);
    expect(onSet).toHaveBeenCalledWith({ "controller.curve": { half_throttle_pct: 20 } });
  });

  test("while the slider moves the engine says how it would feel", async () => {
    const fine = { ...ANSWER.throttle, kmh_per_step: { low: 0.001, half: 0.02, high: 0.2 } };
    const sent = serverAnswers(() => ({ data: { ...ANSWER, throttle: fine } }));
    drawn(<Feel answer={ANSWER} document={DOCUMENT} onSet={onSet} />);
    fireEvent.change(screen.getByRole("slider"), { target: { value: "20" } });
    expect(await screen.findByText("0.0010 km/h, 0.020 km/h, 0.20 km/h")).toBeTruthy();
    const asked = sent.at(-1)?.body as { document: BuildDocument };
    expect(asked.document.controller.curve).toEqual({ half_throttle_pct: 20 });
    expect(onSet).not.toHaveBeenCalled();
  });

  test("a curve by points is left for its half at a press, whatever half was said before", async () => {
    const controller = {
      half_throttle_pct: 30,
      curve: { points: [{ trigger_pct: 50, volts_pct: 20 }] },
    };
    const curved = { ...DOCUMENT, controller } as unknown as BuildDocument;
    drawn(<Feel answer={ANSWER} document={curved} onSet={onSet} />);
    expect(screen.getByText("The curve is drawn by 1 point.")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "By its half instead" }));
    expect(onSet).toHaveBeenCalledWith({ "controller.curve": { half_throttle_pct: 30 } });
  });

  test("what makes it slower says what it comes to and is set at a press", async () => {
    drawn(<Feel answer={ANSWER} document={DOCUMENT} onSet={onSet} />);
    expect(screen.getByText("0.020 km/h, 0.040 km/h, 0.10 km/h")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Set it: cells in series: 2" }));
    expect(onSet).toHaveBeenCalledWith({ "battery.series": 2 });
  });
});

describe("the first time under power", () => {
  const STEPS = [
    {
      id: "lifted",
      say: "The wheels off the ground.",
      watch: "Nobody near.",
      expect: null,
      unit: "",
    },
    { id: "full", say: "Full trigger.", watch: "Even sound.", expect: 3265, unit: "rpm" },
  ] as SheetAnswer["first_power"];
  const answer = {
    moments: [{ id: "wheels_up", bands: { motor_rpm: [2970, 3265, 3590] } }],
  } as unknown as Answer;

  test("says what to read and how far it may be off; ticks stay with the build", async () => {
    drawn(<FirstPower steps={STEPS} answer={answer} buildId="b" />);
    expect(screen.getByText("3,265 rpm")).toBeTruthy();
    expect(screen.getByText("2,970 to 3,590")).toBeTruthy();
    await userEvent.click(screen.getByLabelText(/wheels off the ground/));
    cleanup();
    drawn(<FirstPower steps={STEPS} answer={answer} buildId="b" />);
    expect(screen.getByLabelText(/wheels off the ground/)).toHaveProperty("checked", true);
    cleanup();
    drawn(<FirstPower steps={STEPS} answer={answer} buildId="other" />);
    expect(screen.getByLabelText(/wheels off the ground/)).toHaveProperty("checked", false);
  });
});
