import { type Shelf, shelfFor } from "./unsaved";

/** What an outbox does with what was done. */
interface Ways<Item, Beside> {
  /** Under what name the browser keeps it, for each thing that is edited. */
  name: string;
  id: string;
  /** Whether each tab keeps its own. */
  byTab: boolean;
  /** What is kept beside the items. */
  beside: () => Beside;
  /** Sends one; "halt" leaves it where it is until somebody decides. What it throws is tried again. */
  send: (item: Item) => Promise<"sent" | "halt">;
  /** Told when nothing answers; it is tried again by itself. */
  onWaiting: () => void;
}

/** How long nothing is sent after nothing answered, in milliseconds. */
const PAUSE = 1200;

export const pause = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));

/**
 * What was done and no server has acknowledged: kept in the browser, so that a reload does not lose
 * it, and sent in order, one at a time, for as long as it takes.
 */
export class Outbox<Item, Beside extends object = object> {
  private items: Item[] = [];
  private sending = false;
  private readonly shelf: Shelf<Beside & { items: Item[] }>;

  constructor(private readonly ways: Ways<Item, Beside>) {
    this.shelf = shelfFor(ways.name, ways.byTab);
  }

  get length(): number {
    return this.items.length;
  }

  get last(): Item | undefined {
    return this.items.at(-1);
  }

  /** What an earlier visit could not send, taken up again; null where there is nothing. */
  takeUp(): (Beside & { items: Item[] }) | null {
    const left = this.shelf.read(this.ways.id);
    if (!left?.items?.length) return null;
    this.items = left.items;
    return left;
  }

  put(item: Item): void {
    this.items.push(item);
    this.keep();
    void this.send();
  }

  /** Send one in the place of all that waits. */
  putOnly(item: Item): void {
    this.hold(item);
    void this.send();
  }

  /** Keep one in the place of all that waits, to be sent when it is told to. */
  hold(item: Item): void {
    this.items = [item];
    this.keep();
  }

  /** Let go of all that waits. */
  empty(): void {
    this.items = [];
    this.keep();
  }

  keep(): void {
    if (this.items.length)
      this.shelf.keep(this.ways.id, { ...this.ways.beside(), items: this.items });
    else this.shelf.forget(this.ways.id);
  }

  /** Send what waits, if that is not being done. */
  async send(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    for (let item = this.items[0]; item !== undefined; item = this.items[0]) {
      try {
        if ((await this.ways.send(item)) === "halt") {
          // Another that came meanwhile is sent in its place.
          if (this.items[0] === item) break;
          continue;
        }
        if (this.items[0] === item) this.items.shift();
        this.keep();
      } catch {
        this.keep();
        this.ways.onWaiting();
        await pause(PAUSE);
      }
    }
    this.sending = false;
  }
}
