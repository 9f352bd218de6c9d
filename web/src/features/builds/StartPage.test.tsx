import { cleanup, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { client } from "../../api/client";
import type { BuildCard } from "../../api/types";
import { drawn, serverAnswers } from "../../testing";
import { together } from "./OwnBuilds";
import { StartPage } from "./StartPage";

const STATE = {
  speed_mps: 5,
  cells_w: 200,
  road_w: 160,
  takes: {},
  terminal_w: 195,
  shaft_w: 170,
  stage_losses_w: [],
};

const CARD = {
  id: "b1",
  name: "Sluice scooter",
  demo: "",
  changed_at: "2026-05-04T10:00:00Z",
  problem: null,
  figures: {
    drive: "10S3P, hub motor",
    motors: 1,
    state: STATE,
    top_speed_mps: 10,
    climb_speed_mps: 0,
    climb_met: false,
    titles: { cruise: "cruise", top_speed: "top speed", climb: "climb 8 %" },
    stops: 1,
    watches: 2,
  },
};

const DOCUMENT = { format: "young-torrent.build/1", name: "Sluice scooter", motor: { count: 1 } };
const START = { id: "kick-scooter", title: "Kick scooter", say: "", document: { name: "Scooter" } };
const KINDS = [
  {
    ...START,
    group: "one_person",
    top_speed_mps: 7,
    state: STATE,
    document: { motor: { count: 1 }, wheel: {} },
  },
  {
    id: "hoist",
    group: "loads",
    title: "Hoist",
    say: "A drum.",
    top_speed_mps: 0.3,
    state: STATE,
    document: { name: "Hoist", motor: { count: 1 } },
  },
];

interface Told {
  builds?: object[];
  removed?: object[];
  examples?: object[];
  briefs?: object[];
  away?: boolean;
}

function server({
  builds = [CARD],
  removed = [],
  examples = [],
  briefs = [],
  away = false,
}: Told = {}) {
  return serverAnswers((method, { path, query }) => {
    const key = `${method} ${path}`;
    if (away && key === "POST /api/briefs")
      return { status: 503, where: "database", what: "does not answer" };
    const data: Record<string, unknown> = {
      "GET /api/builds":
        query.whose === "examples"
          ? { builds: examples, removed: [], total: examples.length, next: "" }
          : { builds, removed, total: builds.length, next: "" },
      "GET /api/archetypes": KINDS,
      "GET /api/shelf/names": {
        motors: [{ id: "m", name: "Millrace 80" }],
        controllers: [],
        packs: [{ id: "p", name: "Reed 10S" }],
      },
      "GET /api/briefs": { briefs, removed: [], total: briefs.length, next: "" },
      "GET /api/brief-starts": [START],
      "POST /api/briefs": { id: "new", document: START.document, match: { id: "m" } },
      "GET /api/builds/{build_id}": { id: "b1", document: DOCUMENT },
      "POST /api/builds": { id: "b2" },
    };
    return { data: data[key] ?? {} };
  });
}

/** What the page asks for beside what a test is about. */
const REST: Record<string, unknown> = {
  "/api/builds": { builds: [], removed: [], total: 0, next: "" },
  "/api/briefs": { briefs: [], removed: [], total: 0, next: "" },
  "/api/archetypes": [],
  "/api/brief-starts": [],
  "/api/shelf/names": { motors: [], controllers: [], packs: [] },
};

const open = () => drawn(<StartPage />, { path: "/" });
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
      name: "Sluice scooter, cruise: 200 W from the cells, 160 W on the road",
    }),
  ).toBeTruthy();
});

test("who comes first is told what this is and asked what should move, examples after it", async () => {
  server({ builds: [], examples: [{ ...CARD, id: "d", name: "Causeway trike", demo: "trike" }] });
  open();
  expect(await screen.findByRole("heading", { level: 1 })).toBeTruthy();
  const heads = (await screen.findAllByRole("heading", { level: 2 })).map((one) => one.textContent);
  expect(heads[0]).toBe("What do you want to move?");
  const shown = await screen.findByRole("link", { name: "Causeway trike" });
  const first = screen.getByRole("button", { name: /^Kick scooter/ });
  expect(first.compareDocumentPosition(shown)).toBe(Node.DOCUMENT_POSITION_FOLLOWING);
  expect(screen.queryByRole("heading", { name: "Briefs" })).toBeNull();
  await userEvent.click(screen.getByRole("button", { name: /Builds to learn from/ }));
  expect(screen.queryByRole("link", { name: "Causeway trike" })).toBeNull();
});

test("with builds of one's own these come first, the last one large, examples folded", async () => {
  const other = { ...CARD, id: "b2", name: "Punt" };
  server({ builds: [CARD, other], examples: [{ ...CARD, id: "d", name: "Causeway trike" }] });
  open();
  const last = await screen.findByRole("heading", { name: "Sluice scooter" });
  const begin = screen.getByRole("heading", { name: "Begin another" });
  expect(last.compareDocumentPosition(begin)).toBe(Node.DOCUMENT_POSITION_FOLLOWING);
  expect(screen.getByRole("link", { name: "Punt" })).toBeTruthy();
  expect(screen.queryByRole("link", { name: "Causeway trike" })).toBeNull();
});

test("a kind of vehicle is found by typing, and the only one is begun by the enter key", async () => {
  const sent = server({ builds: [] });
  const { router } = open();
  const field = await screen.findByLabelText("Find a kind of vehicle");
  await screen.findByRole("button", { name: /^Hoist/ });
  await userEvent.type(field, "canoe");
  expect(screen.getByText(/None is called that/)).toBeTruthy();
  await userEvent.clear(field);
  await userEvent.type(field, "drum{Enter}");
  await waitFor(() => expect(router.state.location.pathname).toBe("/builds/b2"));
  expect(sent.find((one) => one.method === "POST")?.body).toMatchObject({
    document: { name: "Hoist" },
  });
});

test("parts that are there become a brief without wishes that says only them", async () => {
  const sent = server({ builds: [] });
  const { router } = open();
  await userEvent.click(await screen.findByRole("tab", { name: "I have parts" }));
  const go = screen.getByRole("button", { name: "See what they can do" });
  expect(go).toHaveProperty("disabled", true);
  await screen.findByRole("option", { name: "Millrace 80" });
  await userEvent.selectOptions(screen.getByLabelText("Motor"), "m");
  // What does not roll is no vehicle that a brief can speak of.
  expect(screen.queryByRole("option", { name: "Hoist" })).toBeNull();
  await userEvent.selectOptions(screen.getByLabelText("What should they move?"), "kick-scooter");
  await userEvent.click(go);
  await waitFor(() => expect(router.state.location.pathname).toBe("/briefs/new"));
  expect(sent.find((one) => one.method === "POST")?.body).toEqual({
    document: { ...START.document, wishes: {}, owned: { motor: "m" } },
    said: ["owned.motor"],
    search: true,
  });
});

test("a machine that disappoints is opened on what would help", async () => {
  server();
  const { router } = open();
  await userEvent.click(await screen.findByRole("tab", { name: /disappoints me/ }));
  expect(screen.getByRole("button", { name: "It won't climb" })).toHaveProperty("disabled", true);
  await screen.findByRole("option", { name: "Sluice scooter" });
  await userEvent.selectOptions(screen.getByLabelText(/Which machine/), "build:b1");
  await userEvent.click(screen.getByRole("button", { name: "It won't climb" }));
  await waitFor(() => expect(router.state.location.pathname).toBe("/builds/b1"));
  expect(router.state.location.search).toBe("?help=climb_kmh");
});

describe("builds that follow one another", () => {
  const cards = (names: [string, string][]) =>
    names.map(([name, changed_at]) => ({ name, changed_at }) as unknown as BuildCard);
  const told = (groups: ReturnType<typeof together>) =>
    groups.map(({ title, cards: found }) => [title, found.map((one) => one.name)]);
  const now = new Date(2026, 4, 20, 9, 0);
  const at = (day: number, month = 4) => new Date(2026, month, day, 8, 0).toISOString();

  test("stand together by when they were changed", () => {
    const all = cards([
      ["a", at(20)],
      ["b", at(19)],
      ["c", at(14)],
      ["d", at(13)],
      ["e", at(21, 3)],
      ["f", at(20, 3)],
    ]);
    expect(told(together(all, "changed", now))).toEqual([
      ["Today", ["a"]],
      ["This week", ["b", "c"]],
      ["This month", ["d", "e"]],
      ["Earlier", ["f"]],
    ]);
  });

  test("or by their letter", () => {
    const all = cards([
      ["12 V barrow", at(1)],
      ["Punt", at(2)],
      ["pram", at(3)],
    ]);
    expect(told(together(all, "name", now))).toEqual([
      ["0 to 9 and signs", ["12 V barrow"]],
      ["P", ["Punt", "pram"]],
    ]);
  });
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

test("one that can't be read any more says why and is opened as text", async () => {
  const problem = { where: "battery.series", what: "must be a number" };
  server({ builds: [CARD, { ...CARD, id: "b9", name: "Old punt", figures: null, problem }] });
  open();
  expect(await screen.findByText("battery.series")).toBeTruthy();
  const link = screen.getByRole("link", { name: "open it as text" });
  expect(link.getAttribute("href")).toBe("/api/builds/b9/document");
  expect(screen.queryByRole("link", { name: "Old punt" })).toBeNull();
  // The others are there all the same.
  expect(screen.getByRole("link", { name: "Sluice scooter" })).toBeTruthy();
});

test("figures that are still worked out are told as such, and come", async () => {
  const told: { builds: object[] } = { builds: [{ ...CARD, figures: null }] };
  serverAnswers((_, { path }) => ({
    data:
      path === "/api/builds" ? { ...told, removed: [], total: 1, next: "" } : (REST[path] ?? {}),
  }));
  open();
  expect(await screen.findByText("Being worked out")).toBeTruthy();
  told.builds = [CARD];
  expect(await screen.findByText("36.0 km/h", {}, { timeout: 3000 })).toBeTruthy();
});

test("many builds come a page at a time and are found by their names", async () => {
  const asked: string[] = [];
  vi.spyOn(client, "GET").mockImplementation((async (path: string, init: unknown) => {
    const query = (init as { params?: { query?: Record<string, string> } })?.params?.query ?? {};
    if (path !== "/api/builds" || query.whose === "examples")
      return { data: REST[path], response: new Response(null) };
    asked.push(`${query.words}|${query.sort}|${query.after}|${query.whose}`);
    const id = query.after || query.words || "first";
    const data = {
      builds: [{ ...CARD, id, name: `Cart ${id}` }],
      removed: [],
      total: 30,
      next: query.after ? "" : "second",
    };
    return { data, response: new Response(null) };
  }) as never);
  open();
  await userEvent.click(await screen.findByRole("button", { name: "Show more, 29 to come" }));
  expect(await screen.findByRole("link", { name: "Cart second" })).toBeTruthy();
  expect(screen.getByRole("link", { name: "Cart first" })).toBeTruthy();
  await userEvent.type(screen.getByLabelText("Find a build"), "reed");
  expect(await screen.findByRole("link", { name: "Cart reed" })).toBeTruthy();
  await userEvent.selectOptions(screen.getByLabelText("Order of the builds"), "name");
  await waitFor(() => expect(asked).toContain("reed|name||all"));
  expect(asked.slice(0, 2)).toEqual(["|changed||own", "|changed|second|own"]);
});

test("a brief is taken out of the list and brought back", async () => {
  const brief = { id: "w", name: "Punt", match: null };
  const told = { briefs: [brief], removed: [] as object[] };
  const sent: string[] = [];
  serverAnswers((method, { path }) => {
    if (path.endsWith("/bring-back")) {
      sent.push(`${method} ${path}`);
      told.briefs = [brief];
      told.removed = [];
    }
    return {
      data: path === "/api/briefs" ? { ...told, total: 1, next: "" } : (REST[path] ?? {}),
    };
  });
  vi.spyOn(client, "DELETE").mockImplementation((async (path: string) => {
    sent.push(`DELETE ${path}`);
    told.briefs = [];
    told.removed = [brief];
    return { response: new Response(null) };
  }) as never);
  open();
  await userEvent.click(await screen.findByRole("button", { name: /the brief for the Punt/ }));
  await userEvent.click(await screen.findByText("1 taken out of the list"));
  await userEvent.click(screen.getByRole("button", { name: "Bring back" }));
  expect(await screen.findByRole("link", { name: /A drive for the Punt/ })).toBeTruthy();
  expect(sent).toEqual(["DELETE /api/briefs/{brief_id}", "POST /api/briefs/{brief_id}/bring-back"]);
});
