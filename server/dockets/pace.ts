import { setTimeout as wait } from "node:timers/promises";
import type { Change } from "@/core/changes/change";
import { type Entry, type StoreAdapter, StoreTrouble } from "../stores/adapter";

/** Concurrent requests to one store: at first, and at most. */
const AT_FIRST = 4;
export const AT_MOST = 12;
const FIRST_HOLD_MS = 250;
const LONGEST_HOLD_MS = 15_000;

/**
 * How fast one store is asked. While it answers, concurrency rises slowly; when it asks for a pause, it is halved, and
 * nothing is sent before the time that it named; if it can't be reached, requests go one at a time, after longer and
 * longer pauses, until it answers. (Additive increase, multiplicative decrease, as in RFC 5681.)
 */
export class Pace {
  private atOnce = AT_FIRST;
  private busy = 0;
  private holdUntil = 0;
  private unreached = 0;
  private readonly queue: (() => void)[] = [];
  /** Why nothing gets through at the moment, and since when, or null. */
  held: { why: string; since: string } | null = null;

  /**
   * @param now the time as text
   * @param onHeld called when the store begins to hold things up, and when it answers again
   */
  constructor(
    private readonly now: () => string = () => "",
    private readonly onHeld: () => void = () => {},
  ) {}

  /** Makes one request in its turn. @throws where it is halted before that */
  async run<T>(request: () => Promise<T>, signal: AbortSignal): Promise<T> {
    await this.turn();
    try {
      for (let left = this.heldFor(); left > 0; left = this.heldFor()) await wait(left, undefined, { signal });
      signal.throwIfAborted();
      const answer = await request();
      this.unreached = 0;
      this.hold(null);
      this.atOnce = Math.min(AT_MOST, this.atOnce + 1 / this.atOnce);
      return answer;
    } catch (error) {
      if (error instanceof StoreTrouble) this.slowDown(error);
      throw error;
    } finally {
      this.busy--;
      this.next();
    }
  }

  /** How many requests may be under way at the moment. */
  get width(): number {
    return Math.max(1, Math.floor(this.atOnce));
  }

  private async turn() {
    while (this.busy >= this.width) await new Promise<void>((resolve) => this.queue.push(resolve));
    this.busy++;
  }

  private heldFor(): number {
    return this.holdUntil - performance.now();
  }

  private next() {
    for (let free = this.width - this.busy; free > 0 && this.queue.length > 0; free--) this.queue.shift()!();
  }

  private hold(why: string | null) {
    if ((why === null) === (this.held === null)) return;
    this.held = why === null ? null : { why, since: this.now() };
    this.onHeld();
  }

  private slowDown({ kind, retryAfterMs, message }: StoreTrouble) {
    if (kind === "broken") return;
    this.hold(message);
    // Several requests are told to wait at the same time: that slows us down once.
    const isNew = performance.now() >= this.holdUntil;
    if (isNew && kind === "unreached") this.unreached++;
    if (isNew) this.atOnce = kind === "unreached" ? 1 : Math.max(1, this.atOnce / 2);
    const growing = Math.min(LONGEST_HOLD_MS, FIRST_HOLD_MS * 2 ** this.unreached);
    const hold = kind === "unreached" ? growing * (0.5 + Math.random() / 2) : Math.max(retryAfterMs, FIRST_HOLD_MS);
    if (isNew) this.holdUntil = performance.now() + hold;
  }
}

/** What a docket's steps ask of a store. */
export interface StepStore extends Pick<StoreAdapter, "share" | "probe"> {
  /** Whose word its answers are. */
  source: string;
  /** @param beforehand done when its turn has come, just before it is sent */
  apply(change: Change, key: string, passphrase: string | undefined, beforehand: () => Promise<void>): Promise<Entry[]>;
}

/** The same store, asked at a pace that it can take, until a signal halts it. */
export function pacedStore(source: string, store: StoreAdapter, pace: Pace, signal: AbortSignal): StepStore {
  return {
    source,
    apply: (change, key, passphrase, beforehand) =>
      pace.run(async () => {
        await beforehand();
        return store.apply(change, key, passphrase);
      }, signal),
    share: (id) => pace.run(() => store.share(id), signal),
    probe: (change, before, made) => pace.run(() => store.probe(change, before, made), signal),
  };
}
