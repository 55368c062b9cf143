import { Worker } from "node:worker_threads";
import type { Clock } from "../platform/clock";
import { installed } from "../platform/installation";
import type { Platform } from "../platform/platform";
import type { Seconds } from "@/core/time/instant";
import type { Answered, Asked, Envelope, QuestionName, Reply } from "./questions";

interface Waiting {
  envelope: Envelope;
  /** How often it has been put to an engine that then died. */
  deaths: number;
  resolve: (answer: unknown) => void;
  reject: (error: Error) => void;
}

/** A question is put again to a new engine once: the second time it may be what kills them. */
const MOST_DEATHS = 2;

/** Answers questions about the estate. */
export interface Answering {
  /** @param past the instant to ask about; without it, now */
  ask<Q extends QuestionName>(name: Q, asked: Asked<Q>, past?: Seconds): Promise<Answered<Q>>;
  /** Gets ready to go back to past days, so that whoever asks first needn't wait for it. */
  readyPasts(): void;
  close(): Promise<void>;
}

/** What a thread of the engine is started with. */
export interface ThreadOf {
  databasePath: string;
  of: "present" | "past";
}

/**
 * The server's side of the engine. What is so now is answered by one thread, and what was so by another, which is started
 * when it is first asked: so that a question about a past day, for which that day has to be built, holds up nobody else.
 */
export class EngineClient implements Answering {
  private readonly present: EngineThread;
  private past: EngineThread | undefined;

  constructor(
    private readonly file: string,
    private readonly database: string,
    private readonly clock: Clock,
  ) {
    this.present = new EngineThread(file, { databasePath: database, of: "present" });
  }

  /** @param past the instant to ask about; without it, now */
  ask<Q extends QuestionName>(name: Q, asked: Asked<Q>, past?: Seconds): Promise<Answered<Q>> {
    const isPast = past !== undefined || name === "history";
    // They are answered in turn: whoever asks about the past after this is told what came before it.
    if (name === "refresh") void this.past?.ask("refresh", {}, this.clock.seconds()).catch(console.error);
    const thread = isPast ? (this.past ??= this.pastThread()) : this.present;
    return thread.ask(name, asked, past ?? this.clock.seconds());
  }

  readyPasts() {
    this.past ??= this.pastThread();
    void this.past.ask("refresh", {}, this.clock.seconds()).catch(console.error);
  }

  private pastThread(): EngineThread {
    return new EngineThread(this.file, { databasePath: this.database, of: "past" });
  }

  /** Ends the threads, as a crash would. */
  async close(): Promise<void> {
    await Promise.all([this.present.close(), this.past?.close()]);
  }
}

/** One thread of the engine. One that dies is started again, and builds its estate again. */
class EngineThread {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private next = 1;

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
