import { cleanup, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { drawn, type Sent, serverAnswers } from "../../testing";
import { BriefPage } from "./BriefPage";

const DOCUMENT = {
  format: "young-torrent.brief/1",
  name: "Cargo trike",
  vehicle: { kind: "ground", mass_kg: 180, rolling_resistance: 0.01, drag_area_m2: 0.8 },
  wheel: { rolling_circumference_mm: 1900 },
  wishes: { top_speed_kmh: { min: 24 }, climb: { grade_pct: 8, speed_kmh: 12 } },
};

const KIND = { why: [{ say: "Because.", figure: "top_speed_kmh" }], turns: "", schools: [] };
const ADVICE = {
  commutation: { ...KIND, pick: "brushless" },
  sensing: { ...KIND, pick: "sensored" },
  rotor: { ...KIND, pick: "hub" },
  machine: { ...KIND, pick: "permanent_magnet" },
};

const RESULT = {
  rank: 1,
  build: {},
  parts: { motor: "m", controller: "c", battery: "p", gearing: [], ratio: 9, twins: 1 },
  gearings: 4,
  figures: { top_speed_kmh: 30, price: 400, added_mass_kg: 5 },
  margins: {},
  score: 0.7,
  worth: {},
  bands: {},
  differs: null,
};

const ANSWER = {
  considered: 8000,
  feasible: 16,
  rejected: { budget: 7984 },
  reasons: { budget: "costs more than there is" },
  results: [RESULT],
  trios: [],
  front: [],
  decided: null,
  relaxed: [],
};

const card = (id: string, state: string) => ({
  id,
  brief_id: "b",
  state,
  considered: 8000,
  to_solve: 100,
  solved: state === "done" ? 100 : 10,
  feasible: 16,
  problem: "",
});

/** A server that keeps the brief, and has an answer at once; `refuse` may speak before it. */
function server(
  refuse: (sent: Sent) => ReturnType<Parameters<typeof serverAnswers>[0]> | null,
  answer: object = ANSWER,
  state = "done",
) {
  let document: unknown = DOCUMENT;
  let said: unknown = [];
  let searches = 1;
  return serverAnswers((method, sent) => {
    const refused = refuse(sent);
    if (refused) return refused;
    const brief = {
      id: "b",
      name: "Cargo trike",
      document,
      said,
      weights: { margin: 3, cost: 2 },
      builds: [{ id: "b7", name: "Reed trike" }],
    };
    if (sent.path === "/api/shelf/names")
      return {
        data: {
          motors: [{ id: "m", name: "Millrace 80" }],
          controllers: [{ id: "c", name: "Sallow 60" }],
          packs: [{ id: "p", name: "Reed 10S" }],
        },
      };
    if (sent.path === "/api/advise") return { data: ADVICE };
    if (sent.path === "/api/matches/{match_id}")
      return { data: { ...card(`${sent.params.match_id}`, state), document, answer } };
    if (sent.path === "/api/briefs/{brief_id}" && method === "POST") {
      ({ document, said } = sent.body as { document: unknown; said: unknown });
      searches += 1;
      return { data: { ...brief, document, said, match: card(`match-${searches}`, "running") } };
    }
    if (sent.path === "/api/briefs/{brief_id}")
      return { data: { ...brief, match: card("match-1", state) } };
    if (sent.path === "/api/matches/{match_id}/build") return { data: { id: "made" } };
    return { data: {} };
  });
}

const WINNER = "Millrace 80, Sallow 60, Reed 10S";

/** The page with its answer, as somebody sees it who begins to type. */
const open = async () => {
  const page = drawn(<BriefPage />, { at: "/briefs/b", path: "/briefs/:id" });
  await screen.findByText(WINNER);
  return page;
};

const kept = (sent: ReturnType<typeof server>) =>
  sent.filter((one) => one.method === "POST" && one.path === "/api/briefs/{brief_id}");

beforeEach(() => localStorage.clear());
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

describe("a brief on screen", () => {
  test("shows what was begun with as guesses, and what the shelf has for it", async () => {
    server(() => null);
    await open();
    expect(await screen.findByLabelText("Mass without drive, a guess")).toHaveProperty(
      "value",
      "180",
    );
    expect(await screen.findByText(WINNER)).toBeTruthy();
    expect(
      screen.getByText("16 of the 8,000 combinations on the shelf do all of this."),
    ).toBeTruthy();
    expect(screen.getByText("costs more than there is")).toBeTruthy();
    expect(screen.getByText("99.8 %")).toBeTruthy();
    const made = screen.getByRole("link", { name: "Reed trike" });
    expect(made.getAttribute("href")).toBe("/builds/b7");
  });

  test("names fixed rules that stand in the way, and the nearest that each holds off", async () => {
    const nearest = { ...RESULT.parts, ratio: 14.2 };
    const blocked = [
      { rule: "wires", say: "The wires", count: 800, nearest, why: "The wires carry 30 A of 20." },
      { rule: "traction", say: "The grip", count: 12, nearest: null, why: "" },
    ];
    server(() => null, { ...ANSWER, feasible: 0, results: [], blocked, whole: false });
    drawn(<BriefPage />, { at: "/briefs/b", path: "/briefs/:id" });
    const rows = (await screen.findAllByText(/rules out/)).map((one) => one.textContent);
    expect(rows[0]).toBe(
      `The wires rules out 800 combinations. Nearest without it: ${WINNER}, 14.2 to 1. The wires carry 30 A of 20.`,
    );
    expect(rows[1]).toContain("Even without it nothing would do.");
    expect(screen.getByText(/more than can be looked at/)).toBeTruthy();
  });

  test("a search that was stopped before anything was found does not say what would help", async () => {
    server(() => null, { ...ANSWER, feasible: 0, results: [] }, "cancelled");
    drawn(<BriefPage />, { at: "/briefs/b", path: "/briefs/:id" });
    expect(await screen.findByText(/^Stopped early/)).toBeTruthy();
    expect(await screen.findByText("costs more than there is")).toBeTruthy();
    expect(screen.queryByText(/No single wish/)).toBeNull();
  });

  test("the axle's ratio goes with its number", async () => {
    const sent = server(() => null);
    await open();
    const axle = screen.getByLabelText("Ratio of the axle itself");
    await userEvent.type(axle, "4.1{Enter}");
    await waitFor(() => expect(kept(sent)).toHaveLength(1), { timeout: 3000 });
    expect(kept(sent)[0]?.body).toMatchObject({ document: { final_drive: { ratio: 4.1 } } });
    await userEvent.clear(axle);
    await userEvent.type(axle, "{Enter}");
    await waitFor(() => expect(kept(sent)).toHaveLength(2), { timeout: 3000 });
    expect(kept(sent)[1]?.body).not.toMatchObject({ document: { final_drive: {} } });
  });

  test("keeps what is typed and searches for it in one request, once for a few changes", async () => {
    const sent = server(() => null);
    await open();
    const user = userEvent.setup();
    const mass = await screen.findByLabelText("Mass without drive, a guess");
    await user.clear(mass);
    await user.type(mass, "205{Enter}");
    const budget = screen.getByLabelText("Budget");
    await user.type(budget, "900{Enter}");
    await waitFor(() => expect(kept(sent)).toHaveLength(1), { timeout: 3000 });
    expect(kept(sent)[0]?.body).toEqual({
      search: true,
      said: ["vehicle.mass_kg", "wishes.budget"],
      document: {
        ...DOCUMENT,
        vehicle: { ...DOCUMENT.vehicle, mass_kg: 205 },
        wishes: { ...DOCUMENT.wishes, budget: 900 },
      },
    });
    // What was said is a guess no longer, here and after the page is opened again.
    expect(screen.getByLabelText("Mass without drive")).toBeTruthy();
    cleanup();
    await open();
    expect(await screen.findByLabelText("Mass without drive")).toBeTruthy();
    expect(await screen.findByLabelText("Drag area, a guess")).toBeTruthy();
  });

  test("a wish that is emptied goes as a whole, and undo brings it back", async () => {
    const sent = server(() => null);
    await open();
    const user = userEvent.setup();
    await user.clear(await screen.findByLabelText("Grade of the hill, a guess"));
    await user.tab();
    await waitFor(() => expect(kept(sent)).toHaveLength(1), { timeout: 3000 });
    const body = JSON.stringify(kept(sent)[0]?.body);
    expect(JSON.parse(body).document.wishes).toEqual({ top_speed_kmh: { min: 24 } });
    expect(screen.queryByLabelText("Speed on the hill, a guess")).toBeNull();
    await user.click(screen.getByRole("button", { name: "Undo" }));
    await waitFor(() => expect(kept(sent)).toHaveLength(2), { timeout: 3000 });
    expect(kept(sent)[1]?.body).toMatchObject({ document: DOCUMENT, said: [] });
    expect(screen.getByRole("button", { name: "Undo" })).toHaveProperty("disabled", true);
  });

  test("what the server refuses is told at its place, and the last results stay", async () => {
    server((sent) =>
      JSON.stringify(sent.body ?? {}).includes('"min":90')
        ? { status: 422, where: "wishes.top_speed_kmh", what: "must have its least below its most" }
        : null,
    );
    await open();
    const user = userEvent.setup();
    const least = await screen.findByLabelText("Top speed at least, a guess");
    await user.clear(least);
    await user.type(least, "90{Enter}");
    expect(await screen.findByText(/Not searched/, undefined, { timeout: 3000 })).toHaveProperty(
      "textContent",
      "Not searched: top speed must have its least below its most.",
    );
    expect(screen.getByLabelText("Top speed at least").getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByText(WINNER)).toBeTruthy();
  });

  test("with the database away nothing is lost: it says so and tries again", async () => {
    let away = true;
    const sent = server((one) =>
      away && one.body && one.path === "/api/briefs/{brief_id}"
        ? { status: 503, where: "database", what: "does not answer; try again in a moment" }
        : null,
    );
    await open();
    const user = userEvent.setup();
    const mass = await screen.findByLabelText("Mass without drive, a guess");
    await user.clear(mass);
    await user.type(mass, "99{Enter}");
    expect(await screen.findByText(/Not kept yet/, undefined, { timeout: 3000 })).toBeTruthy();
    away = false;
    await waitFor(() => expect(kept(sent).length).toBeGreaterThan(1), { timeout: 4000 });
    await waitFor(() => expect(screen.queryByText(/Not kept yet/)).toBeNull());
    expect(kept(sent).at(-1)?.body).toMatchObject({ document: { vehicle: { mass_kg: 99 } } });
  }, 12_000);

  test("what was said just before the page was closed is there again, and kept then", async () => {
    let away = true;
    const sent = server((one) =>
      away && one.body ? { status: 503, where: "database", what: "does not answer" } : null,
    );
    await open();
    const mass = screen.getByLabelText("Mass without drive, a guess");
    await userEvent.clear(mass);
    await userEvent.type(mass, "77{Enter}");
    cleanup();
    away = false;
    await open();
    expect(await screen.findByLabelText("Mass without drive")).toHaveProperty("value", "77");
    await waitFor(() =>
      expect(kept(sent).at(-1)?.body).toMatchObject({ said: ["vehicle.mass_kg"] }),
    );
    await waitFor(() => expect(localStorage).toHaveLength(0));
    // What the server had before is one step back.
    await userEvent.click(screen.getByRole("button", { name: "Undo" }));
    expect(screen.getByLabelText("Mass without drive, a guess")).toHaveProperty("value", "180");
  });

  test("a result becomes a build and is opened", async () => {
    const sent = server(() => null);
    const { router } = await open();
    await userEvent.click(await screen.findByRole("button", { name: "To the bench, number 1" }));
    await waitFor(() => expect(router.state.location.pathname).toBe("/builds/made"));
    const made = sent.find((one) => one.path === "/api/matches/{match_id}/build");
    expect(made).toMatchObject({ params: { match_id: "match-1" }, body: { rank: 1 } });
  });

  test("other weights sort what is there while the shelf is searched by them", async () => {
    server(() => null);
    await open();
    const weights = await screen.findByText("What counts most?");
    const slider = within(weights.parentElement as HTMLElement).getByLabelText("price");
    expect(slider).toHaveProperty("value", "2");
    await userEvent.click(slider);
    // A range is moved as the browser does it.
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set?.call(slider, "5");
    slider.dispatchEvent(new Event("input", { bubbles: true }));
    expect(await screen.findByText(/sorted by what counts now/)).toBeTruthy();
  });
});

test("the kind that is advised is searched for alone at a press, and any kind again", async () => {
  const sent = server(() => null);
  drawn(<BriefPage />, { at: "/briefs/b", path: "/briefs/:id" });
  await userEvent.click(
    await screen.findByRole("button", { name: "Search only for motors without brushes" }),
  );
  const kept = () =>
    sent.findLast((one) => one.path === "/api/briefs/{brief_id}" && one.method === "POST")?.body;
  await waitFor(() =>
    expect(kept()).toMatchObject({ document: { wishes: { commutation: "brushless" } } }),
  );
  expect(await screen.findByText(/Only without brushes, as you say/)).toBeTruthy();
  await userEvent.click(screen.getByRole("button", { name: "Search for any kind" }));
  await waitFor(() =>
    expect((kept() as { document: { wishes: object } }).document.wishes).not.toHaveProperty(
      "commutation",
    ),
  );
});
