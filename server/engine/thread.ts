import type { MessagePort } from "node:worker_threads";
import { rfc3339, type Seconds } from "@/core/time/instant";
import type { Db } from "../platform/db/open";
import { Engine } from "./engine";
import type { AdviceQuestions, Envelope, QuestionName, Reply, TrailQuestions } from "./questions";
import { currentSource, type Decided, pastSource } from "./source";
import { TrailBook } from "./trailBook";

/** How many past instants are held ready; who compares two days asks about both again and again. */
const PASTS_HELD = 3;

/** What takes long, and is worked out piece by piece: other questions are answered in between. */
const ASIDE: ReadonlySet<QuestionName> = new Set<keyof AdviceQuestions | "roundForecast" | "roundShares">([
  ...(["curve", "point", "pointLines", "pointActs", "roundForecast", "roundShares"] as const),
]);

/** The engine in its thread: takes questions one after the other, and answers each. */
export class EngineThread {
  private readonly trail: TrailBook;
  private readonly current: Engine;
  private readonly pasts = new Map<Seconds, Engine>();
  private last: Promise<void> = Promise.resolve();
  private preparing: Promise<void> | undefined;

  /** @param path of the database; what is kept beside it is named after it */
  constructor(
    private readonly db: Db,
    path: string,
    private readonly decided: Decided,
  ) {
    this.trail = new TrailBook(db);
    this.current = new Engine(currentSource(db, `${path}.columns`, decided), `${path}.reading`);
  }

  async serve(port: MessagePort) {
    await this.current.start();
    await this.trail.catchUp();
    port.on("message", (envelope: Envelope) => {
      const answered = this.last.then(async () => port.postMessage(await this.reply(envelope)));
      if (ASIDE.has(envelope.name)) return;
      this.last = answered.then(() => {
        if (!envelope.isPast) this.prepare();
      });
    });
  }

  private prepare() {
    this.preparing ??= this.current.prepare().finally(() => (this.preparing = undefined));
  }

  private async reply({ number, name, asked, t, isPast }: Envelope): Promise<Reply> {
    try {
      // A reading may tell of the past too: what was held of it is worked out again.
      if (name === "refresh") await Promise.all([this.forgetPasts(), this.trail.catchUp()]);
      if (this.isOfTrail(name)) return { number, answer: await this.trail[name](asked as never) };
      const engine = isPast ? await this.engineAt(t) : this.current;
      return { number, answer: await engine[name](asked as never, t) };
    } catch (error) {
      return { number, error: (error as Error).stack ?? String(error) };
    }
  }

  private isOfTrail(name: QuestionName): name is keyof TrailQuestions {
    return name in this.trail;
  }

  private async engineAt(t: Seconds): Promise<Engine> {
    const held = this.pasts.get(t);
    if (held) return held;
    const engine = new Engine(pastSource(this.db, rfc3339(t), this.decided));
    await engine.start();
    this.pasts.set(t, engine);
    if (this.pasts.size > PASTS_HELD) await this.forget(this.pasts.keys().next().value!);
    return engine;
  }

  private async forgetPasts() {
    for (const t of [...this.pasts.keys()]) await this.forget(t);
  }

  private async forget(t: Seconds) {
    await this.pasts.get(t)!.close();
    this.pasts.delete(t);
  }
}
