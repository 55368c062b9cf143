import { type ChildProcess, execFileSync, spawn } from "node:child_process";
import { cpSync, existsSync, mkdtempSync, readFileSync, renameSync, rmSync } from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { MADE } from "./setUp";
import { until } from "./until";

/** The instant at which every demo of the tests stands still. */
export const NOW = "2026-11-23T09:14:00Z";
export const PASSWORD = "tern-gravel-lantern-oboe";
export const ADMINISTRATOR = "imre.varga@wrenmoor.example";
export const AUDITOR = "auditor@wrenmoor.example";

/** A slow machine takes a while to make a demo from nothing. */
const START_WITHIN_MS = 240_000;

const root = join(__dirname, "../..");
const STORES = ["stacks", "alcoves", "dock"] as const;
type StoreName = (typeof STORES)[number];

/**
 * A whole demo of its own, with its own data, started by the command that users start. It is made but once for each
 * worker of Jest, and copied; so the demos of one worker stand at the same ports, one after the other.
 */
export class Demo {
  private process: ChildProcess | undefined;
  private output = "";
  private firstPort = 0;

  /** @param more settings of the application, for this demo @param options of the command that starts it */
  constructor(
    private more: Record<string, string> = {},
    readonly data = mkdtempSync(join(tmpdir(), "latch-e2e-")),
    private readonly options: readonly string[] = [],
  ) {}

  get url(): string {
    return `http://localhost:${this.firstPort}`;
  }

  async start(): Promise<void> {
    if (!existsSync(this.marker)) cpSync(await madeOnce(), this.data, { recursive: true });
    await this.run(JSON.parse(readFileSync(this.marker, "utf8")).ports.LATCH_PORT);
  }

  /** Makes one from nothing, as at the first start, and ends it. */
  async make(firstPort: number): Promise<void> {
    await this.run(firstPort);
    await this.stop();
  }

  private async run(firstPort: number): Promise<void> {
    this.firstPort = firstPort;
    this.output = "";
    const env = {
      ...process.env,
      NODE_ENV: "production" as const,
      LATCH_NOW: NOW,
      LATCH_DATA: join(this.data, "demo"),
      LATCH_READ_EVERY: "0",
      LATCH_WATCH_EVERY: "0",
      ...this.more,
      LATCH_PORT: String(firstPort),
      LATCH_STACKS_PORT: String(firstPort + 1),
      LATCH_ALCOVES_PORT: String(firstPort + 2),
      LATCH_DOCK_PORT: String(firstPort + 3),
      LATCH_SMTP_PORT: String(firstPort + 4),
      LATCH_MAIL_PORT: String(firstPort + 5),
      LATCH_IDENTITY_PORT: String(firstPort + 6),
    };
    this.process = spawn(process.execPath, ["scripts/demo.mjs", ...this.options], {
      cwd: root,
      env,
      stdio: ["ignore", "pipe", "pipe"],
    });
    this.process.stdout!.on("data", (text) => (this.output += text));
    this.process.stderr!.on("data", (text) => (this.output += text));
    await this.until(() => this.output.includes("Ctrl+C ends everything"), "start", START_WITHIN_MS);
  }

  /** Ends it, and starts it again with the same data at a later instant: what was due meanwhile is done then. */
  async restartAt(now: string): Promise<void> {
    await this.stop();
    this.more = { ...this.more, LATCH_NOW: now };
    await this.start();
  }

  /** Runs the command line over the application's data. */
  latch(...given: string[]): string {
    const env = {
      ...process.env,
      LATCH_NOW: NOW,
      ...this.more,
      LATCH_DATA: join(this.data, "demo"),
      LATCH_WITNESSES: join(this.data, "demo-witnesses"),
      LATCH_URL: this.url,
    };
    return execFileSync(join(root, "bin/latch"), given, { encoding: "utf8", env, cwd: this.data, timeout: 180_000 });
  }

  /** Ends it as Ctrl+C does, and waits until it is gone. */
  async stop(): Promise<void> {
    const child = this.process;
    if (child && child.exitCode === null) {
      const gone = new Promise((resolve) => child.once("exit", resolve));
      child.kill("SIGINT");
      await gone;
    }
  }

  async remove(): Promise<void> {
    await this.stop();
    rmSync(this.data, { recursive: true, force: true });
  }

  /** Kills a process of the demo as a crash would, by its name and a part of its command; what started it starts it again. */
  async kill(name: string, command: string): Promise<void> {
    const rows = execFileSync("ps", ["-o", "pid=,args=", "--ppid", String(this.process!.pid)], { encoding: "utf8" });
    const row = rows.split("\n").find((one) => one.includes(command));
    const before = this.output.length;
    process.kill(Number(row!.trim().split(" ")[0]), "SIGKILL");
    await this.until(() => this.output.slice(before).includes(`${name} is started again`), "start it again");
  }

  async killApplication(): Promise<void> {
    await this.kill("The application", "next");
    await this.until(
      async () => (await fetch(`${this.url}/sign-in`).catch(() => undefined))?.ok ?? false,
      "answer again",
    );
  }

  /** Which of its ports still answer. */
  openPorts(): Promise<number[]> {
    return openAmong(this.firstPort);
  }

  private get marker(): string {
    return join(this.data, "demo/demo.json");
  }

  get databasePath(): string {
    return join(this.data, "demo/latch.sqlite");
  }

  /** Asks or tells a store's control what goes wrong there. */
  control(store: StoreName, faults?: Record<string, number>): Promise<{ applied: number }> {
    return this.askStore(store, "/api/control", faults);
  }

  /** Asks a store itself, as a program that holds its key. */
  async askStore<T>(store: StoreName, path: string, body?: object): Promise<T> {
    const { keys } = JSON.parse(readFileSync(this.marker, "utf8"));
    const response = await fetch(`${this.storeUrl(store)}${path}`, {
      method: body ? "POST" : "GET",
      headers: { Authorization: `Bearer ${keys[store]}`, "Content-Type": "application/json" },
      body: body && JSON.stringify(body),
    });
    return response.json();
  }

  storeUrl(store: StoreName): string {
    return `http://127.0.0.1:${this.firstPort + 1 + STORES.indexOf(store)}`;
  }

  /** Every mail that went out, the newest first. */
  async mails(): Promise<{ to: string; subject: string; text: string }[]> {
    return (await fetch(`http://127.0.0.1:${this.firstPort + 5}/mails.json`)).json();
  }

  /** A session of somebody, for requests without a browser. */
  async signIn(email: string): Promise<Session> {
    const response = await fetch(`${this.url}/api/auth/sign-in/email`, {
      method: "POST",
      headers: { "Content-Type": "application/json", Origin: this.url },
      body: JSON.stringify({ email, password: PASSWORD }),
    });
    const cookie = response.headers.getSetCookie().map((one) => one.split(";")[0]);
    return new Session(this.url, cookie.join("; "));
  }

  until(condition: () => boolean | Promise<boolean>, what: string, withinMs?: number): Promise<void> {
    const orGone = () => {
      if (this.process && this.process.exitCode !== null) throw new Error(`The demo ended. It said:\n${this.output}`);
      return condition();
    };
    return until(orGone, what, () => this.output, withinMs);
  }
}

/** Each worker looks for seven ports from another one on. */
const FIRST_PORT = 4600;
const APART = 10;
const FURTHER = 100;

/** The demo that this worker copies, made at its first call. */
async function madeOnce(): Promise<string> {
  const worker = process.env.JEST_WORKER_ID!;
  const made = join(process.env[MADE]!, worker);
  if (existsSync(made)) return made;
  let port = FIRST_PORT + APART * Number(worker);
  while ((await openAmong(port)).length > 0) port += FURTHER;
  // Only what is whole comes to stand under its name.
  const half = `${made}.half`;
  rmSync(half, { recursive: true, force: true });
  await new Demo({}, half).make(port);
  renameSync(half, made);
  return made;
}

/** Which of seven ports answer. */
async function openAmong(first: number): Promise<number[]> {
  const ports = Array.from({ length: 7 }, (_, i) => first + i);
  const isOpen = (port: number) =>
    new Promise<boolean>((resolve) => {
      const socket = connect(port, "127.0.0.1", () => (socket.destroy(), resolve(true)));
      socket.once("error", () => resolve(false));
    });
  const open = await Promise.all(ports.map(isOpen));
  return ports.filter((_, i) => open[i]);
}

export class Session {
  constructor(
    private readonly url: string,
    private readonly cookie: string,
  ) {}

  async ask(path: string, body?: unknown, method = body === undefined ? "GET" : "POST") {
    const response = await fetch(this.url + path, {
      method,
      headers: { Cookie: this.cookie, Origin: this.url, "Content-Type": "application/json" },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    return { status: response.status, answer: await response.json() };
  }

  /** Applies a docket as it is shown. */
  async apply(docketId: string) {
    const { digest } = (await this.ask(`/api/dockets/${docketId}`)).answer;
    return this.ask(`/api/dockets/${docketId}/apply`, { digest });
  }

  /** A file that is had by asking for it. */
  async bytes(path: string): Promise<Buffer> {
    const response = await fetch(this.url + path, { headers: { Cookie: this.cookie } });
    return Buffer.from(await response.arrayBuffer());
  }

  /** Sends a form as the browser does, and takes the file that comes. */
  async download(path: string, fields: Record<string, string>): Promise<{ type: string | null; bytes: Buffer }> {
    const response = await fetch(this.url + path, {
      method: "POST",
      headers: { Cookie: this.cookie, Origin: this.url },
      body: new URLSearchParams(fields),
    });
    return { type: response.headers.get("Content-Type"), bytes: Buffer.from(await response.arrayBuffer()) };
  }
}
