import { cleanup, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import type { Calibrated, KeepRun, MeasuredRunCard, ReadingFitted } from "../../api/types";
import { drawn, serverAnswers } from "../../testing";
import { type OpenedBuild, OpenedContext } from "../../workbench/opened";
import { Enter } from "./Enter";
import { oddsOf, offBy, samplesOf } from "./kinds";
import { Learn } from "./Learn";
import { Story } from "./Story";

beforeEach(() => localStorage.clear());
afterEach(cleanup);

describe("words", () => {
  test("say how far off as people say it", () => {
    expect(offBy(30, 36)).toBe("a sixth below");
    expect(offBy(36.1, 36)).toBe("right on it");
    expect(offBy(47, 36)).toBe("31 % above");
    expect(oddsOf(0.4)).toBe("as predicted");
    expect(oddsOf(2.3)).toContain("one in fifty");
  });

  test("lines of seconds and speed are read with points and commas", () => {
    expect(samplesOf("0 30\n2; 28,4\n\n4\t26.9")).toEqual([
      { t_s: 0, speed_kmh: 30 },
      { t_s: 2, speed_kmh: 28.4 },
      { t_s: 4, speed_kmh: 26.9 },
    ]);
    expect(samplesOf("0 30")).toBeNull();
    expect(samplesOf("0 30\n2 fast")).toBeNull();
  });
});

const refresh = vi.fn(async () => {});
const opened = {
  bench: { refresh },
  state: { build: { id: "b", head: 3 }, document: {}, saving: "saved" },
} as unknown as OpenedBuild;

const page = (shown: React.ReactNode) =>
  drawn(<OpenedContext value={opened}>{shown}</OpenedContext>);

const runOf = (one: { body?: unknown } | undefined) => ((one?.body ?? { run: {} }) as KeepRun).run;

const READING: ReadingFitted = {
  run: "run 1",
  kind: "top_speed",
  field: "speed_kmh",
  measured: 30,
  tolerance: 0.4,
  before: [34, 36, 38],
  after: [34, 36, 38],
  surprise: 2.4,
};

describe("entering a run", () => {
  const enter = async () => {
    page(<Enter />);
    await userEvent.type(screen.getByLabelText(/^Speed/), "30");
    await userEvent.tab();
    await userEvent.click(screen.getByRole("button", { name: "Add it to the run" }));
  };

  test("a reading stands at once beside what was predicted, and is kept under one id", async () => {
    const sent = serverAnswers((_, { path }) => ({
      data: path.endsWith("expected") ? { readings: [READING], implied: [] } : {},
    }));
    await enter();
    expect(await screen.findByText(/a sixth below: one in fifty/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Keep this run" }));
    expect(await screen.findByText(/Kept\./)).toBeTruthy();
    const put = sent.find((one) => one.method === "PUT");
    expect(put?.body).toMatchObject({
      version: 3,
      run: { observations: [{ kind: "top_speed", speed_kmh: 30 }] },
    });
  });

  test("without a connection it waits in the browser, and is sent once when it is back", async () => {
    let away = true;
    const sent = serverAnswers((method, { path }) => {
      if (method === "PUT" && away) return { status: 503, where: "server", what: "is away" };
      return { data: path.endsWith("expected") ? { readings: [READING], implied: [] } : {} };
    });
    await enter();
    await userEvent.click(screen.getByRole("button", { name: "Keep this run" }));
    expect(await screen.findByText(/kept in this browser/)).toBeTruthy();
    expect(JSON.stringify(localStorage)).toContain("top_speed");
    away = false;
    await waitFor(() => expect(screen.getByText(/Kept\./)).toBeTruthy(), { timeout: 4000 });
    const ids = sent.filter((one) => one.method === "PUT").map((one) => one.params.run_id);
    expect(ids.length).toBeGreaterThan(1);
    expect(new Set(ids).size).toBe(1);
  });

  test("what the server refuses goes back on the form, with what is wrong", async () => {
    serverAnswers((method, { path }) =>
      method === "PUT"
        ? { status: 422, where: "run.start.soc_pct", what: "must be at most 100" }
        : { data: path.endsWith("expected") ? { readings: [READING], implied: [] } : {} },
    );
    await enter();
    await userEvent.click(screen.getByRole("button", { name: "Keep this run" }));
    expect(await screen.findByText(/Not kept: run.start.soc_pct must be at most 100/)).toBeTruthy();
    expect(screen.getByRole("button", { name: /Take out Top speed, 30.0 km\/h/ })).toBeTruthy();
  });

  test("a lap by stopwatch fills the speed and its doubt in, and an instrument may be said", async () => {
    const sent = serverAnswers((_, { path }) => ({
      data: path.endsWith("timed-speed")
        ? { speed_kmh: 30, speed_kmh_tolerance: 0.0937 }
        : { readings: [READING], implied: [] },
    }));
    page(<Enter />);
    await userEvent.type(screen.getByLabelText(/^Way/), "400");
    await userEvent.tab();
    await userEvent.type(screen.getByLabelText(/^in/), "48");
    await userEvent.tab();
    expect(await screen.findByText(/makes 30.0 km\/h/)).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText("Read with"), "stopwatch");
    await userEvent.click(screen.getByRole("button", { name: "How exactly?" }));
    expect((screen.getByLabelText(/Speed within/) as HTMLInputElement).value).toBe("0.094");
    await userEvent.click(screen.getByRole("button", { name: "Add it to the run" }));
    await waitFor(() =>
      expect(runOf(sent.findLast((one) => one.path.endsWith("expected"))).observations).toEqual([
        { kind: "top_speed", instrument: "stopwatch", speed_kmh: 30, speed_kmh_tolerance: 0.094 },
      ]),
    );
  });

  test("what is typed outlives the page", async () => {
    serverAnswers(() => ({ data: { readings: [READING], implied: [] } }));
    await enter();
    cleanup();
    page(<Enter />);
    expect(screen.getByRole("heading", { name: "This run" })).toBeTruthy();
  });
});

const RUN = {
  id: "r",
  version: 2,
  made_at: "2026-02-03T10:00:00Z",
  run: { date: "2026-02-03", note: "Chain tight.", observations: [] },
  changes: [
    { path: "gearing.0.driver_teeth", label: "Stage 1 teeth", unit: "", before: 16, after: 15 },
  ],
  learned: false,
  photos: [],
  teeth: [[15, 60]],
  labels: {},
} as unknown as MeasuredRunCard;

test("the story says what was changed, and what is taken out comes back", async () => {
  const sent = serverAnswers((method, { path }) => ({
    data: path.endsWith("expected")
      ? { readings: [READING], implied: [] }
      : method === "GET"
        ? [RUN]
        : {},
  }));
  page(<Story />);
  expect(await screen.findByText(/Stage 1 teeth 16 to 15/)).toBeTruthy();
  expect(screen.getByText("Chain tight.")).toBeTruthy();
  await userEvent.click(screen.getByRole("button", { name: "Take it out" }));
  await userEvent.click(await screen.findByRole("button", { name: "Bring it back" }));
  await waitFor(() => expect(sent.some((one) => one.method === "PUT")).toBe(true));
  expect(sent.find((one) => one.method === "PUT")?.params.run_id).toBe("r");
});

const FOUND: Calibrated = {
  inputs: [
    {
      path: "vehicle.drag_area_m2",
      label: "drag area",
      before: [0.7, 0.85, 1.0],
      after: [0.9, 0.95, 1.0],
      taught_by: { "run 1": 0.6 },
      moved: true,
      why_wider: null,
    },
  ],
  build: {},
  figures: {},
  fits: [READING],
  contradictions: [{ runs: ["run 1"], what: "top speed: it is left out." }],
  measure_next: { kind: "roll_out", what: "Chalk the tyre.", gain: 0.2 },
  explained: [
    {
      from_run: "run 1",
      to_run: "run 2",
      field: "speed_kmh",
      measured_change: -6,
      by_changes: { "gearing.0.driver_teeth": -4 },
      left: -2,
      within_doubt: false,
      candidates: [
        {
          path: "gearing.0.efficiency",
          what: "losses of stage 1",
          before: 0.95,
          needs: 0.9,
          explains: -2,
          believable: true,
        },
      ],
    },
  ],
  untold: [],
};

test("what is learned is taken over into the build", async () => {
  const sent = serverAnswers((method) => ({
    data:
      method === "GET"
        ? {
            runs: ["r"],
            version: 3,
            found: FOUND,
            labels: { "gearing.0.driver_teeth": "Stage 1 driver" },
          }
        : {},
  }));
  page(<Learn />);
  expect(await screen.findByText(/One run teaches 1 of 1/)).toBeTruthy();
  expect(screen.getByText(/Does not fit/)).toBeTruthy();
  expect(screen.getByText(/−6.0 km\/h, of it −4.0 by stage 1 driver; −2.0 is left/)).toBeTruthy();
  expect(screen.getByText(/losses of stage 1: from 0.950 to 0.900/)).toBeTruthy();
  await userEvent.click(screen.getByRole("button", { name: "Take it over into the build" }));
  await waitFor(() => expect(refresh).toHaveBeenCalled());
  expect(sent.find((one) => one.method === "POST")?.body).toMatchObject({ base: 3, runs: ["r"] });
});

test("what nobody wrote down is noted with its run at a press", async () => {
  const sent = serverAnswers((method, { path }) => ({
    data:
      method !== "GET"
        ? {}
        : path.endsWith("learn")
          ? { runs: ["r"], version: 3, found: FOUND, labels: {} }
          : [RUN, { ...RUN, id: "s" }],
  }));
  page(<Learn />);
  await userEvent.click(
    await screen.findByRole("button", { name: "It was so on run 2: losses of stage 1" }),
  );
  expect(await screen.findByText(/Noted with run 2/)).toBeTruthy();
  const put = sent.find((one) => one.method === "PUT");
  expect(put?.params.run_id).toBe("s");
  expect(runOf(put).changes).toEqual({ "gearing.0.efficiency": 0.9 });
});

test("photos stand with their run, and one that is taken out comes back", async () => {
  const sent = serverAnswers((method, { path }) => ({
    data: path.endsWith("expected")
      ? { readings: [READING], implied: [] }
      : method === "GET"
        ? [{ ...RUN, photos: ["p"] }]
        : {},
  }));
  page(<Story />);
  const shown = (await screen.findByAltText("1 of run 1")) as HTMLImageElement;
  expect(shown.src).toContain("/api/builds/b/logbook/runs/r/photos/p");
  await userEvent.click(screen.getByRole("button", { name: "Take out photo 1 of run 1" }));
  await userEvent.click(await screen.findByRole("button", { name: "Bring the photo back" }));
  await waitFor(() => expect(sent.some((one) => one.method === "PUT")).toBe(true));
  const file = new File(["x"], "burn.jpg", { type: "image/jpeg" });
  await userEvent.upload(screen.getByLabelText("Photo of run 1"), file);
  await waitFor(() => expect(sent.filter((one) => one.method === "PUT").length).toBe(2));
});
