import { type MessagePort, type ResourceLimits, Worker } from "node:worker_threads";
import { Problem, type ProblemKind } from "./problem";

/** How far a thread is with a long task. */
export interface Step {
  words: string;
  done: number;
}

type Reply<S> =
  { step: S } | { answer: unknown } | { problem: { kind: ProblemKind; message: string } } | { stopped: true };

/**
 * In megabytes. Where there is no limit near, V8 lets four times as much pile up as is in use before it clears away; what
 * is in use grows with the file, by some 80 MB for a million rows.
 */
const MOST_HEAP = 1_024;

/** A thread that is asked one thing at a time. It is started when it is first asked, if it wasn't before. */
export class AskedThread<S = Step> {
  private worker: Worker | undefined;
  /** The last that was ended on purpose. */
  private ended: Worker | undefined;

  /**
   * @param data what the thread is started with
   * @param what it reads: a message says so where that is too large
   */
  constructor(
    private readonly file: string,
    private readonly data: object,
    private readonly onStep: (step: S) => void = () => {},
    private readonly what = "file",
    private readonly limits: ResourceLimits = { maxOldGenerationSizeMb: MOST_HEAP },
  ) {}

  /** Starts it where it isn't running, so that it is ready by the time it is asked. */
  start(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(this.file, {
      workerData: this.data,
      resourceLimits: this.limits,
    });
    // One that fails before it is asked is started anew when it is, and whoever asks hears of it.
    worker.on("error", () => {
      if (this.worker === worker) this.worker = undefined;
    });
    // The process lives as long as it waits for an answer, and not for the thread's sake.
    worker.unref();
    return (this.worker = worker);
  }

  /** @returns null where it is stopped or ended by `end` @throws {Problem} where it can't be done */
  ask(task: object): Promise<unknown> {
    const worker = this.start();
    worker.ref();
    return new Promise((resolve, reject) => {
      const done = (settle: () => void) => {
        worker.off("message", onReply).off("error", onEnd).off("exit", onEnd);
        worker.unref();
        settle();
      };
      const onReply = (reply: Reply<S>) => {
        if ("step" in reply) this.onStep(reply.step);
        else if ("answer" in reply) done(() => resolve(reply.answer));
        else if ("stopped" in reply) done(() => resolve(null));
        else done(() => reject(new Problem(reply.problem.kind, reply.problem.message)));
      };
      const onEnd = (error: Error | number) => {
        if (this.ended === worker) return done(() => resolve(null));
        this.worker = undefined;
        done(() =>
          reject(typeof error === "number" ? new Error("a thread ended before it had answered") : this.told(error)),
        );
      };
      worker.on("message", onReply).on("error", onEnd).on("exit", onEnd);
      worker.postMessage(task);
    });
  }

  private told(error: Error): Error {
    const isFull = (error as { code?: string }).code === "ERR_WORKER_OUT_OF_MEMORY";
    return isFull
      ? new Problem("bad", `The ${this.what} is too large: there isn’t enough memory to read it whole.`)
      : error;
  }

  /** Has it stop what it is at, where it can. */
  stop() {
    this.worker?.postMessage("stop");
  }

  /** Nothing is kept of what it knows. */
  async end(): Promise<void> {
    const { worker } = this;
    if (!worker) return;
    this.ended = worker;
    this.worker = undefined;
    await worker.terminate();
  }
}

/** The thread's own side: does what it is asked, and says what came of it. What nobody expects ends the thread. */
export function serveAsked<Task, S = Step>(
  port: MessagePort,
  perform: (asked: Task, tell: (step: S) => void, signal: AbortSignal) => Promise<unknown>,
) {
  const reply = (told: Reply<S>) => port.postMessage(told);
  let ending = new AbortController();
  port.on("message", (asked: Task | "stop") => {
    if (asked === "stop") return ending.abort();
    ending = new AbortController();
    perform(asked, (step) => reply({ step }), ending.signal).then(
      (answer) => reply({ answer }),
      (error: Error) => reply(replyTo(error)),
    );
  });
}

function replyTo(error: Error): Reply<never> {
  if (error.name === "AbortError") return { stopped: true };
  if (error instanceof Problem) return { problem: { kind: error.kind, message: error.message } };
  throw error;
}
