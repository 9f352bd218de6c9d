import { cleanup, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { drawn, serverAnswers } from "../../testing";
import { ComparePage } from "./ComparePage";

const STATE = {
  speed_mps: 5,
  grade_pct: 0,
  cells_w: 200,
  road_w: 160,
  takes: {},
  terminal_w: 195,
  shaft_w: 170,
  stage_losses_w: [],
};

const candidate = (name: string, met = true) => ({
  name,
  drive: `drive of ${name}`,
  motors: 1,
  changed: name === "Punt" ? [] : ["In the vehicle of Punt."],
  document: { name },
  moments: ["launch", "climb", "cruise", "top_speed", "wheels_up"].map((id, at) => ({
    id,
    title: id === "climb" ? "Climb 8 %" : id.replaceAll("_", " "),
    met,
    state: { ...STATE, speed_mps: 5 + at },
  })),
  map: {
    speeds_mps: [0, 5, 10],
    drive_force_n: [300, 200, 0],
    road_speeds_mps: [0, 10],
    crossings: [],
  },
});

const NAMES: Record<string, string> = { a: "Punt", b: "Barrow", c: "Sled" };

let sent: ReturnType<typeof serverAnswers>;

beforeEach(() => {
  localStorage.clear();
  sent = serverAnswers((_, { path, params, body }) => {
    if (path === "/api/builds")
      return { data: { builds: Object.entries(NAMES).map(([id, name]) => ({ id, name })) } };
    if (path === "/api/builds/{build_id}") {
      const name = NAMES[params.build_id ?? ""];
      if (!name) return { status: 404, where: "build", what: "is not among your builds" };
      return { data: { id: params.build_id, document: { name } } };
    }
    if (path === "/api/matches/{match_id}")
      return { data: { answer: { results: [{ rank: 2, build: { name: "Second" } }] } } };
    if (path === "/api/compare") {
      const { documents } = body as { documents: { name: string }[] };
      return {
        data: {
          terms: { years: 5, hours_a_year: 100 },
          candidates: documents.map((one, at) => candidate(one.name, at === 0)),
          rows: [],
        },
      };
    }
    return { status: 422, where: "vehicle", what: "is of no class of the table" };
  });
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const open = (query: string) => drawn(<ComparePage />, { at: `/compare${query}` });
const compared = () => sent.filter((one) => one.path === "/api/compare").map((one) => one.body);
const titles = () =>
  screen
    .getAllByRole("heading", { level: 2 })
    .map((one) => one.textContent)
    .filter((one) => /^[A-E] /.test(one ?? ""));

test("with fewer than two it says what to do, and takes builds one by one", async () => {
  const { router } = open("?with=build:a");
  expect(screen.getByText(/Take two to five builds/)).toBeTruthy();
  await screen.findByRole("option", { name: "Barrow" });
  // One that is there already is not offered again.
  expect(screen.queryByRole("option", { name: "Punt" })).toBeNull();
  await userEvent.selectOptions(screen.getByLabelText("Compare with another build"), "build:b");
  await screen.findByRole("heading", { name: "A Punt" });
  expect(titles()).toEqual(["A Punt", "B Barrow"]);
  expect(decodeURIComponent(router.state.location.search)).toBe("?with=build:a,build:b");
});

test("builds and results of a search stand beside one another on the terms that are ticked", async () => {
  open("?with=build:a,result:m:2");
  await screen.findByRole("heading", { name: "B Second" });
  const terms = { same_vehicle: true, same_voltage: false };
  expect(compared()).toEqual([{ documents: [{ name: "Punt" }, { name: "Second" }], terms }]);
  await userEvent.click(screen.getByLabelText("at the same voltage"));
  await waitFor(() => expect(compared()).toHaveLength(2));
  expect(compared()[1]).toMatchObject({ terms: { ...terms, same_voltage: true } });
  await userEvent.click(screen.getByLabelText("all in the vehicle of Punt"));
  await waitFor(() => expect(compared()).toHaveLength(3));
  expect(compared()[2]).toMatchObject({ terms: { same_vehicle: false, same_voltage: true } });
});

test("another one sets the terms, and one is left out", async () => {
  open("?with=build:a,build:b,build:c");
  await screen.findByRole("heading", { name: "C Sled" });
  await userEvent.click(screen.getByRole("button", { name: "set the terms by Sled" }));
  await screen.findByRole("heading", { name: "A Sled" });
  expect(titles()).toEqual(["A Sled", "B Punt", "C Barrow"]);
  await userEvent.click(screen.getByRole("button", { name: "leave out Punt" }));
  await waitFor(() => expect(titles()).toEqual(["A Sled", "B Barrow"]));
});

test("a moment is chosen for all, and one that can't do it says so", async () => {
  open("?with=build:a,build:b");
  await screen.findByRole("heading", { name: "A Punt" });
  expect(screen.getByText("25.2 km/h, cruise")).toBeTruthy();
  await userEvent.click(screen.getByRole("button", { name: "Top speed" }));
  expect(await screen.findByText("28.8 km/h, top speed")).toBeTruthy();
  expect(
    screen.getByText("28.8 km/h, top speed, less than asked. In the vehicle of Punt."),
  ).toBeTruthy();
});

test.each([
  ["?with=build:a,build:gone", "The build is not among your builds."],
  ["?with=build:a,result:m:9", "The result is not among those of that search any more."],
])("what is no longer there is named: %s", async (query, words) => {
  open(query);
  expect(await screen.findByText(words)).toBeTruthy();
  expect(compared()).toEqual([]);
});
