import {
  createBuild,
  pin,
  readBuild,
  redo,
  restore,
  saveVersion,
  solve,
  undo,
} from "../api/builds";
import { ApiError } from "../api/client";
import type { Answer, BuildAnswer, BuildDocument, Change, Operation, When } from "../api/types";
import { Outbox, pause } from "./outbox";

export interface Refused {
  where: string;
  what: string;
}

export interface Conflict {
  kept: number | null;
  head: number;
}

export interface BenchState {
  build: BuildAnswer;
  document: BuildDocument;
  answer: Answer | null;
  pinned: Answer | null;
  /** When both are looked at. */
  when: When;
  /** In which gear of its gearbox, from the shortest; null for the best at each speed. */
  gear: number | null;
  /** The last change, for saying what was done. */
  changes: Change[];
  saving: "saved" | "saving" | "waiting";
  /** What does not answer at the moment, in words; null when all is well. */
  trouble: string | null;
  refused: Refused | null;
  conflict: Conflict | null;
  notice: string | null;
}

interface Act {
  do: "act";
  operation: Operation;
}

type Task =
  | Act
  | { do: "undo" }
  | { do: "redo" }
  | { do: "pin" }
  | { do: "restore"; number: number }
  | { do: "reload" }
  | { do: "run"; job: () => Promise<void> };

const PAUSE_MS = 1200;

interface Edit {
  document: BuildDocument;
  changeId: string;
}

/**
 * One build on the bench. Everything done to it goes through one queue, in order: operations are
 * carried out and solved by the server (several at once if they came quickly), each outcome is
 * shown, and then saved as a version. At most one solve is under way, so that an old answer can
 * never replace a newer one; what is not saved yet is kept in the browser until it is.
 */
export class Workbench {
  private state: BenchState;
  private readonly listeners = new Set<() => void>();
  private tasks: Task[] = [];
  private readonly outbox: Outbox<Edit, { base: number }>;
  private base: number;
  private running = false;
  private opened = false;

  constructor(build: BuildAnswer) {
    this.base = build.head;
    this.outbox = new Outbox({
      name: "unsaved",
      id: build.id,
      byTab: true,
      beside: () => ({ base: this.base }),
      send: (edit) => this.save(edit),
      onWaiting: () => this.set({ saving: "waiting" }),
    });
    this.state = {
      build,
      document: build.document,
      answer: null,
      pinned: null,
      when: "now",
      gear: null,
      changes: [],
      saving: "saved",
      trouble: null,
      refused: null,
      conflict: null,
      notice: null,
    };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): BenchState => this.state;

  /** Solve what stands, and go on with what an earlier visit could not save. */
  open(): void {
    if (this.opened) return;
    this.opened = true;
    const left = this.outbox.takeUp();
    const last = this.outbox.last;
    if (left && last) {
      this.base = left.base;
      this.set({ document: last.document, notice: "An edit that was not saved yet is back." });
      void this.outbox.send();
    }
    void this.solvePinned();
    this.tasks.unshift({ do: "reload" });
    void this.pump();
  }

  act(operation: Operation): void {
    // Nothing counts as saved from the moment it is done until the server says so.
    if (this.state.saving === "saved") this.set({ saving: "saving" });
    this.enqueue({ do: "act", operation });
  }

  undo(): void {
    this.enqueue({ do: "undo" });
  }

  redo(): void {
    this.enqueue({ do: "redo" });
  }

  restore(number: number): void {
    this.enqueue({ do: "restore", number });
  }

  /** Compare with what stands now from here on. */
  pin(): void {
    this.enqueue({ do: "pin" });
  }

  /** Look at it as it is now, with a full pack, or at the end of its trip. */
  look(when: When): void {
    if (when === this.state.when) return;
    this.set({ when });
    this.enqueue({ do: "reload" });
    this.enqueue({ do: "run", job: () => this.solvePinned() });
  }

  /** Look at it with one gear engaged, or in the best at each speed. */
  engage(gear: number | null): void {
    if (gear === this.state.gear) return;
    this.set({ gear });
    this.enqueue({ do: "reload" });
    this.enqueue({ do: "run", job: () => this.solvePinned() });
  }

  clearRefusal(): void {
    if (this.state.refused) this.set({ refused: null });
  }

  clearNotice(): void {
    this.set({ notice: null });
  }

  /** After a conflict: let what is on this screen stand, on top of the other change. */
  keepMine(): void {
    const { conflict, document } = this.state;
    if (!conflict) return;
    this.base = conflict.head;
    this.set({ conflict: null, notice: null });
    this.outbox.putOnly({ document, changeId: crypto.randomUUID() });
  }

  /** After a conflict: show the other change; this one stays in the history. */
  async takeTheirs(): Promise<void> {
    await this.inTurn(async () => {
      const last = this.outbox.last;
      if (last && this.outbox.length > 1) {
        // What was done since the conflict is kept aside too; the refusal is the expected answer.
        await saveVersion(this.id, this.base, last.document, last.changeId).catch(() => undefined);
      }
      const build = await readBuild(this.id);
      this.outbox.empty();
      await this.adopt(build, { conflict: null, notice: null });
    });
  }

  /** After a conflict: put what is on this screen into a build of its own. */
  async keepBoth(): Promise<void> {
    const document = { ...this.state.document, name: `${this.state.document.name} (mine)` };
    await createBuild(document, crypto.randomUUID());
    await this.takeTheirs();
    this.set({ notice: `Your version is kept as a build of its own: ${document.name}.` });
  }

  /** Look whether another tab changed the build, if nothing here is under way. */
  async refresh(): Promise<void> {
    if (this.running || this.outbox.length || this.state.conflict) return;
    try {
      const build = await readBuild(this.id);
      await this.inTurn(async () => {
        // What was done here meanwhile is not shown over: saving it tells of the conflict.
        if (this.outbox.length || this.state.conflict || build.head <= this.base) return;
        await this.adopt(build, { notice: "Changed in another tab; this is how it stands now." });
      });
    } catch {
      // Nobody asked for this look; the next edit tells if something does not answer.
    }
  }

  private get id(): string {
    return this.state.build.id;
  }

  private set(part: Partial<BenchState>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }

  /**
   * Run a job next, with nothing else of the queue beside it: an operation that came while the
   * job waits is carried out on what the job leaves, rather than lost under it.
   */
  private inTurn(job: () => Promise<void>): Promise<void> {
    return new Promise((done, fail) => {
      this.tasks.unshift({ do: "run", job: () => job().then(done, fail) });
      void this.pump();
    });
  }

  private enqueue(task: Task): void {
    this.tasks.push(task);
    void this.pump();
  }

  private async pump(): Promise<void> {
    if (this.running) return;
    this.running = true;
    for (let task = this.tasks[0]; task; task = this.tasks[0]) {
      if (task.do === "act") await this.carryOut();
      else {
        this.tasks.shift();
        await this.step(task);
      }
    }
    this.running = false;
  }

  /** Carry out every operation at the head of the queue in one request. */
  private async carryOut(): Promise<void> {
    const batch: Act[] = [];
    for (const task of this.tasks) {
      if (task.do !== "act") break;
      batch.push(task);
    }
    try {
      const { document, answer, changes } = await solve(
        this.state.document,
        batch.map((act) => act.operation),
        this.state.when,
        this.state.gear,
      );
      this.leave(batch);
      const told = changes.length ? { changes, notice: null } : {};
      this.set({ document, answer, trouble: null, refused: null, ...told });
      if (changes.length) {
        this.outbox.put({ document, changeId: crypto.randomUUID() });
      }
      this.restIfDone();
    } catch (problem) {
      if (problem instanceof ApiError && problem.passing) {
        this.set({ trouble: "The engine does not answer; trying again." });
        await pause(PAUSE_MS);
        return;
      }
      // One operation is refused: it goes, the others are tried again without it.
      const index = problem instanceof ApiError ? (problem.body?.operation ?? 0) : 0;
      this.leave(batch.slice(index, index + 1));
      this.set({ refused: refusalOf(problem) });
      this.restIfDone();
    }
  }

  /** Take carried out operations from the queue; a job may have come before them meanwhile. */
  private leave(done: Act[]): void {
    this.tasks = this.tasks.filter((task) => !(done as Task[]).includes(task));
  }

  /** Whether nothing that was done still has to be carried out or saved. */
  private get resting(): boolean {
    return this.outbox.length === 0 && this.noneToCarryOut;
  }

  private get noneToCarryOut(): boolean {
    return !this.tasks.some((task) => task.do === "act");
  }

  private restIfDone(): void {
    if (this.resting && this.state.saving === "saving") this.set({ saving: "saved" });
  }

  private async step(task: Exclude<Task, { do: "act" }>): Promise<void> {
    if (task.do === "run") {
      await task.job();
      return;
    }
    if (task.do === "reload") {
      this.set({ answer: await this.solved(this.state.document) });
      return;
    }
    await this.settled();
    if (this.state.conflict) return;
    const base = this.state.build.head;
    try {
      if (task.do === "pin") {
        this.set({ build: await pin(this.id, base), pinned: this.state.answer });
        return;
      }
      const build =
        task.do === "undo"
          ? await undo(this.id, base)
          : task.do === "redo"
            ? await redo(this.id, base)
            : await restore(this.id, base, task.number);
      await this.adopt(build, { refused: null, notice: null, trouble: null });
    } catch (problem) {
      if (problem instanceof ApiError && problem.status === 409) {
        this.set({ conflict: conflictOf(problem) });
      } else if (!(problem instanceof ApiError && problem.status === 404)) {
        this.tell(problem, `Not done: ${task.do}`);
      }
    }
  }

  /** Show a build as the server holds it. */
  private async adopt(build: BuildAnswer, more: Partial<BenchState>): Promise<void> {
    this.base = build.head;
    const pinMoved = build.pinned.number !== this.state.build.pinned.number;
    const answer = await this.solved(build.document);
    this.set({ build, document: build.document, answer, changes: [], ...more });
    if (pinMoved) await this.solvePinned();
  }

  private async solvePinned(): Promise<void> {
    this.set({ pinned: await this.solved(this.state.build.pinned.document) });
  }

  private async solved(document: BuildDocument): Promise<Answer | null> {
    for (;;) {
      try {
        const { answer } = await solve(document, [], this.state.when, this.state.gear);
        if (this.state.trouble) this.set({ trouble: null });
        return answer;
      } catch (problem) {
        if (!(problem instanceof ApiError && problem.passing)) {
          this.set({ refused: refusalOf(problem) });
          return this.state.answer;
        }
        this.set({ trouble: "The engine does not answer; trying again." });
        await pause(PAUSE_MS);
      }
    }
  }

  /** Save one edit as a version on top of the last. */
  private async save(edit: Edit): Promise<"sent" | "halt"> {
    if (this.state.conflict) return "halt";
    if (this.state.saving === "saved") this.set({ saving: "saving" });
    try {
      const build = await saveVersion(this.id, this.base, edit.document, edit.changeId);
      this.base = build.head;
      const isLast = this.outbox.last === edit && this.noneToCarryOut;
      this.set({ build, saving: isLast ? "saved" : "saving" });
      return "sent";
    } catch (problem) {
      if (!(problem instanceof ApiError && problem.status === 409)) throw problem;
      this.set({ conflict: conflictOf(problem), saving: "saved" });
      return "halt";
    }
  }

  /** Wait until everything done so far is saved, or can't be without a decision. */
  private async settled(): Promise<void> {
    while (this.outbox.length && !this.state.conflict) await pause(20);
  }

  private tell(problem: unknown, what: string): void {
    const why = problem instanceof ApiError ? `${problem.where} ${problem.what}` : String(problem);
    this.set({ notice: `${what}: ${why}.` });
  }
}

function refusalOf(problem: unknown): Refused {
  if (problem instanceof ApiError) return { where: problem.where, what: problem.what };
  return { where: "", what: String(problem) };
}

function conflictOf(problem: ApiError): Conflict {
  return { kept: problem.body?.kept ?? null, head: problem.body?.head ?? 0 };
}
