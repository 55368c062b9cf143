import { ALWAYS, NEVER, type Seconds } from "@/core/time/instant";
import type { Db } from "../platform/db/open";
import { beliefIn } from "../records/belief";
import { earliestEventAfter, lastEvent } from "../records/events/events";
import { earliestBetween } from "../records/facts";
import { lastMark } from "../records/marks";
import { readDays, type Seen, writeDays } from "./daysFile";
import { copied } from "./begun";
import { Engine } from "./engine";
import { OutsideDays } from "./outsideDays";
import type { Answered, Asked } from "./questions";
import type { Keeping } from "./snapshot";
import { type Decided, pastSource, type Source } from "./source";

/** How many past instants are held ready; who compares two days asks about both again and again. */
const PASTS_HELD = 3;

/** What was so at past instants: each that is asked about is an engine of its own, held until something comes that reaches it. */
export class Pasts {
  private readonly held = new Map<Seconds, Engine>();
  private readonly days: OutsideDays;
  private seen: Seen | undefined;
  /** From which pasts are gone back. */
  private now: Engine | undefined;

  constructor(
    private readonly db: Db,
    private readonly decided: Decided,
    private readonly present: Source,
    private readonly keeping: Keeping,
  ) {
    this.days = new OutsideDays(db, async () => (await this.startedNow()).caughtUp());
  }

  /** Remembers the days that were counted before the last start. @returns whether there are any */
  async start(): Promise<boolean> {
    const kept = await readDays(this.db, this.keeping);
    if (!kept) return false;
    this.seen = kept.seen;
    this.days.remember(kept.counts);
    await this.refresh();
    return true;
  }

  /** Gets ready what pasts are gone back from. */
  async prepare() {
    await this.startedNow();
  }

  /** The engine of an instant. */
  async at(t: Seconds): Promise<Engine> {
    this.seen ??= await this.look();
    const engine = this.held.get(t) ?? (await this.begun(t));
    // The one that was asked last goes last.
    this.held.delete(t);
    this.held.set(t, engine);
    if (this.held.size > PASTS_HELD) this.held.delete(this.held.keys().next().value!);
    return engine;
  }

  async history({ instants }: Asked<"history">): Promise<Answered<"history">> {
    this.seen ??= await this.look();
    const isNew = instants.some((at) => !this.days.has(at));
    const counts = await this.days.history(instants);
    if (isNew) await writeDays(this.db, this.keeping, { seen: this.seen, counts: this.days.all() });
    return counts;
  }

  /**
   * Lets go of the instants that something reaches that has come since: a reading may tell of the past, too. The others
   * learn what has been decided meanwhile about them.
   */
  async refresh(): Promise<void> {
    if (!this.seen) return;
    const now = await this.look();
    const since = await this.reachBetween(this.seen, now);
    this.seen = now;
    this.days.forget(since);
    for (const [t, engine] of [...this.held])
      if (t >= since) this.held.delete(t);
      else await engine.refresh({}, t);
  }

  private async begun(t: Seconds): Promise<Engine> {
    const now = await this.startedNow();
    const engine = new Engine(pastSource(this.db, this.decided, copied(await now.begun(t), t)));
    await engine.start();
    return engine;
  }

  private async startedNow(): Promise<Engine> {
    if (this.now) return this.now;
    const now = new Engine(this.present);
    await now.start();
    return (this.now = now);
  }

  private async look(): Promise<Seen> {
    const belief = (await beliefIn(this.db)).join("\n");
    return { mark: await lastMark(this.db), event: await lastEvent(this.db), belief };
  }

  /** From when on something may have been otherwise than was known before; NEVER where nothing has come. */
  private async reachBetween(before: Seen, now: Seen): Promise<Seconds> {
    if (before.belief !== now.belief) return ALWAYS;
    const facts = await earliestBetween(this.db, before.mark, now.mark);
    const events = await earliestEventAfter(this.db, before.event);
    return Math.min(facts ?? NEVER, events ?? NEVER);
  }
}
