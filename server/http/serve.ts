import { type Context, Hono } from "hono";
import { streamSSE } from "hono/streaming";
import { z } from "zod";
import { eitherWords } from "@/core/text/words";
import { ALLOWED, type Operation, type Permission } from "@/contract/operation";
import { IDLE_HEADER, SIGN_IN } from "@/contract/signIn";
import { seconds, type Seconds } from "@/core/time/instant";
import { Problem } from "../platform/problem";
import type { Platform } from "../platform/platform";
import { checkFresh, may } from "../platform/rights";
import type { Actor, Answer, Asked, FileAnswer, Handler, Handlers, News } from "../platform/serving";
import { type Peers, SENDER } from "../platform/peers";
import type { AuditorReads } from "../records/ledger/auditorReads";
import { boundedBody, boundedFile, jsonBody } from "./body";
import { refusal } from "./refusal";

/** Larger than anything that most operations are sent. */
const MOST_BYTES = 256_000;
/** Larger than anything that anybody signs in by. */
const MOST_BYTES_OF_SIGN_IN = 32_000;
/** The most messages a second on a stream, whatever happens. */
const EVERY_MS = 100;
/** How often a stream checks whether its reader is still signed in. */
const LOOK_EVERY_MS = 5_000;
/** Two years, as is usual: a browser that has used https then uses nothing else. */
const HSTS = "max-age=63072000";

/** What is needed to serve requests. */
export interface Serving extends Platform {
  /** Whoever sent these headers, if they have signed in. */
  actorFrom(headers: Headers): Promise<Actor | null>;
  readonly peers: Peers;
  /** What auditors looked at. */
  readonly auditors: AuditorReads;
  /** Aborted when the application is to end: no stream keeps it up. */
  readonly ending: AbortController;
}

/** Serves the operations of every room at their addresses. */
export class Server<A extends Serving> {
  private readonly hono = new Hono();

  constructor(private readonly app: A) {
    this.hono.notFound(() => refusal(new Problem("unknown", "There is nothing at this address.")));
    this.hono.onError(refusal);
  }

  async fetch(request: Request): Promise<Response> {
    const response = await this.hono.fetch(request);
    // Personal answers aren't cached by browsers or proxies.
    if (!response.headers.has("cache-control")) response.headers.set("Cache-Control", "no-store");
    if (this.app.settings.url.startsWith("https:")) response.headers.set("Strict-Transport-Security", HSTS);
    return response;
  }

  /** Lets through what the sign-in package answers, and nothing else that it could. */
  serveSignIn(answer: (request: Request) => Promise<Response>): this {
    for (const { method, path } of Object.values(SIGN_IN))
      this.hono.on(method, `/api/auth${path}`, async (c) => {
        if (method !== "GET") this.checkOrigin(c.req.raw);
        const response = await answer(await this.plain(c.req.raw));
        // Whoever comes back from a provider sees a page, and not what a program would be told.
        const isPage = path === SIGN_IN.backFromElsewhere.path && response.status >= 400;
        return isPage ? c.redirect(`${this.app.settings.url}/sign-in?error=refused`) : response;
      });
    return this;
  }

  /** A request to sign in, its body read within bounds, and with who sent it as we know it. */
  private async plain(request: Request): Promise<Request> {
    const body = request.method === "GET" ? undefined : await jsonBody(request, MOST_BYTES_OF_SIGN_IN);
    const headers = new Headers(request.headers);
    headers.delete("x-forwarded-for");
    headers.delete("content-length");
    headers.set(SENDER, this.app.peers.addressOf(request.headers));
    return new Request(request.url, {
      method: request.method,
      headers,
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  }

  serve<Os extends Record<string, Operation>>(operations: Os, handlers: Handlers<A, Os>): this {
    for (const [name, operation] of Object.entries(operations))
      this.hono.on(operation.method, operation.path, (c) =>
        this.answer(c, operation, handlers[name] as Handler<A, Operation>),
      );
    return this;
  }

  /** The one place where a request's right is checked, and what it is asked with. */
  private async answer(c: Context, operation: Operation, handle: Handler<A, Operation>): Promise<Response> {
    if (operation.method !== "GET") this.checkOrigin(c.req.raw);
    const actor = await this.allowed(c, operation);
    const asked = {
      params: c.req.param(),
      query: operation.query?.parse(withoutPast(operation, c.req.query())),
      body: operation.body?.parse(await bodyOf(c.req.raw, operation)),
      file: operation.sentBy === "file" ? boundedFile(c.req.raw, operation.mostBytes ?? MOST_BYTES) : undefined,
      past: operation.past ? this.pastIn(c) : undefined,
      actor,
      network: this.app.peers.networkOf(c.req.raw.headers),
    } as Asked<Operation>;
    if (actor?.role === "auditor" && operation.tellsOutsiders) await this.app.auditors.note(actor.email, c.req.raw.url);
    const isStill = async () => operation.may === "anybody" || (await this.isStill(c.req.raw.headers, operation.may));
    const until = { isStill, ending: this.app.ending.signal };
    const given = () => Promise.resolve(handle(this.app, asked));
    return answered(c, operation, await (isQuestion(operation) ? this.app.traffic.answering(given) : given()), until);
  }

  private async allowed(c: Context, { may: permission, fresh }: Operation): Promise<Actor | null> {
    if (permission === "anybody") return null;
    const actor = await this.app.actorFrom(c.req.raw.headers);
    if (!actor) throw new Problem("not-signed-in", "Sign in first.");
    if (!may(actor, permission))
      throw new Problem(
        "not-allowed",
        `This is for ${eitherWords(ALLOWED[permission].map((role) => `${role}s`))} only.`,
      );
    if (actor.lacksFactor && permission !== "own")
      throw new Problem("factor-missing", "Add a second factor to your account first: your role needs one here.");
    if (fresh) checkFresh(actor);
    return actor;
  }

  /** Whether a request's sender may still have what it asked for. Checking doesn't prolong their session. */
  private async isStill(headers: Headers, permission: Permission): Promise<boolean> {
    const unattended = new Headers(headers);
    unattended.set(IDLE_HEADER, "Infinity");
    const actor = await this.app.actorFrom(unattended);
    return actor !== null && may(actor, permission) && !actor.lacksFactor;
  }

  /** What changes something must come from our own pages. */
  private checkOrigin({ headers }: Request) {
    if (headers.get("origin") !== new URL(this.app.settings.url).origin)
      throw new Problem("not-allowed", "This request did not come from this application.");
  }

  private pastIn(c: Context): Seconds | undefined {
    const { at } = pastSchema.parse(c.req.query());
    if (at === undefined) return undefined;
    if (seconds(at) > this.app.clock.seconds()) throw new Problem("bad", "at: choose a time in the past.");
    return seconds(at);
  }
}

const pastSchema = z.object({
  at: z.iso.datetime({ precision: 0, error: "at: must be a time such as 2026-03-03T12:00:00Z" }).optional(),
});

function withoutPast({ past }: Operation, { at, ...query }: Record<string, string>) {
  return past || at === undefined ? query : { ...query, at };
}

/** Requests that somebody waits for at a screen; not long ones, such as files or streams. */
function isQuestion({ method, answer }: Operation): boolean {
  return method === "GET" && answer !== "file" && !("events" in answer);
}

/** A body as its operation says that it comes. @throws {Problem} where it comes otherwise, or can't be read */
async function bodyOf(request: Request, { sentBy, mostBytes = MOST_BYTES }: Operation): Promise<unknown> {
  if (sentBy !== "form") return jsonBody(request, mostBytes);
  const type = (request.headers.get("content-type") ?? "").split(";")[0].trim().toLowerCase();
  if (type !== "application/x-www-form-urlencoded") throw new Problem("wrong-type", "Send a form.");
  const body = await boundedBody(request, mostBytes, false);
  return Object.fromEntries(new URLSearchParams(body.toString("utf8")));
}

function answered(c: Context, operation: Operation, answer: Answer<Operation>, until: Until): Response {
  if (operation.answer === "file") return fileOf(answer as FileAnswer);
  if ("events" in operation.answer) return newsOf(c, answer as News<unknown>, until);
  return c.json(answer);
}

function fileOf({ type, name, body }: FileAnswer): Response {
  const isWhole = typeof body === "string" || body instanceof Uint8Array;
  return new Response(isWhole ? body : body.pipeThrough(inBytes()), {
    headers: { "Content-Type": type, "Content-Disposition": `attachment; filename="${name}"` },
  });
}

/** A file is written in texts or in bytes; what is sent is bytes. */
function inBytes(): TransformStream<string | Uint8Array, Uint8Array> {
  const encoder = new TextEncoder();
  return new TransformStream({
    transform: (piece, controller) => controller.enqueue(typeof piece === "string" ? encoder.encode(piece) : piece),
  });
}

/** How long a stream goes on: while whoever it goes to may have it, and the application is not to end. */
interface Until {
  isStill: () => Promise<boolean>;
  ending: AbortSignal;
}

/** Each message is made when it is sent, so that the newest state is what arrives; it ends with the session. */
function newsOf(c: Context, { emitter, name, current }: News<unknown>, { isStill, ending }: Until): Response {
  const response = streamSSE(c, async (stream) => {
    let wake = () => {};
    let isNew = true;
    const onNews = () => {
      isNew = true;
      wake();
    };
    emitter.on(name, onNews);
    const onEnd = () => wake();
    ending.addEventListener("abort", onEnd);
    stream.onAbort(() => {
      emitter.off(name, onNews);
      wake();
    });
    while (!stream.aborted && !ending.aborted && (await isStill())) {
      if (isNew) {
        isNew = false;
        await stream.writeSSE({ data: JSON.stringify(await current()) });
        await stream.sleep(EVERY_MS);
      } else await Promise.race([new Promise<void>((resolve) => (wake = resolve)), stream.sleep(LOOK_EVERY_MS)]);
    }
    emitter.off(name, onNews);
    ending.removeEventListener("abort", onEnd);
  });
  // Compressed on the way, messages would arrive in lumps.
  response.headers.set("Cache-Control", "no-store, no-transform");
  return response;
}
