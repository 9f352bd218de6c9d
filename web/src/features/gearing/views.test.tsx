import { cleanup, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import type { BuildDocument } from "../../api/types";
import { drawn, serverAnswers } from "../../testing";
import { Chart } from "./Chart";
import { GearTeeth } from "./GearTeeth";
import { Roads } from "./Roads";
import { Split } from "./Split";
import { Teeth } from "./Teeth";
import { Volts } from "./Volts";

const chain = (driver: number, driven: number) => ({
  kind: "chain",
  driver_teeth: driver,
  driven_teeth: driven,
  efficiency: 0.95,
});

const DOCUMENT = {
  name: "Punt",
  gearing: [chain(16, 60), { kind: "fixed", ratio: 2, efficiency: 0.97 }],
  battery: { series: 13 },
  motor: { count: 1 },
} as unknown as BuildDocument;

const rung = (driver: number, driven: number, more = {}) => ({
  teeth: [[driver, driven]],
  ratio: driven / driver,
  figures: { top_speed_kmh: driver * 2, winding_climb_c: 40 + driver, launch_n: 300 },
  stopped: null,
  change: { "gearing.0.driver_teeth": driver, "gearing.0.driven_teeth": driven },
  bands: {},
  ...more,
});

const BANDS = { top_speed_kmh: [30, 32, 34], winding_climb_c: [50, 56, null] };

const LADDER = {
  count: 4,
  reductions: 4,
  open: 3,
  present: rung(16, 60, { bands: BANDS }),
  best: { fastest: rung(18, 60, { bands: BANDS }) },
  best_say: { fastest: "The fastest that is no worse than now for any part" },
  fixed: ["The controller takes 50 V of 58.8"],
  already: ["The winding passes 105 °C climbing"],
  say: "",
  rungs: [],
  stages: [
    {
      index: 0,
      kind: "chain",
      drivers: [16, 18],
      driven: [48, 60],
      near_drivers: [16, 18],
      near_driven: [48, 60],
      near: [
        [rung(16, 48), rung(16, 60)],
        [rung(18, 48, { stopped: "It would turn too fast." }), rung(18, 60)],
      ],
    },
  ],
  map: [],
  plan: [],
  limits: { winding_c: 105, case_c: 65 },
};

const CELL = (cells: number, winding: number) => ({
  free_rpm: [cells * winding * 4.2, cells * winding * 3.8],
  loaded_rpm: [cells * winding * 4, null],
  change: { "battery.series": cells, "motor.kv_rpm_per_v": winding },
});

const CHART = {
  states: ["charger", "storage"],
  windings: [60, 80],
  unit: "KV",
  cells: [13, 14],
  own: [0, 0],
  limit_rpm: 4000,
  window_rpm: [3100, 3300],
  schools: "Two schools.",
  within_pct: 4.94,
  rows: [
    [CELL(13, 60), CELL(13, 80)],
    [CELL(14, 60), CELL(14, 80)],
  ],
};

const STATE = { cells_w: 800, road_w: 640, takes: {}, shaft_w: 700, stage_losses_w: [] };

const side = (series: number) => ({
  series,
  state: STATE,
  full_v: series * 4.2,
  free_rpm: 3000,
  loaded_rpm: 2900,
  top_speed_kmh: 36,
  pack_limit_a: null,
  pack_peak_w: 2000,
  winding_climb_c: 40,
  case_climb_c: 30,
  bands: { top_speed_kmh: [34, 36, 38] },
});

const VOLTS = (series: number) => ({
  now: side(13),
  // biome-ignore lint/suspicious/noThenProperty: so the answer calls the higher pack.
  then: side(series),
  change: { "battery.series": series },
  verdict: "It can be done on 1 condition.",
  conditions: [{ id: "watts", weight: "condition", say: "Set a limit." }],
  schools: ["One school."],
});

const road = (id: string, more = {}) => ({
  id,
  title: `By ${id}`,
  reached: true,
  measure: "7.3 to 1",
  figures: { climb_kmh: 32, launch_s: 4, range_km: 54 },
  bands: { climb_kmh: [30, 32, 34] },
  state: STATE,
  parts: ["driven of 47 teeth"],
  price: 12,
  why: "With what can be bought it goes 45.6 km/h.",
  stops: [],
  change: { "gearing.0.driven_teeth": 47 },
  ...more,
});

const ROADS = {
  wish_kmh: 45,
  now_kmh: 36,
  now: { climb_kmh: 33, launch_s: 3, range_km: 52 },
  bands: { climb_kmh: [31, 33, 34] },
  state: STATE,
  roads: [
    road("teeth"),
    road("cells", { price: null, stops: ["Free, it turns 4,272 rpm of 4,200 allowed"] }),
    road("timing", {
      reached: false,
      figures: {},
      bands: {},
      state: null,
      parts: [],
      why: "It goes 40 km/h at the most.",
    }),
  ],
};

const toothed = (kind: string, driver: number, driven: number, pitch: object) => ({
  kind,
  driver_teeth: driver,
  driven_teeth: driven,
  efficiency: 0.95,
  pitch_mm: null,
  module_mm: null,
  ...pitch,
});

const SPLIT = {
  say: "2 stages: 9.167 to 1.",
  refused: { 1: "no pair that is sold does 9.17 to 1." },
  splits: {
    2: [
      {
        stages: [
          toothed("chain", 16, 44, { pitch_mm: 12.7 }),
          toothed("spur", 18, 60, { module_mm: 1.5 }),
        ],
        ratio: 9.1667,
        off_pct: 0,
        efficiency: 0.931,
        widest_mm: 185,
      },
    ],
  },
};

let sent: ReturnType<typeof serverAnswers>;
const onSet = vi.fn();
const props = { document: DOCUMENT, pinned: null, onSet };

beforeEach(() => {
  localStorage.clear();
  onSet.mockReset();
  // A page is as wide as it says; nothing is laid out here.
  sent = serverAnswers((_, { path, body }) => {
    const asked = body as { series?: number; sun?: number; diametral_pitch?: number };
    if (path.endsWith("/ladder")) return { data: LADDER };
    if (path.endsWith("/meets")) return { data: { brief_id: null, name: "", margins: {} } };
    if (path.endsWith("/chart") || path.endsWith("/speed-chart")) return { data: CHART };
    if (path.endsWith("/overvolt")) return { data: VOLTS(asked.series ?? 0) };
    if (path.endsWith("/planetary"))
      return { data: { ratio: 4, planet_teeth: 18, fits: true, say: "4 to 1." } };
    if (path.endsWith("/roads")) return { data: ROADS };
    if (path.endsWith("/split")) return { data: SPLIT };
    if (path.endsWith("/module")) return { data: { module_mm: 0.79375 } };
    return { status: 404, where: path, what: "is not there" };
  });
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

describe("teeth", () => {
  const open = async () => {
    drawn(<Teeth {...props} build={{ id: "b", ticks: {} }} briefId={null} />);
    await screen.findByText(/4 rungs of teeth that are sold/);
  };

  test("where nothing has teeth it says what changes speed instead, and asks for no ladder", () => {
    const hub = { ...DOCUMENT, gearing: [] } as unknown as BuildDocument;
    drawn(<Teeth {...props} document={hub} build={{ id: "b", ticks: {} }} briefId={null} />);
    expect(screen.getByRole("heading", { name: "The motor turns the wheel itself" })).toBeTruthy();
    const link = screen.getByRole("link", { name: "Another winding of the same can" });
    expect(link.getAttribute("href")).toBe("/?view=windings");
    expect(screen.queryByRole("alert")).toBeNull();
    cleanup();
    const fixed = { ...DOCUMENT, gearing: [{ kind: "fixed", ratio: 5, efficiency: 0.9 }] };
    drawn(
      <Teeth
        {...props}
        document={fixed as unknown as BuildDocument}
        build={{ id: "b", ticks: {} }}
        briefId={null}
      />,
    );
    expect(screen.getByRole("heading", { name: "No stage has teeth to change" })).toBeTruthy();
  });

  test("the present rung stands out, a stopped one says why, and a press sets one", async () => {
    await open();
    const here = screen.getByRole("button", { name: /^16 to 60 teeth/ });
    expect(here.getAttribute("aria-pressed")).toBe("true");
    const stopped = screen.getByRole("button", { name: /^18 to 48 teeth/ });
    expect(stopped.textContent).toBe("18 to 48 teeth: 36.0 km/hworse: It would turn too fast.");
    await userEvent.click(screen.getByRole("button", { name: /^16 to 48 teeth/ }));
    expect(onSet).toHaveBeenCalledWith({
      "gearing.0.driver_teeth": 16,
      "gearing.0.driven_teeth": 48,
    });
  });

  test("how sure it is is said of what has two ends, in the unit that was chosen", async () => {
    await open();
    expect(screen.getByText(/As the build is known now/).textContent).toContain(
      "the present rung goes 30.0 to 34.0 km/h, four times in five",
    );
    cleanup();
    localStorage.setItem("young-torrent.units", JSON.stringify({ speed: "mph", force: "lbf" }));
    await open();
    // 30 and 34 km/h are 18.6 and 21.1 mph; 300 N are 67.4 lbf.
    expect(screen.getByText(/As the build is known now/).textContent).toContain(
      "goes 18.6 to 21.1 mph",
    );
    expect(screen.getByText(/67.4 lbf from standstill/)).toBeTruthy();
  });

  test("what stops the build as it stands is told once, apart from what gearing can mend", async () => {
    await open();
    expect(screen.getByText("The winding passes 105 °C climbing")).toBeTruthy();
    expect(screen.getByText(/No gearing changes this/).textContent).toContain("50 V of 58.8");
    expect(screen.getByText(/3 of them are no worse than now/)).toBeTruthy();
  });

  test("the best are set by their own button", async () => {
    await open();
    await userEvent.click(screen.getByRole("button", { name: "Set it: 18 to 60" }));
    expect(onSet.mock.calls[0]?.[0]).toMatchObject({ "gearing.0.driver_teeth": 18 });
  });
});

describe("the speed chart", () => {
  test("says over and in the window by the charge that is chosen", async () => {
    drawn(<Chart {...props} />);
    const cell = async (name: RegExp) =>
      (await screen.findByRole("button", { name })).textContent?.replace(/^.*: /, "");
    // At storage 3.8 V: 14 cells of 60 KV turn 3,192 rpm, of 80 KV 4,256.
    expect(await cell(/^14 cells, 60 KV/)).toBe("3,192– loaded, window");
    expect(await cell(/^14 cells, 80 KV/)).toBe("4,256– loaded, over");
    expect(await cell(/^13 cells, 80 KV/)).toBe("3,952– loaded");
    await userEvent.selectOptions(screen.getByLabelText("The pack is"), "charger");
    expect(await cell(/^13 cells, 80 KV/)).toBe("4,3684,160 loaded, over");
    expect(screen.getByText(/may be off by 4.9 % either way/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: /^14 cells, 60 KV/ }));
    expect(onSet).toHaveBeenCalledWith({ "battery.series": 14, "motor.kv_rpm_per_v": 60 });
  });
});

describe("more volts", () => {
  test("one cell more is asked at first, another number when it is typed", async () => {
    drawn(<Volts {...props} />);
    expect(await screen.findByText("It can be done on 1 condition.")).toBeTruthy();
    expect(sent.at(-1)?.body).toMatchObject({ series: 14 });
    const asked = screen.getByLabelText(/Instead of 13 cells/);
    await userEvent.clear(asked);
    await userEvent.type(asked, "16{Enter}");
    await waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ series: 16 }));
    await userEvent.click(await screen.findByRole("button", { name: /lower limit: 16 cells/ }));
    expect(onSet).toHaveBeenCalledWith({ "battery.series": 16 });
  });

  test("no more cells than there are is no question; one more is asked then", async () => {
    drawn(<Volts {...props} />);
    const asked = await screen.findByLabelText(/Instead of 13 cells/);
    await userEvent.clear(asked);
    await userEvent.type(asked, "9{Enter}");
    await waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ series: 14 }));
  });
});

describe("roads to a speed", () => {
  const cellsOf = (name: RegExp) =>
    [...screen.getByRole("row", { name }).querySelectorAll("td")].map((one) => one.textContent);

  test("eight km/h more than now is asked at first, and each road says what it takes", async () => {
    drawn(<Roads {...props} nowKmh={36.8} />);
    await screen.findByText("By teeth");
    expect(sent.at(-1)?.body).toMatchObject({ wish_kmh: 45 });
    // Slower up the hill by each road that leads there; the one that doesn't has no figure.
    expect(cellsOf(/^Speed up the hill/)).toEqual([
      "33.031.0 to 34.0",
      "32.0▼worse30.0 to 34.0",
      "32.0▼worse30.0 to 34.0",
      "–",
    ]);
    expect(cellsOf(/^Range/)).toEqual(["52.0", "54.0▲better", "54.0▲better", "–"]);
    expect(screen.getAllByRole("img", { name: /^Stream at/ })).toHaveLength(3);
    const buy = cellsOf(/^To buy or set/);
    expect(buy[1]).toContain("driven of 47 teeth; about 12 more");
    expect(buy[2]).toContain("its price is not known");
    expect(buy[2]).toContain("Stop: Free, it turns 4,272 rpm of 4,200 allowed");
    expect(buy[3]).toBe("It goes 40 km/h at the most.");
  });

  test("a road that leads there can be taken, one that does not can't", async () => {
    drawn(<Roads {...props} nowKmh={36.8} />);
    await userEvent.click(await screen.findByRole("button", { name: "Set it: By teeth" }));
    expect(onSet).toHaveBeenCalledWith({ "gearing.0.driven_teeth": 47 });
    expect(screen.queryByRole("button", { name: "Set it: By timing" })).toBeNull();
  });
});

describe("stages", () => {
  test("a split is set whole, each wheel with its own pitch or module", async () => {
    drawn(<Split {...props} ratio={9.1667} />);
    expect(await screen.findByText(/One stage: no pair that is sold/)).toBeTruthy();
    expect(screen.getByText("exact")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Set it: 2 stages" }));
    expect(onSet).toHaveBeenCalledWith({
      gearing: [
        { kind: "chain", driver_teeth: 16, driven_teeth: 44, efficiency: 0.95, pitch_mm: 12.7 },
        { kind: "spur", driver_teeth: 18, driven_teeth: 60, efficiency: 0.95, module_mm: 1.5 },
      ],
    });
  });

  test("revs of motor and wheel make the reduction, and kinds what it is made of", async () => {
    drawn(<Split {...props} ratio={9.1667} />);
    await userEvent.type(screen.getByLabelText(/^Motor turns/), "3000{Enter}");
    await userEvent.type(screen.getByLabelText(/^where the wheel turns/), "250{Enter}");
    await waitFor(() =>
      expect(sent.at(-1)?.body).toEqual({ wanted: 12, kinds: ["chain", "belt"] }),
    );
    await userEvent.click(screen.getByLabelText("belt"));
    await userEvent.click(screen.getByLabelText("spur"));
    await waitFor(() =>
      expect(sent.at(-1)?.body).toEqual({ wanted: 12, kinds: ["chain", "spur"] }),
    );
  });
});

describe("gears by their teeth", () => {
  test("a planetary gear's ratio goes into a stage that states only its ratio", async () => {
    drawn(<GearTeeth {...props} />);
    await userEvent.type(screen.getByLabelText(/^Sun/), "18{Enter}");
    expect(sent.filter((one) => one.path.endsWith("/planetary"))).toHaveLength(0);
    await userEvent.type(screen.getByLabelText(/^Ring/), "54{Enter}");
    await userEvent.click(await screen.findByRole("button", { name: /Set stage 2/ }));
    expect(sent.at(-1)?.body).toEqual({ sun: 18, ring: 54, planets: 3 });
    expect(onSet).toHaveBeenCalledWith({ "gearing.1.ratio": 4 });
    // A chain has teeth of its own, and is not offered.
    expect(screen.queryByRole("button", { name: /Set stage 1/ })).toBeNull();
  });

  test("a diametral pitch is told as a module", async () => {
    drawn(<GearTeeth {...props} />);
    await userEvent.type(screen.getByLabelText("Diametral pitch"), "32{Enter}");
    expect(await screen.findByText(/Module 0.7938 mm/)).toBeTruthy();
  });
});
