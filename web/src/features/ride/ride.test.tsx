import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import type { KeptRideCard, RideShown } from "../../api/types";
import { drawn, serverAnswers } from "../../testing";
import { type OpenedBuild, OpenedContext } from "../../workbench/opened";
import { placesOf, withPlaceAt, withPlaceMoved, withPlaceOut } from "./places";
import { keptPlan, rideOf, type Stretch, stretchesOf, usualPlan } from "./plan";
import { RidePage } from "./RidePage";

vi.mock("../../ui/useSize", () => ({ useSize: () => [() => {}, 640, 300] }));

beforeEach(() => localStorage.clear());
afterEach(cleanup);

describe("what is asked of a ride", () => {
  const plan = usualPlan(28 / 3.6);

  test("stretches become places of a road, a limit from where it begins, a stop where it ends", () => {
    const stretches = [
      { lengthM: 300, upM: 6, limitKmh: null, stopS: null },
      { lengthM: 200, upM: -2, limitKmh: 15, stopS: 20 },
    ];
    expect(rideOf({ ...plan, stretches, thereAndBack: false }).course).toEqual({
      kind: "route",
      ride_kmh: 28,
      there_and_back: false,
      points: [
        { distance_m: 0, elevation_m: 0 },
        { distance_m: 300, elevation_m: 6, limit_kmh: 15 },
        { distance_m: 500, elevation_m: 4, stop_s: 20 },
      ],
    });
  });

  test("cycles, starts and stops go by their names", () => {
    expect(rideOf({ ...plan, kind: "ece-15" }).course).toMatchObject({ name: "ece-15" });
    expect(rideOf({ ...plan, kind: "start", toKmh: 20 }).course).toMatchObject({
      kind: "standing",
      until_kmh: 20,
    });
    expect(rideOf({ ...plan, kind: "stops", times: 3 }).course).toMatchObject({ times: 3 });
  });
});

const column = (...values: number[]) => values;
const SHOWN = {
  told: {
    time_s: 300,
    distance_m: 2000,
    energy_wh: 40,
    energy_wh_per_km: 20,
    soc_end_pct: 90,
    peaks: { winding_c: 60 },
    least: { cell_voltage_v: 3.6 },
    behind_s: 0,
    finished: true,
    ended_by: "course",
    events: [{ t_s: 150, distance_m: 1000, kind: "over_limit", what: "The case passes 60 C." }],
    ledger_wh: {
      cells: 41,
      air: 20,
      tyres: 10,
      climb: 0,
      kinetic: 0,
      motor_heat: 8,
      gearing_heat: 2,
      controller_heat: 0.5,
      pack_heat: 0.5,
      brakes: 0,
    },
    bands: { soc_end_pct: [86, 90, 93] },
    cut_off_chance: 0.25,
  },
  verdicts: [
    { id: "arrives", part: "pack", title: "Arrives with 90 %", severity: "watch", why: "In 25." },
  ],
  left_km: [20, 18, 16],
  left_band: [],
  rows: {
    time_s: column(0, 150, 300),
    distance_m: column(0, 1000, 2000),
    speed_kmh: column(0, 25, 25),
    asked_kmh: column(0, 25, 25),
    cells_w: column(0, 500, 400),
    road_w: column(0, 400, 300),
    soc_pct: column(100, 95, 90),
    cell_voltage_v: column(4.1, 3.9, 3.8),
  },
  limited_by: ["", "", ""],
  height_m: column(0, 10, 0),
  limits_c: {},
} as unknown as RideShown;

const opened = (pinnedNumber = 1, kind = "ground") =>
  ({
    bench: {},
    state: {
      document: {
        name: "Punt",
        motor: { count: 1 },
        conditions: {},
        ...(kind === "ground" ? { wheel: {} } : { propeller: {} }),
        vehicle: { kind },
      },
      build: { id: "b", head: 1, pinned: { number: pinnedNumber, document: { name: "Old" } } },
      answer: { moments: [{ id: "cruise", state: { speed_mps: 7 } }] },
    },
    met: undefined,
    onShown: () => {},
  }) as unknown as OpenedBuild;

const page = (build = opened()) =>
  drawn(
    <OpenedContext value={build}>
      <RidePage />
    </OpenedContext>,
  );

describe("the ride", () => {
  test("says how it arrives, how sure that is, and where it went", async () => {
    serverAnswers(() => ({ data: SHOWN }));
    page();
    expect(await screen.findByText("Arrives with")).toBeTruthy();
    expect(await screen.findByText("86 to 93")).toBeTruthy();
    expect(screen.getByRole("list", { name: "Verdicts of the ride" }).textContent).toContain(
      "Arrives with 90 %. In 25.",
    );
    expect(screen.getByRole("region", { name: "Where it went" }).textContent).toContain("20 Wh");
  });

  test.each([
    ["hull", ["long", "at most", "then a stop of"], true],
    ["aircraft", ["long", "up", "at most"], false],
  ])("a ride of kind %s is said by what it goes through", async (kind, asked, wet) => {
    const told = {
      ...SHOWN.told,
      events: [],
      ledger_wh: { ...SHOWN.told.ledger_wh, tyres: 0, brakes: 1, wake: 6, blades: 3, water: 4 },
    };
    const sent = serverAnswers(() => ({ data: { ...SHOWN, told } }));
    const { container } = page(opened(1, kind));
    await screen.findByText("Arrives with");
    expect(JSON.stringify(sent.at(-1)?.body).includes("stop_s")).toBe(wet);
    await userEvent.click(screen.getByText(/^The way/));
    const row = screen.getAllByRole("listitem").find((one) => one.textContent?.includes("long"));
    expect(row?.textContent?.match(/long|up|at most|then a stop of/g)).toEqual(asked);
    const went = screen.getByRole("region", { name: "Where it went" }).textContent;
    expect(went).toContain("wake");
    expect(went).toContain("held back to slow down");
    expect(container.textContent).not.toMatch(/wheel|road|tyre|grade|slope|brake by|ECE/i);
    expect(screen.queryByRole("tab", { name: "Meters on the bench" })).toBeNull();
  });

  test("an event leads to its place, and so does the slider", async () => {
    serverAnswers(() => ({ data: SHOWN }));
    page();
    await userEvent.click(await screen.findByRole("button", { name: /The case passes 60 C/ }));
    expect(screen.getByRole("heading", { name: /1.00 km, after 2.5 min/ })).toBeTruthy();
    fireEvent.change(screen.getByRole("slider", { name: /Place on the ride/ }), {
      target: { value: "2" },
    });
    expect(screen.getByRole("heading", { name: /2.00 km, after 5.0 min/ })).toBeTruthy();
  });

  test("what is ridden is kept for the build, and asked anew", async () => {
    const sent = serverAnswers(() => ({ data: SHOWN }));
    page();
    await screen.findByText("Arrives with");
    await userEvent.selectOptions(screen.getByLabelText("Ride"), "the urban cycle ECE-15");
    await waitFor(() =>
      expect(sent.at(-1)?.body).toMatchObject({ ride: { course: { name: "ece-15" } } }),
    );
    expect(keptPlan("b")?.kind).toBe("ece-15");
  });

  test("a ride that ends on the way does not arrive", async () => {
    const told = { ...SHOWN.told, finished: false, ended_by: "cut_off", soc_end_pct: 4 };
    serverAnswers(() => ({ data: { ...SHOWN, told } }));
    page();
    expect(await screen.findByText("Left in the pack")).toBeTruthy();
    expect(screen.queryByText("Arrives with")).toBeNull();
  });

  test("its bands are called off, and asked for again", async () => {
    let letGo: (told: { data: unknown }) => void = () => {};
    const later = new Promise<{ data: unknown }>((done) => {
      letGo = done;
    });
    serverAnswers((_, sent) =>
      (sent.body as { draws: number }).draws === 0 ? { data: SHOWN } : later,
    );
    page();
    await userEvent.click(await screen.findByRole("button", { name: "Call it off" }));
    expect(screen.getByText(/Called off/)).toBeTruthy();
    letGo({ data: SHOWN });
    expect(screen.queryByText("86 to 93")).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Ride it after all" }));
    expect(await screen.findByText("86 to 93")).toBeTruthy();
  });

  test("the pinned build rides the same road", async () => {
    const old = { ...SHOWN, told: { ...SHOWN.told, soc_end_pct: 70 } };
    serverAnswers((_, sent) => {
      const { document } = sent.body as { document: { name: string } };
      return { data: document.name === "Old" ? old : SHOWN };
    });
    page(opened(0));
    expect(await screen.findByText(/was 70.0 %/)).toBeTruthy();
  });
});

describe("a road that is drawn", () => {
  const road: Stretch[] = [
    { lengthM: 300, upM: 6, limitKmh: null, stopS: null },
    { lengthM: 200, upM: -2, limitKmh: 15, stopS: 20 },
  ];

  test("a place moves between its neighbours, and all others stay where they are", () => {
    const moved = withPlaceMoved(road, 1, 900, 10);
    expect(placesOf(moved)).toEqual([
      { atM: 0, heightM: 0 },
      { atM: 490, heightM: 10 },
      { atM: 500, heightM: 4 },
    ]);
    expect(moved[1]).toMatchObject({ limitKmh: 15, stopS: 20 });
  });

  test("a place is put in and taken out again", () => {
    const more = withPlaceAt(road, { atM: 400, heightM: 9 });
    expect(placesOf(more).map((place) => place.atM)).toEqual([0, 300, 400, 500]);
    expect(more.map((one) => one.stopS)).toEqual([null, null, 20]);
    expect(withPlaceOut(more, 2)).toEqual(road);
    expect(withPlaceOut(road, 2)).toEqual(road.slice(0, 1));
  });

  test("its stretches come back from its places", () => {
    const plan = { ...usualPlan(5), stretches: road };
    const { course } = rideOf(plan);
    expect(course.kind === "route" ? stretchesOf(course.points) : []).toEqual(road);
  });
});

const KEPT = {
  id: "k",
  name: "Over the dyke",
  version: 1,
  older: true,
  made_at: "2026-02-03T10:00:00Z",
  ride: { ...rideOf({ ...usualPlan(5), chargePct: 40 }), name: "Over the dyke" },
  air_c: -5,
  track: null,
  told: SHOWN.told,
  verdicts: [{ id: "arrives", title: "Cut off on the way", severity: "stop", why: "" }],
} as unknown as KeptRideCard;

describe("kept rides", () => {
  test("say of which version they are, and are ridden anew on the build as it is", async () => {
    const sent = serverAnswers((_, { path }) =>
      path.endsWith("/rides") ? { data: [KEPT] } : { data: SHOWN },
    );
    page();
    await userEvent.click(screen.getByRole("tab", { name: "Kept rides" }));
    expect(await screen.findByText(/of an older version, 1/)).toBeTruthy();
    expect(screen.getByText("Cut off on the way.")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: /Ride it on the build/ }));
    await screen.findByText("Arrives with");
    expect(sent.at(-1)?.body).toMatchObject({
      ride: { name: "Over the dyke", start: { soc_pct: 40 } },
      document: { conditions: { ambient_c: -5 } },
    });
  });

  test("what is taken out is brought back under the same id", async () => {
    const sent = serverAnswers((_, { path }) => ({
      data: path === "/api/ride" ? SHOWN : path.endsWith("/rides") ? [KEPT] : KEPT,
    }));
    page();
    await userEvent.click(screen.getByRole("tab", { name: "Kept rides" }));
    await userEvent.click(await screen.findByRole("button", { name: "Take it out" }));
    await userEvent.click(await screen.findByRole("button", { name: "Bring it back" }));
    await waitFor(() => expect(sent.some((one) => one.method === "PUT")).toBe(true));
    const put = sent.find((one) => one.method === "PUT");
    expect(put?.params.ride_id).toBe("k");
    expect(put?.body).toMatchObject({ version: 1, name: "Over the dyke", air_c: -5 });
  });
});
