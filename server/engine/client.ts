import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { nowSeconds } from "../clock";
import { databasePath } from "../db/open";
import type { Seconds } from "@/core/time/instant";
import type { Answered, Asked, Envelope, QuestionName, Reply } from "./questions";

interface Waiting {
  resolve: (answer: unknown) => void;
  reject: (error: Error) => void;
}

/** The server's side of the engine's thread. A thread that dies is started again at the next question. */
class EngineClient {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private next = 1;

  /** @param past the instant to ask about; without it, now */
  ask<Q extends QuestionName>(name: Q, asked: Asked<Q>, past?: Seconds): Promise<Answered<Q>> {
    const worker = (this.worker ??= this.start());
    const number = this.next++;
    return new Promise((resolve, reject) => {
      this.waiting.set(number, { resolve: resolve as Waiting["resolve"], reject });
      const envelope: Envelope = { number, name, asked, t: past ?? nowSeconds(), isPast: past !== undefined };
      worker.postMessage(envelope);
    });
  }

  private start(): Worker {
    const file = join(/*turbopackIgnore: true*/ process.cwd(), "dist", "engine.mjs");
    const worker = new Worker(file, { workerData: { databasePath: databasePath() } });
    worker.unref();
    worker.on("message", (reply: Reply) => this.settle(reply));
    worker.on("error", (error) => this.fail(error));
    worker.on("exit", () => this.fail(new Error("the engine stopped")));
    return worker;
  }

  private settle(reply: Reply) {
    const one = this.waiting.get(reply.number);
    this.waiting.delete(reply.number);
    if ("error" in reply) one?.reject(new Error(reply.error));
    else one?.resolve(reply.answer);
  }

  private fail(error: Error) {
    this.worker = undefined;
    for (const one of this.waiting.values()) one.reject(error);
    this.waiting.clear();
  }
}

const shared = globalThis as { latchEngine?: EngineClient };

/** The engine of this process. */
export function engine(): EngineClient {
  return (shared.latchEngine ??= new EngineClient());
}
