import { cleanup, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import type { BuildDocument } from "../api/types";
import { drawn, serverAnswers } from "../testing";
import { BuildFrame } from "./BuildFrame";
import { ENTRIES, type Known } from "./entries";

const DOCUMENT = { name: "Punt", motor: { count: 1 }, gearing: [], battery: {}, wheel: {} };

const entry = (path: string) => {
  const found = ENTRIES.find((one) => one.path === path);
  if (!found) throw new Error(`no page ${path}`);
  return found;
};

const known = (more: Partial<Known> = {}): Known => ({
  document: DOCUMENT as unknown as BuildDocument,
  answer: null,
  met: undefined,
  plan: { done: [], of: 0 },
  power: { done: [], of: 0 },
  ...more,
});

describe("what stands open on a page", () => {
  test("of the bench is what stops the build", () => {
    const verdicts = [{ severity: "stop" }, { severity: "watch" }, { severity: "stop" }];
    const answer = { verdicts } as unknown as Known["answer"];
    expect(entry("").open(known({ answer }))).toEqual({ severity: "stop", say: "2 stop" });
    expect(entry("").open(known())).toBeNull();
  });

  test("of the brief is what is missed, of gearing a plan that is half ridden", () => {
    const margins = { a: { margin: -0.1 }, b: { margin: 0.2 }, c: { margin: null } };
    const met = { brief_id: "w", margins } as unknown as Known["met"];
    expect(entry("brief").open(known({ met }))?.say).toBe("2 missed");
    const half = { done: ["16 to 60"], of: 3 };
    expect(entry("gearing").open(known({ plan: half }))?.say).toBe("1 of 3 ridden");
    expect(entry("gearing").open(known({ plan: { done: ["a"], of: 1 } }))).toBeNull();
    expect(entry("controller").open(known({ power: half }))?.say).toBe("1 of 3 done");
  });

  test("a drum has no brief", () => {
    const drum = { ...DOCUMENT, wheel: undefined } as unknown as BuildDocument;
    expect(entry("brief").has(drum)).toBe(false);
  });

  test("each page has a letter of its own title", () => {
    const letters = ENTRIES.map((one) => one.letter);
    expect(new Set(letters).size).toBe(letters.length);
    for (const one of ENTRIES) expect(one.title.toLowerCase()).toContain(one.letter);
  });
});

describe("the frame of a build", () => {
  let sent: ReturnType<typeof serverAnswers>;
  let briefId: string | null = null;
  beforeEach(() => {
    localStorage.clear();
    briefId = null;
    sent = serverAnswers((method, { path }) => {
      if (path === "/api/builds/{build_id}")
        return {
          data: {
            id: "b",
            name: "Punt",
            head: 3,
            can_undo: true,
            can_redo: false,
            document: DOCUMENT,
            pinned: { number: 1, document: DOCUMENT },
            ticks: {},
          },
        };
      if (path.endsWith("/meets"))
        return { data: { brief_id: briefId, name: "Punt", changed: false, margins: {} } };
      if (path.endsWith("/brief") && method === "POST") {
        briefId = "w";
        return { data: { id: "w" } };
      }
      return { status: 404, where: path, what: "is not there" };
    });
  });
  afterEach(() => {
    cleanup();
    vi.restoreAllMocks();
  });
  const open = (at: string) => drawn(<BuildFrame />, { at, path: "/builds/:id/*" });

  test("names the build on every page, marks the page and goes to the others by their keys", async () => {
    const { router } = open("/builds/b/brief");
    expect(await screen.findByLabelText("Name of the build")).toHaveProperty("value", "Punt");
    const here = () =>
      screen
        .getAllByRole("link")
        .filter((one) => one.getAttribute("aria-current") === "page")
        .map((one) => one.textContent);
    expect(here()).toEqual(["Brief"]);
    await userEvent.keyboard("g");
    await waitFor(() => expect(router.state.location.pathname).toBe("/builds/b/gearing"));
    expect(here()).toEqual(["Gearing"]);
    expect(document.title).toBe("Gearing of Punt, Young Torrent");
    await userEvent.keyboard("i");
    await waitFor(() => expect(router.state.location.pathname).toBe("/builds/b/brief"));
  });

  test("a letter that is typed into a field goes nowhere", async () => {
    const { router } = open("/builds/b/brief");
    await userEvent.type(await screen.findByLabelText("Name of the build"), "g");
    expect(router.state.location.pathname).toBe("/builds/b/brief");
  });

  test("nor does one where letters are turned off", async () => {
    localStorage.setItem("young-torrent.keys", "off");
    const { router } = open("/builds/b/brief");
    await screen.findByLabelText("Name of the build");
    await userEvent.keyboard("g");
    expect(router.state.location.pathname).toBe("/builds/b/brief");
  });

  test("undo of the head is the build's, and is not there where a page undoes its own", async () => {
    open("/builds/b/gearing");
    expect(await screen.findByRole("button", { name: "Undo" })).toBeTruthy();
    cleanup();
    open("/builds/b/brief");
    await screen.findByLabelText("Name of the build");
    expect(screen.queryByRole("button", { name: "Redo" })).toBeNull();
  });

  test("a build without a brief gets one at a press", async () => {
    open("/builds/b/brief");
    await userEvent.click(await screen.findByRole("button", { name: /Write the brief/ }));
    await waitFor(() =>
      expect(sent.some((one) => one.path === "/api/briefs/{brief_id}")).toBe(true),
    );
    expect(sent.filter((one) => one.path === "/api/builds/{build_id}/brief")).toHaveLength(1);
  });
});
