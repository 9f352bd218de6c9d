import { cleanup, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { drawn, serverAnswers } from "../../../testing";
import type { BenchState, Workbench } from "../../../workbench/workbench";
import { Stand } from "./Stand";

const propeller = { diameter_mm: 254, pitch_mm: 127 } as never;
const finding = (key: string, value: number) => ({
  key,
  value,
  tolerance: 0.04,
  origin: "measured",
  route: "the stand",
  uses: [],
});
const TOLD = {
  motor: {
    values: { kv_rpm_per_v: finding("kv_rpm_per_v", 812.3) },
    found: [],
    contradictions: [],
    missing: {},
  },
  stand: {
    propeller: {
      values: {
        thrust_share: finding("thrust_share", 1.01),
        "static.rpm": finding("static.rpm", 8200),
        "static.thrust_n": finding("static.thrust_n", 8.82598),
        "static.shaft_power_w": finding("static.shaft_power_w", 161),
      },
      found: [],
      contradictions: [],
      missing: {},
    },
    off: ["motor"],
    say: ["The motor is off: another winding."],
    readings: [
      {
        rpm: 8200,
        expected_rpm: 9000,
        thrust_n: 8.82598,
        expected_thrust_n: 8.7,
        motor_current_a: 17,
        shaft_power_w: 161,
        expected_shaft_power_w: 160,
        figure_of_merit: 0.52,
      },
    ],
  },
};

let sent: ReturnType<typeof serverAnswers>;
const act = vi.fn();

beforeEach(() => {
  localStorage.clear();
  act.mockReset();
  sent = serverAnswers(() => ({ data: TOLD }));
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const open = async () => {
  const document = {
    motor: {
      kind: "permanent_magnet",
      kv_rpm_per_v: 900,
      resistance_ohm: 0.05,
      no_load_current_a: 0.8,
      mass_kg: 0.07,
    },
    provenance: { "motor.no_load_current_a": { origin: "estimated" } },
  };
  const state = { build: { id: "b" }, document, answer: { ratio: 1 } } as unknown as BenchState;
  const bench = { act } as unknown as Workbench;
  drawn(<Stand propeller={propeller} bench={bench} state={state} />);
  await userEvent.click(screen.getByText(/which is off, motor or propeller/));
};
const fill = async (said: Record<string, string>, place = 1) => {
  for (const [label, text] of Object.entries(said)) {
    const field = screen.getByLabelText(`${label}, reading ${place}`);
    await userEvent.clear(field);
    await userEvent.type(field, text);
  }
};
const asked = () => sent.at(-1)?.body as { motor: object; stand: { points: object[] } };

test("grams of a scale go out as newtons, with the motor as it is said and without its guesses", async () => {
  await open();
  expect(sent.length).toBe(0);
  await fill({ Volts: "11,1", Amps: "17", Turns: "8200", Thrust: "900" });
  expect(await screen.findByText("The motor is off: another winding.")).toBeTruthy();
  // 0.9 kg by 9.80665 m/s2.
  await waitFor(() =>
    expect(asked().stand.points).toEqual([
      { throttle_pct: 100, voltage_v: 11.1, current_a: 17, rpm: 8200, thrust_n: 8.825985 },
    ]),
  );
  expect(asked().motor).toEqual({
    kv_rpm_per_v: 900,
    resistance_ohm: 0.05,
    mass_kg: 0.07,
    commutation: "brushless",
  });
});

test("what was read is kept as the propeller's test, and the motor's KV by itself", async () => {
  await open();
  await fill({ Volts: "11.1", Amps: "17", Turns: "8200" });
  await userEvent.click(await screen.findByRole("button", { name: /propeller's test/ }));
  expect(act).toHaveBeenCalledWith(
    expect.objectContaining({
      do: "learn",
      values: {
        "propeller.static.rpm": 8200,
        "propeller.static.thrust_n": 8.82598,
        "propeller.static.shaft_power_w": 161,
      },
    }),
  );
  await userEvent.click(screen.getByRole("button", { name: /Take the motor's KV, 812/ }));
  expect(act).toHaveBeenLastCalledWith(
    expect.objectContaining({ values: { "motor.kv_rpm_per_v": 812.3 } }),
  );
});

test("readings half typed are kept on this machine and not asked about", async () => {
  await open();
  await fill({ Volts: "11.1", Amps: "x" });
  await userEvent.click(screen.getByRole("button", { name: "Another reading" }));
  expect(screen.getByLabelText("Amps, reading 1").getAttribute("aria-invalid")).toBe("true");
  expect(sent.length).toBe(0);
  cleanup();
  await open();
  expect((screen.getByLabelText("Volts, reading 1") as HTMLInputElement).value).toBe("11.1");
  await userEvent.click(screen.getByRole("button", { name: "Take out reading 1" }));
  expect((screen.getByLabelText("Volts, reading 1") as HTMLInputElement).value).toBe("");
});
