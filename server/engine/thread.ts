import type { MessagePort } from "node:worker_threads";
import type { Db } from "../platform/db/open";
import { Engine } from "./engine";
import { Pasts } from "./pasts";
import type { AdviceQuestions, Envelope, QuestionName, Reply, TrailQuestions } from "./questions";
import type { Keeping } from "./snapshot";
import { currentSource, type Decided } from "./source";
import { TrailBook } from "./trailBook";

/** Questions that take long and are worked out in pieces; others are answered in between. */
const ASIDE: ReadonlySet<QuestionName> = new Set<keyof AdviceQuestions | "preview" | "roundForecast" | "roundShares">([
  ...(["curve", "point", "pointLines", "pointActs", "preview", "roundForecast", "roundShares"] as const),
]);

/** What answers the questions of one thread. */
export interface Answerer {
  start(): Promise<void>;
  answer(envelope: Envelope): Promise<unknown>;
  /** What it does while nobody asks. */
  rest?(): Promise<void>;
}

/** The present, and all events. */
export class Present implements Answerer {
  private readonly trail: TrailBook;
  private readonly current: Engine;

  constructor(db: Db, keeping: Keeping, decided: Decided) {
    this.trail = new TrailBook(db);
    this.current = new Engine(currentSource(db, keeping, decided));
  }

  async start() {
    await this.current.start();
    await this.trail.catchUp();
  }

  async answer({ name, asked, t }: Envelope): Promise<unknown> {
    if (name === "refresh") await this.trail.catchUp();
    if (name in this.trail) return this.trail[name as keyof TrailQuestions](asked as never);
    return this.current[name as "refresh"](asked as never, t);
  }

  rest() {
    return this.current.prepare();
  }
}

/** Past days. Building one takes seconds in a large estate, so it is done in a thread of its own and nobody else waits. */
export class Past implements Answerer {
  private readonly pasts: Pasts;
  /** Whether it will have to go back to past days. */
  private isNeeded = false;

  constructor(db: Db, { columns, days }: Record<"columns" | "days", Keeping>, decided: Decided) {
    // The columns are kept by the other thread.
    const present = { ...currentSource(db, columns, decided), keep: async () => {} };
    this.pasts = new Pasts(db, decided, present, days);
  }

  /** Where no days are remembered, whoever looks at the Desk needs them counted. */
  async start() {
    this.isNeeded = !(await this.pasts.start());
  }

  async answer({ name, asked, t }: Envelope): Promise<unknown> {
    if (name === "refresh") return this.pasts.refresh();
    this.isNeeded = true;
    if (name === "history") return this.pasts.history(asked as never);
    return (await this.pasts.at(t))[name as "refresh"](asked as never, t);
  }

  /** Whoever looks at days that are counted goes back to one of them next. */
  async rest() {
    if (this.isNeeded) await this.pasts.prepare();
  }
}

/** Takes questions one after the other, and answers each. */
export async function serve(answerer: Answerer, port: MessagePort) {
  await answerer.start();
  let last: Promise<void> = Promise.resolve();
  let resting: Promise<void> | undefined;
  const rest = () => (resting ??= answerer.rest?.().finally(() => (resting = undefined)));
  port.on("message", (envelope: Envelope) => {
    const answered = last.then(async () => port.postMessage(await replyOf(answerer, envelope)));
    if (!ASIDE.has(envelope.name)) last = answered.then(() => void rest());
  });
}

async function replyOf(answerer: Answerer, envelope: Envelope): Promise<Reply> {
  const { number } = envelope;
  try {
    return { number, answer: await answerer.answer(envelope) };
  } catch (error) {
    return { number, error: (error as Error).stack ?? String(error) };
  }
}
