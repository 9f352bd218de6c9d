import { cleanup, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { drawn, serverAnswers } from "../../testing";
import { ShelfPage } from "./ShelfPage";

const row = (id: string, price: number, kg: number) => ({
  id,
  name: `Part ${id}`,
  own: false,
  values: [price],
  origins: [""],
  asked: [true],
  figures: [kg],
  unfit: null,
});

let sent: ReturnType<typeof serverAnswers>;
let away = false;

beforeEach(() => {
  localStorage.clear();
  away = false;
  sent = serverAnswers((_, { path, params, body }) => {
    if (path === "/api/builds") return { data: { builds: [{ id: "b", name: "Punt" }] } };
    if (path === "/api/briefs")
      return { data: { briefs: [{ id: "w", name: "Sled", match: null }] } };
    if (path === "/api/builds/{build_id}") return { data: { document: { name: "Punt" } } };
    if (path === "/api/shelf/{kind}/look") {
      if (away) return { status: 422, where: "sort", what: "must be one of name" };
      const found =
        (body as { words: string }).words === "canoe" ? [] : [row("a", 10, 2), row("b", 30, 5)];
      return {
        data: {
          kind: params.kind,
          columns: [{ path: "price", label: "Price", unit: "" }],
          figures: [{ path: "mass", label: "Mass", unit: "kg" }],
          rows: found,
          total: found.length * 200,
        },
      };
    }
    return { data: {} };
  });
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const open = (query = "") => drawn(<ShelfPage />, { at: `/shelf${query}` });
const looks = () => sent.filter((one) => one.path.endsWith("/look"));
const lastAsked = () => looks().at(-1);

test("motors come first, and how many there are beyond those shown is said", async () => {
  open();
  expect(await screen.findByText("400 found, the first 2 here")).toBeTruthy();
  expect(lastAsked()).toMatchObject({ params: { kind: "motors" }, body: { words: "", sort: "" } });
});

test("what is looked for stands in the address, is asked once it rests, and may be nothing", async () => {
  const { router } = open("?kind=packs");
  await screen.findByText(/400 found/);
  await userEvent.type(screen.getByLabelText("Look for"), "canoe");
  expect(await screen.findByText(/Nothing on the shelf is like that/)).toBeTruthy();
  expect(router.state.location.search).toBe("?kind=packs&q=canoe");
  expect(lastAsked()).toMatchObject({ params: { kind: "packs" }, body: { words: "canoe" } });
  expect(looks().length).toBeLessThan(5);
});

test("another kind begins with nothing sorted, ticked or open", async () => {
  const { router } = open("?kind=motors&sort=price&falling=yes&beside=a,b");
  await screen.findByText(/400 found/);
  expect(lastAsked()).toMatchObject({ body: { sort: "price", falling: true } });
  await userEvent.click(screen.getByRole("button", { name: "Wires" }));
  await waitFor(() => expect(router.state.location.search).toBe("?kind=wires"));
  await waitFor(() => expect(lastAsked()).toMatchObject({ params: { kind: "wires" } }));
  expect(lastAsked()).toMatchObject({ body: { sort: "", falling: false } });
});

test("a heading sorts, and once more turns it round", async () => {
  open();
  await screen.findByText(/400 found/);
  await userEvent.click(await screen.findByRole("button", { name: "Price" }));
  await waitFor(() =>
    expect(lastAsked()).toMatchObject({ body: { sort: "price", falling: false } }),
  );
  await userEvent.click(screen.getByRole("button", { name: /Price/ }));
  await waitFor(() =>
    expect(lastAsked()).toMatchObject({ body: { sort: "price", falling: true } }),
  );
});

test("parts are held against a build as it stands, and only those that fit if that is asked", async () => {
  open();
  await screen.findByRole("option", { name: "fits the Punt" });
  expect(screen.queryByLabelText("only those")).toBeNull();
  await userEvent.selectOptions(screen.getByLabelText("Fits"), "build:b");
  await waitFor(() => expect(lastAsked()).toMatchObject({ body: { build: { name: "Punt" } } }));
  await userEvent.click(screen.getByLabelText("only those"));
  await waitFor(() => expect(lastAsked()).toMatchObject({ body: { only_fit: true } }));
});

test("two that are ticked stand side by side", async () => {
  const { router } = open();
  await userEvent.click(await screen.findByLabelText("Side by side: Part a"));
  expect(await screen.findByText(/tick another/)).toBeTruthy();
  await userEvent.click(screen.getByLabelText("Side by side: Part b"));
  await userEvent.click(await screen.findByRole("button", { name: "Side by side: 2 ticked" }));
  await waitFor(() => expect(router.state.location.search).toContain("view=beside"));
  await userEvent.click(screen.getByRole("button", { name: "Untick all" }));
  expect(await screen.findByText("400 found, the first 2 here")).toBeTruthy();
});

test("what the server refuses is told", async () => {
  away = true;
  open();
  expect(await screen.findByText("The sort must be one of name.")).toBeTruthy();
});
