import { createWriteStream } from "node:fs";
import { mkdir, rm } from "node:fs/promises";
import { join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { v7 as uuid } from "uuid";
import { runningSeconds } from "../platform/clock";
import { installed } from "../platform/installation";
import { databasePath, type Platform } from "../platform/platform";
import { Problem } from "../platform/problem";
import { AskedThread, type Step } from "../platform/thread";
import type { ImportAnswer, ImportTask } from "./thread";

const IDLE_SECONDS = 1_800;

/** A thread that reads one report; its memory is freed when it ends. */
export class ImportThread {
  private readonly thread: AskedThread;

  constructor({ settings, clock }: Platform, onStep?: (step: Step) => void) {
    const data = { databasePath: databasePath(settings), now: clock.standsAt };
    this.thread = new AskedThread(installed("dist", "imports.mjs"), data, onStep);
  }

  start() {
    this.thread.start();
  }

  /** @returns null where it is stopped @throws {Problem} where it can't be done */
  async ask<T extends ImportTask["task"]>(task: Extract<ImportTask, { task: T }>): Promise<ImportAnswer[T] | null> {
    return (await this.thread.ask(task)) as ImportAnswer[T] | null;
  }

  stop() {
    this.thread.stop();
  }

  end(): Promise<void> {
    return this.thread.end();
  }
}

/** A report that somebody has at hand: its file, and the thread that reads it. */
export class Hand {
  /** What the thread is doing, and how far it is; null where it does nothing. */
  step: Step | null = null;
  checked: ImportAnswer["check"] | null = null;
  /** Why the last long task failed; null if it didn't. */
  problem: string | null = null;
  imported: { file: string; changed: number; ended: number; ticked: number; isStopped: boolean } | null = null;
  usedAt = runningSeconds();
  private readonly thread: ImportThread;

  constructor(
    readonly path: string,
    readonly file: string,
    app: Platform,
  ) {
    this.thread = new ImportThread(app, (step) => (this.step = step));
  }

  /** Gets ready to read while the file is still coming. */
  start() {
    this.thread.start();
  }

  /** @throws {Problem} where it is at something already; until `release` nothing else can be begun with it */
  hold() {
    if (this.step) throw new Problem("conflict", "This report is already being read. Wait for it, or stop it.");
    this.step = { words: "Starting", done: 0 };
    this.usedAt = runningSeconds();
  }

  release() {
    this.step = null;
  }

  /** @returns null where it is stopped @throws {Problem} where it can't be done */
  ask<T extends ImportTask["task"]>(task: Extract<ImportTask, { task: T }>): Promise<ImportAnswer[T] | null> {
    return this.thread.ask(task);
  }

  stop() {
    this.thread.stop();
  }

  /** Nothing is kept of it. */
  async drop(): Promise<void> {
    await this.thread.end();
    await rm(this.path, { force: true });
  }
}

/** The reports that people have at hand: each of them one. */
export class ImportsAtWork {
  private readonly hands = new Map<string, Hand>();

  of(email: string): Hand | undefined {
    return this.hands.get(email);
  }

  /** @throws {Problem} where they have none */
  handOf(email: string): Hand {
    const hand = this.hands.get(email);
    if (!hand) throw new Problem("gone", "The file is no longer here. Choose it again.");
    return hand;
  }

  async take(email: string, hand: Hand): Promise<void> {
    await this.drop(email);
    this.hands.set(email, hand);
  }

  async drop(email: string): Promise<void> {
    const hand = this.hands.get(email);
    this.hands.delete(email);
    await hand?.drop();
  }

  /** Whoever hasn't come back for so long doesn't need it any more. */
  async dropIdle(): Promise<void> {
    for (const [email, hand] of this.hands)
      if (!hand.step && hand.usedAt + IDLE_SECONDS < runningSeconds()) await this.drop(email);
  }

  async close(): Promise<void> {
    for (const email of [...this.hands.keys()]) await this.drop(email);
  }
}

export interface Importing extends Platform {
  readonly imports: ImportsAtWork;
}

/** Puts a file that somebody sends where the thread can read it. */
export async function receive(
  app: Importing,
  { email, name, file }: { email: string; name: string; file: ReadableStream<Uint8Array> },
): Promise<Hand> {
  const before = app.imports.of(email);
  if (before?.step?.words === "Importing")
    throw new Problem("conflict", "Another report of yours is being imported. Wait for it, or stop it.");
  const folder = join(app.settings.data, "reports");
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const hand = new Hand(join(folder, uuid()), name, app);
  hand.start();
  try {
    await pipeline(Readable.fromWeb(file as never), createWriteStream(hand.path, { mode: 0o600 }));
  } catch (error) {
    await hand.drop();
    throw error;
  }
  await app.imports.take(email, hand);
  return hand;
}

/** What was left by a process that ended: nobody has it at hand any more. */
export async function clearReports({ settings }: Platform): Promise<void> {
  await rm(join(settings.data, "reports"), { recursive: true, force: true });
}
