import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { drawn, serverAnswers } from "../../testing";
import { KeepingPage } from "./KeepingPage";
import { bytesInWords } from "./Sizes";

const UPKEEP = {
  stands: [
    { what: "database", how: "up" },
    { what: "worker 1", how: "is starting" },
  ],
  policy: { searches_days: 30, removed_days: null },
  sizes: [
    { what: "builds", count: 2111, bytes: 2_830_000 },
    { what: "searches", count: 4, bytes: 155_648 },
  ],
  database_bytes: 9_674_087,
  free_bytes: 83_000_000_000,
};
const NONE = { added: 0, went_on: 0, beside: 0, known: 0 };

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const zip = () => new File(["PK"], "all.zip", { type: "application/zip" });

test("it says how many there are, and what room they take", async () => {
  serverAnswers(() => ({ data: UPKEEP }));
  drawn(<KeepingPage />);
  expect(await screen.findByText("2,111")).toBeTruthy();
  expect(screen.getByText("2.8 MB")).toBeTruthy();
  expect(screen.getByText("database").nextSibling?.textContent).toBe("runs");
  expect(screen.getByText("worker 1").nextSibling?.textContent).toBe("is starting");
  expect(screen.getByText("156 kB")).toBeTruthy();
  expect(screen.getByText("The disk has room for 83 GB more.")).toBeTruthy();
  expect(screen.getByRole("link", { name: "Take everything out" }).getAttribute("href")).toBe(
    "/api/archive",
  );
});

test("how long things are kept is chosen, and refusals are told", async () => {
  const sent = serverAnswers((method, { body }) =>
    method === "POST" && (body as { removed_days: unknown }).removed_days === 7
      ? { status: 503, where: "database", what: "does not answer" }
      : { data: method === "POST" ? { ...UPKEEP, policy: body } : UPKEEP },
  );
  drawn(<KeepingPage />);
  const removed = await screen.findByRole("combobox", { name: /taken out of a list/ });
  await userEvent.selectOptions(removed, "go after 365 days");
  expect(sent.at(-1)?.body).toEqual({ searches_days: 30, removed_days: 365 });
  expect((removed as HTMLSelectElement).value).toBe("365");
  await userEvent.selectOptions(removed, "go after 7 days");
  expect((await screen.findByRole("alert")).textContent).toBe(
    "Not changed: database does not answer.",
  );
  expect((removed as HTMLSelectElement).value).toBe("365");
});

test("what became of an archive is told kind by kind, and why one was not taken", async () => {
  let refuse = false;
  serverAnswers((_, { path }) => {
    if (path !== "/api/archive") return { data: UPKEEP };
    if (refuse) return { status: 422, where: "archive.json", what: "is missing" };
    return {
      data: {
        builds: { ...NONE, added: 3, beside: 1 },
        parts: { ...NONE, known: 2 },
        briefs: NONE,
      },
    };
  });
  drawn(<KeepingPage />);
  await userEvent.upload(await screen.findByLabelText("Archive"), zip());
  expect(
    await screen.findByText("Builds: 3 added, 1 differ from yours and stand beside them."),
  ).toBeTruthy();
  expect(screen.getByText("Parts: 2 were there already.")).toBeTruthy();
  expect(screen.getByText("Briefs: none in it.")).toBeTruthy();
  refuse = true;
  await userEvent.upload(screen.getByLabelText("Archive"), zip());
  expect(await screen.findByText(/Nothing was brought in: archive.json is missing/)).toBeTruthy();
});

test.each([
  [0, "0 B"],
  [999, "999 B"],
  [1000, "1.0 kB"],
  [9_950, "9.9 kB"],
  [12_345_678, "12 MB"],
  [83_012_419_584, "83 GB"],
])("%d bytes are %s", (bytes, said) => {
  expect(bytesInWords(bytes)).toBe(said);
});
