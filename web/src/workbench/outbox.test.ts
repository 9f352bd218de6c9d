import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Outbox } from "./outbox";

beforeEach(() => {
  localStorage.clear();
  sessionStorage.clear();
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

function outbox(send: (item: string) => Promise<"sent" | "halt">, byTab = true) {
  const waiting = vi.fn();
  const made = new Outbox<string, { base: number }>({
    name: "test",
    id: "b1",
    byTab,
    beside: () => ({ base: 7 }),
    send,
    onWaiting: waiting,
  });
  return { made, waiting };
}

const kept = () => Object.values({ ...localStorage }).map((text) => JSON.parse(text as string));

test("what is put is kept until it is acknowledged, and goes in order, one at a time", async () => {
  const sent: string[] = [];
  const done: (() => void)[] = [];
  const { made } = outbox((item) => {
    sent.push(item);
    return new Promise((go) => done.push(() => go("sent")));
  });
  made.put("a");
  made.put("b");
  await vi.advanceTimersByTimeAsync(0);
  expect(sent).toEqual(["a"]);
  expect(kept()[0]).toMatchObject({ base: 7, items: ["a", "b"] });
  done[0]?.();
  await vi.advanceTimersByTimeAsync(0);
  expect(sent).toEqual(["a", "b"]);
  expect(kept()[0]).toMatchObject({ items: ["b"] });
  done[1]?.();
  await vi.advanceTimersByTimeAsync(0);
  expect(kept()).toEqual([]);
});

test("while nothing answers it is tried again, and told", async () => {
  let away = 2;
  const { made, waiting } = outbox(async () => {
    if (away-- > 0) throw new Error("away");
    return "sent";
  });
  made.put("a");
  await vi.advanceTimersByTimeAsync(5000);
  expect(waiting).toHaveBeenCalledTimes(2);
  expect(made.length).toBe(0);
});

test("what is halted stays, and one in its place is sent", async () => {
  const sent: string[] = [];
  const { made } = outbox(async (item) => {
    sent.push(item);
    return item === "bad" ? "halt" : "sent";
  });
  made.put("bad");
  await vi.advanceTimersByTimeAsync(0);
  expect(made.last).toBe("bad");
  expect(kept()[0]).toMatchObject({ items: ["bad"] });
  made.hold("good");
  await vi.advanceTimersByTimeAsync(5000);
  expect(sent).toEqual(["bad"]);
  void made.send();
  await vi.advanceTimersByTimeAsync(0);
  expect(sent).toEqual(["bad", "good"]);
  expect(kept()).toEqual([]);
});

test("a reload takes it up again; what another tab works on is left alone until that is gone", () => {
  const first = outbox(() => new Promise(() => {})).made;
  first.hold("mine");
  expect(outbox(async () => "sent").made.takeUp()).toMatchObject({ base: 7, items: ["mine"] });
  sessionStorage.clear();
  expect(outbox(async () => "sent").made.takeUp()).toBeNull();
  vi.advanceTimersByTime(30_000);
  expect(outbox(async () => "sent").made.takeUp()).toMatchObject({ items: ["mine"] });
});

test("where tabs share one place, what was said last is what is left", () => {
  const silent = () => new Promise<"sent">(() => {});
  outbox(silent, false).made.hold("earlier");
  sessionStorage.clear();
  const other = outbox(silent, false).made;
  expect(other.takeUp()).toMatchObject({ items: ["earlier"] });
  other.hold("later");
  sessionStorage.clear();
  vi.advanceTimersByTime(30_000);
  expect(outbox(silent, false).made.takeUp()).toMatchObject({ items: ["later"] });
  expect(kept()).toHaveLength(1);
});
