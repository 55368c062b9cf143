import { Worker } from "node:worker_threads";
import type { Clock } from "../platform/clock";
import { installed } from "../platform/installation";
import type { Platform } from "../platform/platform";
import type { Seconds } from "@/core/time/instant";
import type { Answered, Asked, Envelope, EstateQuestion, QuestionName, Reply } from "./questions";

interface Waiting {
  envelope: Envelope;
  /** How often it has been put to an engine that then died. */
  deaths: number;
  resolve: (answer: unknown) => void;
  reject: (error: Error) => void;
}

/** A question is put again to a new engine once: the second time it may be what kills them. */
const MOST_DEATHS = 2;

/** Answers some of the questions. */
export interface AnswersTo<Some extends QuestionName> {
  /** @param past the instant to ask about; without it, now */
  ask<Q extends Some>(name: Q, asked: Asked<Q>, past?: Seconds): Promise<Answered<Q>>;
}

/** Answers questions about the estate. */
export interface Answering extends AnswersTo<QuestionName> {
  /** Gets ready to tell of past days, so that whoever asks first needn't wait for it. */
  readyPasts(): void;
  close(): Promise<void>;
}

/** What a thread of the engine is started with. */
export interface ThreadOf {
  databasePath: string;
  of: "present" | "past";
}

/** It takes about a second to take in so many new facts: of more, another thread of the engine does it. */
const MOST_IN_PLACE = 20_000;

/**
 * The server's side of the engine. What is so now is answered by one thread, and what was so by another, which is started
 * when it is first asked: so that a question about a past day, for which that day has to be built, holds up nobody else.
 * One that has fallen far behind, as while a store is read for the first time, goes on answering about what it knows until
 * another has taken in everything and takes its place.
 */
export class EngineClient implements Answering {
  private present: EngineThread;
  /** What will take its place. */
  private next: EngineThread | undefined;
  private past: EngineThread | undefined;

  constructor(
    private readonly file: string,
    private readonly database: string,
    private readonly clock: Clock,
  ) {
    this.present = this.thread("present");
  }

  /** @param past the instant to ask about; without it, now */
  ask<Q extends QuestionName>(name: Q, asked: Asked<Q>, past?: Seconds): Promise<Answered<Q>> {
    if (name === "refresh") return this.refresh() as Promise<Answered<Q>>;
    const isPast = past !== undefined || name === "history";
    const thread = isPast ? (this.past ??= this.thread("past")) : this.present;
    return thread.ask(name, asked, past ?? this.clock.seconds());
  }

  readyPasts() {
    this.past ??= this.thread("past");
    void this.refreshPast();
  }

  private async refresh(): Promise<Answered<"refresh">> {
    // They are answered in turn: whoever asks about the past after this is told what came before it.
    void this.refreshPast();
    const t = this.clock.seconds();
    const isFar = this.next !== undefined || (await this.present.ask("behind", {}, t)) > MOST_IN_PLACE;
    return isFar ? this.replace(t) : this.present.ask("refresh", {}, t);
  }

  private async refreshPast(): Promise<void> {
    await this.past?.ask("refresh", {}, this.clock.seconds()).catch(console.error);
  }

  /** Whoever asks for it while another is being begun waits for that, and for what has come since it began. */
  private async replace(t: Seconds): Promise<Answered<"refresh">> {
    const next = (this.next ??= this.begunNext());
    try {
      const refreshed = await next.ask("refresh", {}, t);
      if (this.next === next) {
        const before = this.present;
        [this.present, this.next] = [next, undefined];
        before.finish();
        this.readyPasts();
      }
      return refreshed;
    } catch (error) {
      if (this.next === next) this.next = undefined;
      await next.close();
      throw error;
    }
  }

  /** The past would have as much to take in, and three estates at once want much memory: it is begun again afterwards. */
  private begunNext(): EngineThread {
    this.past?.finish();
    this.past = undefined;
    return this.thread("present");
  }

  private thread(of: ThreadOf["of"]): EngineThread {
    return new EngineThread(this.file, { databasePath: this.database, of });
  }

  /** Ends the threads, as a crash would. */
  async close(): Promise<void> {
    await Promise.all([this.present.close(), this.next?.close(), this.past?.close()]);
  }
}

/** One thread of the engine. One that dies is started again, and builds its estate again. */
class EngineThread {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private next = 1;
  private isLast = false;

  constructor(
    private readonly file: string,
    private readonly data: ThreadOf,
  ) {}

  ask<Q extends QuestionName>(name: Q, asked: Asked<Q>, t: Seconds): Promise<Answered<Q>> {
    const number = this.next++;
    const envelope: Envelope = { number, name, asked, t };
    return new Promise((resolve, reject) => {
      this.waiting.set(number, { envelope, deaths: 0, resolve: resolve as Waiting["resolve"], reject });
      this.put(envelope);
    });
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }

  /** Ends it once all that it has been asked is answered. */
  finish() {
    this.isLast = true;
    if (this.waiting.size === 0) void this.close();
  }

  /** The process lives as long as it waits for an answer, and not for the thread's sake. */
  private put(envelope: Envelope) {
    const worker = (this.worker ??= this.start());
    worker.ref();
    worker.postMessage(envelope);
  }

  private start(): Worker {
    const worker = new Worker(this.file, { workerData: this.data });
    worker.on("message", (reply: Reply) => this.settle(reply));
    worker.on("error", (error) => console.error(`the engine failed: ${error.stack}`));
    worker.on("exit", () => this.startOver(worker));
    return worker;
  }

  private settle(reply: Reply) {
    const one = this.waiting.get(reply.number);
    this.waiting.delete(reply.number);
    if (this.waiting.size === 0) this.worker?.unref();
    if ("error" in reply) one?.reject(new Error(reply.error));
    else one?.resolve(reply.answer);
    if (this.isLast) this.finish();
  }

  /** Puts what was still to be answered to a new engine. */
  private startOver(dead: Worker) {
    if (this.worker === dead) this.worker = undefined;
    for (const [number, one] of this.waiting)
      if (++one.deaths >= MOST_DEATHS) {
        this.waiting.delete(number);
        one.reject(new Error("the engine stopped"));
      } else this.put(one.envelope);
  }
}

/** Where the engine's thread is built to. The command line is called from anywhere, and says where its own files are. */
export function engineFile(): string {
  return installed("dist", "engine.mjs");
}

/** What is needed to ask the engine. */
export interface Asking extends Platform {
  readonly engine: Answering;
}

/** What is needed to ask about the estate at some instant. */
export interface AskingEstate extends Platform {
  readonly engine: AnswersTo<EstateQuestion>;
}
