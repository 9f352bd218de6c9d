import { cleanup, fireEvent, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import type { Answer, BuildDocument, SettingRow, SheetAnswer } from "../../api/types";
import { drawn, serverAnswers } from "../../testing";
import { forgetTicks } from "../../workbench/plan";
import { Feel } from "./Feel";
import { FirstPower } from "./FirstPower";
import { Sheet } from "./Sheet";
import { asSet, asText, today } from "./sheet";

vi.mock("../../ui/useSize", () => ({ useSize: () => [() => {}, 420, 300] }));

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
    stands: {
      path: `controller.${id}`,
      per: 1,
      now: null,
      by_hand: null,
      within: false,
      differs: "",
      ...(more as { stands?: object }).stands,
    },
  }) as SettingRow;

const sheet = (...rows: SettingRow[]) => ({ settings: rows }) as unknown as SheetAnswer;

const onSet = vi.fn();
beforeEach(() => {
  localStorage.clear();
  forgetTicks();
  onSet.mockReset();
});
afterEach(cleanup);

describe("what is set", () => {
  test("goes to its field, and beside it when and what was worked out", () => {
    expect(asSet(row("timing_deg", 12), 15, "2026-03-14")).toEqual({
      "controller.timing_deg": 15,
      "controller.settings.timing_deg": { value: 15, on: "2026-03-14", worked_out: 12 },
    });
  });

  test("of the pack's cut-off is told to its cells", () => {
    const stands = { path: "battery.cut_off_cell_v", per: 13 };
    const set = asSet(row("cut_off_v", 39, { stands }), 41.6, "2026-03-14");
    expect(set["battery.cut_off_cell_v"]).toBeCloseTo(3.2);
  });

  test("stands alone where the build has no field for it, and goes with both", () => {
    const alone = row("dead_band_pct", 4, { stands: { path: null } });
    expect(Object.keys(asSet(alone, 6, "2026-03-14"))).toEqual([
      "controller.settings.dead_band_pct",
    ]);
    expect(asSet(row("pwm_hz", 16000), null, "2026-03-14")).toEqual({
      "controller.pwm_hz": null,
      "controller.settings.pwm_hz": null,
    });
  });

  test("is told as text, what is not known as such, what was set by hand with its day", () => {
    const hand = { value: 15, on: "2026-03-14" };
    const rows = [
      row("max_rpm", null),
      row("timing_deg", 12, { unit: "deg", stands: { by_hand: hand } }),
    ];
    expect(asText(rows, "Punt")).toBe(
      "Controller of Punt\n\nThe max_rpm: not known. Because.\nThe timing_deg: 12 deg. Because. Set by hand to 15 deg on 2026-03-14.",
    );
  });
});

describe("the sheet", () => {
  test("a limit that is set lower is left alone, one above is offered", async () => {
    const limit = (value: number) =>
      row("motor_current_limit_a", value, { stands: { now: 80, within: value >= 80 } });
    drawn(<Sheet answer={sheet(limit(100))} document={DOCUMENT} onSet={onSet} />);
    expect(screen.getByText("within it")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Set it/ })).toBeNull();
    cleanup();
    drawn(<Sheet answer={sheet(limit(60))} document={DOCUMENT} onSet={onSet} />);
    await userEvent.click(screen.getByRole("button", { name: /^Set it/ }));
    expect(onSet).toHaveBeenCalledWith({
      "controller.motor_current_limit_a": 60,
      "controller.settings.motor_current_limit_a": { value: 60, on: today(), worked_out: 60 },
    });
  });

  test("says what the controller offers, and what is set so already", () => {
    const rows = [
      row("timing_deg", 12, { unit: "deg", offered: true, stands: { now: 12 } }),
      row("pwm_hz", 16000, { unit: "Hz", offered: false }),
    ];
    drawn(<Sheet answer={sheet(...rows)} document={DOCUMENT} onSet={onSet} />);
    expect(screen.getByText("set so")).toBeTruthy();
    expect(screen.getByText("it can be set")).toBeTruthy();
    expect(screen.getByText("this controller has none")).toBeTruthy();
    expect(screen.getByText("16,000 Hz")).toBeTruthy();
  });

  test("takes what somebody set by hand, keeps its day, and tells how it differs", async () => {
    const by_hand = { value: 20, on: "2026-03-14", worked_out: 12 };
    const differs = "67% above what is worked out";
    const one = row("timing_deg", 12, { unit: "deg", stands: { now: 20, by_hand, differs } });
    drawn(<Sheet answer={sheet(one)} document={DOCUMENT} onSet={onSet} />);
    expect(screen.getByText(/set 14 Mar 2026/)).toBeTruthy();
    expect(screen.getByText(differs)).toBeTruthy();
    const field = screen.getByLabelText("The timing_deg, as it is set");
    await userEvent.clear(field);
    await userEvent.type(field, "18{Enter}");
    expect(onSet).toHaveBeenCalledWith({
      "controller.timing_deg": 18,
      "controller.settings.timing_deg": { value: 18, on: today(), worked_out: 12 },
    });
    await userEvent.clear(field);
    await userEvent.type(field, "much{Enter}");
    expect(onSet).toHaveBeenCalledTimes(1);
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

  const curved = (...points: { trigger_pct: number; volts_pct: number }[]) =>
    ({
      ...DOCUMENT,
      controller: { half_throttle_pct: 30, curve: { points } },
    }) as unknown as BuildDocument;

  test("a curve by points is left for its half at a press, whatever half was said before", async () => {
    const document = curved({ trigger_pct: 50, volts_pct: 20 });
    drawn(<Feel answer={ANSWER} document={document} onSet={onSet} />);
    await userEvent.click(screen.getByRole("button", { name: "By its half instead" }));
    expect(onSet).toHaveBeenCalledWith({ "controller.curve": { half_throttle_pct: 30 } });
  });

  test("its points are moved by the keys, never past one another, and taken out", () => {
    serverAnswers(() => ({ data: ANSWER }));
    const document = curved({ trigger_pct: 30, volts_pct: 10 }, { trigger_pct: 60, volts_pct: 12 });
    drawn(<Feel answer={ANSWER} document={document} onSet={onSet} />);
    const first = screen.getByRole("slider", { name: /Point 1/ });
    fireEvent.keyDown(first, { key: "ArrowUp", shiftKey: true });
    fireEvent.keyUp(first, { key: "ArrowUp" });
    expect(onSet).toHaveBeenLastCalledWith({
      "controller.curve": {
        points: [
          { trigger_pct: 30, volts_pct: 11 },
          { trigger_pct: 60, volts_pct: 12 },
        ],
      },
    });
    fireEvent.keyDown(first, { key: "Delete" });
    expect(onSet).toHaveBeenLastCalledWith({
      "controller.curve": { points: [{ trigger_pct: 60, volts_pct: 12 }] },
    });
  });

  test("a bent curve becomes three points on it", async () => {
    drawn(<Feel answer={ANSWER} document={DOCUMENT} onSet={onSet} />);
    await userEvent.click(screen.getByRole("button", { name: "By points instead" }));
    expect(onSet).toHaveBeenCalledWith({
      "controller.curve": {
        points: [25, 50, 75].map((at) => ({ trigger_pct: at, volts_pct: at })),
      },
    });
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
    const sent = serverAnswers(() => ({ data: null }));
    const build = { id: "b", ticks: {} };
    drawn(<FirstPower steps={STEPS} answer={answer} build={build} />);
    expect(screen.getByText("3,265 rpm")).toBeTruthy();
    expect(screen.getByText("2,970 to 3,590")).toBeTruthy();
    await userEvent.click(screen.getByLabelText(/wheels off the ground/));
    expect(sent).toMatchObject([
      {
        method: "PUT",
        params: { build_id: "b", of_list: "power" },
        body: { done: ["lifted"], of: 2 },
      },
    ]);
    cleanup();
    forgetTicks();
    const kept = { id: "b", ticks: { power: { done: ["lifted"], of: 2 } } };
    drawn(<FirstPower steps={STEPS} answer={answer} build={kept} />);
    expect(screen.getByLabelText(/wheels off the ground/)).toHaveProperty("checked", true);
    cleanup();
    drawn(<FirstPower steps={STEPS} answer={answer} build={{ id: "other", ticks: {} }} />);
    expect(screen.getByLabelText(/wheels off the ground/)).toHaveProperty("checked", false);
  });

  test("ticks that could not be sent are kept here, and sent when the page is opened again", async () => {
    serverAnswers(() => ({ status: 503, where: "database", what: "does not answer" }));
    drawn(<FirstPower steps={STEPS} answer={answer} build={{ id: "b", ticks: {} }} />);
    await userEvent.click(screen.getByLabelText(/wheels off the ground/));
    cleanup();
    forgetTicks();
    const sent = serverAnswers(() => ({ data: null }));
    drawn(<FirstPower steps={STEPS} answer={answer} build={{ id: "b", ticks: {} }} />);
    expect(screen.getByLabelText(/wheels off the ground/)).toHaveProperty("checked", true);
    expect(sent[0]?.body).toEqual({ done: ["lifted"], of: 2 });
  });
});
