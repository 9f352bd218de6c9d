import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import * as api from "../api/builds";
import { ApiError } from "../api/client";
import type { BuildAnswer, Operation } from "../api/types";
import { Workbench } from "./workbench";

vi.mock("../api/builds");
const server = vi.mocked(api);

const press: Operation = { do: "press", lever: "battery.series", step: 1 };

interface Doc {
  cells: number;
}

const build = (head: number, cells: number) =>
  ({
    id: "b",
    head,
    document: { cells },
    pinned: { number: 1, document: { cells: 13 } },
    can_undo: head > 1,
    can_redo: false,
  }) as unknown as BuildAnswer;

/** A server that counts cells: each operation adds one, each save is the next version. */
function counting() {
  let head = 1;
  server.solve.mockImplementation(async (document, operations) => {
    const cells = (document as unknown as Doc).cells + operations.length;
    return { document: { cells }, answer: { cells }, changes: operations } as never;
  });
  const known = new Set<string>();
  server.saveVersion.mockImplementation(async (_, base, document, changeId) => {
    if (!known.has(changeId)) {
      expect(base).toBe(head);
      head += 1;
      known.add(changeId);
    }
    return build(head, (document as unknown as Doc).cells);
  });
}

const cellsOf = (bench: Workbench) => (bench.snapshot().document as unknown as Doc).cells;
const until = (true_: () => boolean) =>
  vi.waitFor(() => expect(true_()).toBe(true), { timeout: 9000 });

beforeEach(() => {
  localStorage.clear();
  sessionStorage.clear();
  counting();
});
afterEach(() => vi.resetAllMocks());

describe("a workbench", () => {
  test("carries out what came meanwhile in one request, and shows only the newest", async () => {
    const bench = new Workbench(build(1, 13));
    bench.open();
    const seen: number[] = [];
    bench.subscribe(() => seen.push(cellsOf(bench)));
    for (let i = 0; i < 5; i++) bench.act(press);
    await until(() => cellsOf(bench) === 18 && bench.snapshot().saving === "saved");
    expect(seen).toEqual([...seen].sort((a, b) => a - b));
    expect(server.solve.mock.calls.length).toBeLessThan(5 + 2);
    expect(localStorage.length).toBe(0);
  });

  test("says that nothing is saved until the server said so", async () => {
    const bench = new Workbench(build(1, 13));
    bench.act(press);
    expect(bench.snapshot().saving).toBe("saving");
    await until(() => bench.snapshot().saving === "saved");
    expect(bench.snapshot().build.head).toBe(2);
  });

  test("drops a refused operation, keeps the good result and goes on with the rest", async () => {
    const bench = new Workbench(build(1, 13));
    server.solve.mockRejectedValueOnce(
      new ApiError(422, "battery.series", "is at the end of its travel", {
        error: { where: "battery.series", what: "is at the end of its travel" },
        operation: 1,
      }),
    );
    bench.act(press);
    bench.act({ ...press, step: -1 });
    await until(() => bench.snapshot().saving === "saved" && cellsOf(bench) > 13);
    expect(server.solve.mock.calls.length).toBeGreaterThan(1);
  });

  test("keeps what can't be saved in the browser and saves it when the database is back", async () => {
    const bench = new Workbench(build(1, 13));
    server.saveVersion.mockRejectedValueOnce(new ApiError(503, "database", "does not answer"));
    bench.act(press);
    await until(() => bench.snapshot().saving === "waiting");
    expect(localStorage.length).toBe(1);
    const after = new Workbench(build(1, 13));
    after.open();
    expect(cellsOf(after)).toBe(14);
    await until(() => bench.snapshot().saving === "saved");
    expect(localStorage.length).toBe(0);
  }, 15_000);

  test("stops at a conflict and lets the user say which stands", async () => {
    const bench = new Workbench(build(1, 13));
    server.saveVersion.mockRejectedValueOnce(
      new ApiError(409, "version", "was changed elsewhere", {
        error: { where: "version", what: "was changed elsewhere" },
        kept: 3,
        head: 2,
      }),
    );
    bench.act(press);
    await until(() => bench.snapshot().conflict !== null);
    expect(bench.snapshot().conflict).toEqual({ kept: 3, head: 2 });
    server.saveVersion.mockImplementation(async (_, base, document) => {
      expect(base).toBe(2);
      return build(4, (document as unknown as Doc).cells);
    });
    bench.keepMine();
    await until(() => bench.snapshot().build.head === 4);
    expect(cellsOf(bench)).toBe(14);
    expect(bench.snapshot().conflict).toBeNull();
  });

  test("undoes only after everything is saved", async () => {
    const bench = new Workbench(build(1, 13));
    server.undo.mockImplementation(async (_, base) => {
      expect(base).toBe(2);
      return build(1, 13);
    });
    bench.act(press);
    bench.undo();
    await until(() => server.undo.mock.calls.length === 1);
    await until(() => bench.snapshot().build.head === 1 && cellsOf(bench) === 13);
  });

  const conflicted = async () => {
    const bench = new Workbench(build(1, 13));
    server.saveVersion.mockRejectedValueOnce(
      new ApiError(409, "version", "was changed elsewhere", {
        error: { where: "version", what: "was changed elsewhere" },
        kept: 3,
        head: 2,
      }),
    );
    bench.act(press);
    await until(() => bench.snapshot().conflict !== null);
    return bench;
  };

  test("after a conflict the other change can stand, and nothing of it is left unsaved", async () => {
    const bench = await conflicted();
    server.readBuild.mockResolvedValue(build(2, 20));
    await bench.takeTheirs();
    expect(cellsOf(bench)).toBe(20);
    expect(bench.snapshot()).toMatchObject({ conflict: null, saving: "saved" });
    expect(localStorage.length).toBe(0);
    // The next change is made on top of it.
    server.saveVersion.mockImplementationOnce(async (_, base, document) => {
      expect(base).toBe(2);
      return build(3, (document as unknown as Doc).cells);
    });
    bench.act(press);
    await until(() => bench.snapshot().build.head === 3 && cellsOf(bench) === 21);
  });

  test("after a conflict both can stand: one's own becomes a build of its own", async () => {
    const bench = await conflicted();
    server.readBuild.mockResolvedValue(build(2, 20));
    await bench.keepBoth();
    expect(server.createBuild.mock.calls[0]?.[0]).toMatchObject({ cells: 14 });
    expect(cellsOf(bench)).toBe(20);
    expect(bench.snapshot().notice).toContain("kept as a build of its own");
  });

  test("what another tab did is shown when one comes back, but never over what is not saved", async () => {
    const bench = new Workbench(build(1, 13));
    server.readBuild.mockResolvedValue(build(5, 17));
    await bench.refresh();
    expect(cellsOf(bench)).toBe(17);
    expect(bench.snapshot().notice).toContain("another tab");
    server.saveVersion.mockRejectedValueOnce(new ApiError(503, "database", "does not answer"));
    bench.act(press);
    await until(() => bench.snapshot().saving === "waiting");
    server.readBuild.mockResolvedValue(build(9, 1));
    await bench.refresh();
    expect(cellsOf(bench)).toBe(18);
  });

  /** Let the next solve wait until it is let go. */
  const slow = () => {
    let go = () => {};
    server.solve.mockImplementationOnce(async (document, operations) => {
      await new Promise<void>((done) => {
        go = done;
      });
      const cells = (document as unknown as Doc).cells + operations.length;
      return { document: { cells }, answer: { cells }, changes: operations } as never;
    });
    return () => go();
  };

  test("an edit made while another tab's change is still being solved lands on top of it", async () => {
    const bench = new Workbench(build(1, 13));
    server.readBuild.mockResolvedValue(build(5, 17));
    server.saveVersion.mockImplementation(async (_, base, document) => {
      expect(base).toBe(5);
      return build(6, (document as unknown as Doc).cells);
    });
    const letGo = slow();
    const looked = bench.refresh();
    await until(() => server.solve.mock.calls.length === 1);
    bench.act(press);
    letGo();
    await looked;
    await until(() => bench.snapshot().build.head === 6);
    expect(cellsOf(bench)).toBe(18);
    expect(server.saveVersion.mock.calls.map((call) => call[2])).toEqual([{ cells: 18 }]);
  });

  test("an edit under way when another tab's change arrives is not shown over", async () => {
    const bench = new Workbench(build(1, 13));
    let arrive = (_: BuildAnswer) => {};
    server.readBuild.mockImplementation(() => new Promise((done) => (arrive = done)));
    server.saveVersion.mockRejectedValueOnce(
      new ApiError(409, "version", "was changed elsewhere", {
        error: { where: "version", what: "was changed elsewhere" },
        kept: 3,
        head: 5,
      }),
    );
    const letGo = slow();
    const looked = bench.refresh();
    bench.act(press);
    await until(() => server.solve.mock.calls.length === 1);
    arrive(build(5, 17));
    letGo();
    await looked;
    await until(() => bench.snapshot().conflict !== null);
    expect(cellsOf(bench)).toBe(14);
  });

  test("an edit made while the other change is taken lands on top of it", async () => {
    const bench = await conflicted();
    server.readBuild.mockResolvedValue(build(2, 20));
    server.saveVersion.mockImplementation(async (_, base, document) => {
      expect(base).toBe(2);
      return build(3, (document as unknown as Doc).cells);
    });
    const letGo = slow();
    const taken = bench.takeTheirs();
    await until(() => server.solve.mock.calls.length === 2);
    bench.act(press);
    letGo();
    await taken;
    await until(() => bench.snapshot().build.head === 3);
    expect(cellsOf(bench)).toBe(21);
  });

  test("pins what stands, goes back to a version, and redoes", async () => {
    const bench = new Workbench(build(4, 13));
    server.pin.mockImplementation(async (_, number) => {
      expect(number).toBe(4);
      return build(4, 13);
    });
    server.restore.mockResolvedValue(build(5, 11));
    server.redo.mockResolvedValue(build(6, 12));
    bench.pin();
    bench.restore(2);
    await until(() => cellsOf(bench) === 11);
    expect(server.restore.mock.calls[0]).toEqual(["b", 4, 2]);
    bench.redo();
    await until(() => cellsOf(bench) === 12);
    expect(server.redo.mock.calls[0]).toEqual(["b", 5]);
  });

  test("a step that the server refuses is told and changes nothing", async () => {
    const bench = new Workbench(build(2, 13));
    server.undo.mockRejectedValueOnce(new ApiError(503, "database", "does not answer"));
    bench.undo();
    await until(() => bench.snapshot().notice !== null);
    expect(bench.snapshot().notice).toBe("Not done: undo: database does not answer.");
    expect(cellsOf(bench)).toBe(13);
  });
});
