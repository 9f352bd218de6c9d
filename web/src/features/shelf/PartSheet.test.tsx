import { cleanup, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { drawn, serverAnswers } from "../../testing";
import { PartSheet } from "./PartSheet";

const onOpen = vi.fn();
const onClose = vi.fn();
const reel = { id: "r", own: true, removed: false, can_undo: true, document: { name: "Reel" } };
let answer: (said: { data: unknown } | { status: number; where: string; what: string }) => void;

beforeEach(() => {
  onOpen.mockReset();
  onClose.mockReset();
  serverAnswers((method, { path }) => {
    if (path.endsWith("/fields")) return { data: { fields: [] } };
    if (method === "GET") return { data: reel };
    return new Promise((resolve) => {
      answer = resolve;
    });
  });
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const typed = async () => {
  drawn(<PartSheet kind="wires" id="r" onOpen={onOpen} onClose={onClose} />);
  const name = await screen.findByDisplayValue("Reel");
  await userEvent.type(name, " two");
  await userEvent.click(screen.getByRole("button", { name: "Save" }));
  await userEvent.keyboard("{Escape}");
  expect(screen.getByText("Keeping it")).toBeTruthy();
  expect(onClose).not.toHaveBeenCalled();
};

test("closed while it is kept, it closes once that is done and does not open again", async () => {
  await typed();
  answer({ data: reel });
  await waitFor(() => expect(onClose).toHaveBeenCalledOnce());
  expect(onOpen).not.toHaveBeenCalled();
});

test("closed while it is kept, it stays with what was typed if that is refused", async () => {
  await typed();
  answer({ status: 422, where: "name", what: "stands there already" });
  expect(await screen.findByText("Name stands there already")).toBeTruthy();
  expect(screen.getByDisplayValue("Reel two")).toBeTruthy();
  expect(onClose).not.toHaveBeenCalled();
  await userEvent.keyboard("{Escape}");
  expect(onClose).toHaveBeenCalledOnce();
});
