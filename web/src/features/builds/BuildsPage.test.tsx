import { cleanup, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { drawn, serverAnswers } from "../../testing";
import { BuildsPage } from "./BuildsPage";

const STATE = {
  speed_mps: 5,
  cells_w: 200,
  road_w: 160,
  terminal_w: 195,
  shaft_w: 170,
  stage_losses_w: [],
};

const CARD = {
  id: "b1",
  name: "Sluice scooter",
  demo: null,
  drive: "10S3P, hub motor",
  motors: 1,
  state: STATE,
  top_speed_mps: 10,
  climb_speed_mps: 0,
  climb_grade_pct: 8,
  stops: 1,
  watches: 2,
};

const DOCUMENT = { format: "young-torrent.build/1", name: "Sluice scooter", motor: { count: 1 } };
const START = { id: "kick-scooter", title: "Kick scooter", say: "", document: { name: "Scooter" } };

interface Told {
  builds?: object[];
  removed?: object[];
  briefs?: object[];
  away?: boolean;
}

function server({ builds = [CARD], removed = [], briefs = [], away = false }: Told = {}) {
  return serverAnswers((method, { path }) => {
    const key = `${method} ${path}`;
    if (away && key === "POST /api/briefs")
      return { status: 503, where: "database", what: "does not answer" };
    const data: Record<string, unknown> = {
      "GET /api/builds": { builds, removed },
      "GET /api/archetypes": [
        { ...START, top_speed_mps: 7, state: STATE, document: { motor: { count: 1 } } },
      ],
      "GET /api/briefs": briefs,
      "GET /api/brief-starts": [START],
      "POST /api/briefs": { id: "new", document: START.document, match: { id: "m" } },
      "GET /api/builds/{build_id}": { id: "b1", document: DOCUMENT },
      "POST /api/builds": { id: "b2" },
    };
    return { data: data[key] ?? {} };
  });
}

const open = () => drawn(<BuildsPage settings={null} />, { path: "/" });
const file = (text: string, name: string) => new File([text], name);
const give = (one: File) => userEvent.upload(screen.getByLabelText("Build file"), one);

beforeEach(() => localStorage.clear());
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

test("each build says what it does, and that it can't climb where it can't", async () => {
  server();
  open();
  expect(await screen.findByRole("link", { name: "Sluice scooter" })).toBeTruthy();
  expect(screen.getByText("36.0 km/h")).toBeTruthy();
  expect(screen.getByText("can't start")).toBeTruthy();
  expect(
    screen.getByRole("img", {
      name: "Sluice scooter at 18.0 km/h: 200 W from the cells, 160 W on the road",
    }),
  ).toBeTruthy();
});

test("with nothing there yet it says how to begin", async () => {
  server({ builds: [] });
  open();
  expect(await screen.findByText(/Nothing on the bench yet/)).toBeTruthy();
  expect(screen.queryByRole("heading", { name: "Briefs" })).toBeNull();
});

test("a wish goes to the shelf in one request, and to its page", async () => {
  const sent = server();
  const { router } = open();
  await userEvent.click(
    await screen.findByRole("button", { name: "Find a drive for it: Kick scooter" }),
  );
  await waitFor(() => expect(router.state.location.pathname).toBe("/briefs/new"));
  const written = sent.filter((one) => one.method === "POST");
  expect(written).toHaveLength(1);
  expect(written[0]?.body).toEqual({ document: START.document, said: [], search: true });
});

test("what does not answer is said, and one stays where one is", async () => {
  server({ away: true });
  const { router } = open();
  await userEvent.click(
    await screen.findByRole("button", { name: "Find a drive for it: Kick scooter" }),
  );
  expect(await screen.findByText("Not begun: database does not answer.")).toBeTruthy();
  expect(router.state.location.pathname).toBe("/");
});

test.each([
  ["done", 1234, "1,234 combinations do"],
  ["running", 3, "running"],
  ["cancelled", 3, "cancelled"],
])("a brief whose search is %s", async (state, feasible, words) => {
  server({ briefs: [{ id: "w", name: "Punt", match: { state, feasible } }] });
  open();
  expect((await screen.findByText("A drive for the Punt")).parentElement?.textContent).toBe(
    `A drive for the Punt${words}`,
  );
});

test("a copy is a build of its own with a name of its own", async () => {
  const sent = server();
  open();
  await userEvent.click(await screen.findByRole("button", { name: "More for Sluice scooter" }));
  await userEvent.click(await screen.findByRole("menuitem", { name: "Copy" }));
  await waitFor(() => expect(sent.some((one) => one.method === "POST")).toBe(true));
  expect(sent.find((one) => one.method === "POST")?.body).toMatchObject({
    document: { ...DOCUMENT, name: "Sluice scooter (copy)" },
  });
});

test("a build from a file is begun, and what is no build is said to be none", async () => {
  const sent = server();
  const { router } = open();
  await screen.findByRole("link", { name: "Sluice scooter" });
  await give(file("{half", "trike.json"));
  expect(await screen.findByText("trike.json is not JSON.")).toBeTruthy();
  await give(file("x".repeat(1_000_001), "long.json"));
  expect(await screen.findByText("long.json is too long for a build document.")).toBeTruthy();
  expect(sent.filter((one) => one.method === "POST")).toHaveLength(0);
  await give(file(JSON.stringify(DOCUMENT), "scooter.json"));
  await waitFor(() => expect(router.state.location.pathname).toBe("/builds/b2"));
  expect(sent.find((one) => one.method === "POST")?.body).toMatchObject({ document: DOCUMENT });
});
