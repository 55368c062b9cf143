import { type Context, Hono } from "hono";
import { bodyLimit } from "hono/body-limit";
import { streamSSE } from "hono/streaming";
import { z } from "zod";
import { ALLOWED, type Operation } from "@/contract/operation";
import { seconds, type Seconds } from "@/core/time/instant";
import { Problem } from "../platform/problem";
import type { Platform } from "../platform/platform";
import { may } from "../platform/rights";
import type { Actor, Answer, Asked, FileAnswer, Handler, Handlers, News } from "../platform/serving";
import { refusal } from "./refusal";

/** Larger than anything that most operations are sent. */
const MOST_BYTES = 256_000;
/** So many messages a second go out at most, whatever the rate of what happens. */
const EVERY_MS = 100;

/** What is needed to serve requests. */
export interface Serving extends Platform {
  /** Whoever sent these headers, if they have signed in. */
  actorFrom(headers: Headers): Promise<Actor | null>;
}

/** Serves the operations of every room at their addresses. */
export class Server<A extends Serving> {
  private readonly hono = new Hono();

  constructor(private readonly app: A) {
    this.hono.notFound(() => refusal(new Problem("unknown", "There is nothing at this address.")));
    this.hono.onError(refusal);
  }

  fetch(request: Request): Response | Promise<Response> {
    return this.hono.fetch(request);
  }

  serve<Os extends Record<string, Operation>>(operations: Os, handlers: Handlers<A, Os>): this {
    for (const [name, operation] of Object.entries(operations))
      this.hono.on(
        operation.method,
        operation.path,
        bodyLimit({ maxSize: operation.mostBytes ?? MOST_BYTES, onError: tooLarge }),
        (c) => this.answer(c, operation, handlers[name] as Handler<A, Operation>),
      );
    return this;
  }

  /** The one place where a request's right is checked, and what it is asked with. */
  private async answer(c: Context, operation: Operation, handle: Handler<A, Operation>): Promise<Response> {
    if (operation.method !== "GET") this.checkOrigin(c);
    const actor = operation.may === "anybody" ? null : await this.allowed(c, operation.may);
    const asked = {
      params: c.req.param(),
      query: operation.query?.parse(withoutPast(operation, c.req.query())),
      body: operation.body?.parse(await bodyOf(c, operation)),
      past: operation.past ? this.pastIn(c) : undefined,
      actor,
    } as Asked<Operation>;
    return answered(c, operation, await handle(this.app, asked));
  }

  private async allowed(c: Context, permission: Exclude<Operation["may"], "anybody">): Promise<Actor> {
    const actor = await this.app.actorFrom(c.req.raw.headers);
    if (!actor) throw new Problem("not-signed-in", "Sign in first.");
    if (!may(actor, permission))
      throw new Problem("not-allowed", `This is for ${ALLOWED[permission].join(" or ")} only.`);
    return actor;
  }

  /** What changes something must come from our own pages. */
  private checkOrigin(c: Context) {
    if (c.req.header("origin") !== new URL(this.app.settings.url).origin)
      throw new Problem("not-allowed", "This request did not come from this application.");
  }

  private pastIn(c: Context): Seconds | undefined {
    const { at } = pastSchema.parse(c.req.query());
    if (at === undefined) return undefined;
    if (seconds(at) > this.app.clock.seconds())
      throw new Problem("bad", "at: that lies in the future; nobody knows who will reach what then.");
    return seconds(at);
  }
}

const pastSchema = z.object({
  at: z.iso.datetime({ precision: 0, error: "at: must be a time such as 2026-03-03T12:00:00Z" }).optional(),
});

function withoutPast({ past }: Operation, { at, ...query }: Record<string, string>) {
  return past || at === undefined ? query : { ...query, at };
}

/** A body as its operation says that it comes. @throws {Problem} where it comes otherwise, or can't be read */
async function bodyOf(c: Context, { sentBy }: Operation): Promise<unknown> {
  const type = (c.req.header("content-type") ?? "").split(";")[0].trim().toLowerCase();
  if (sentBy === "form") {
    if (type !== "application/x-www-form-urlencoded" && type !== "multipart/form-data")
      throw new Problem("wrong-type", "This takes a form.");
    return Object.fromEntries(await c.req.raw.formData());
  }
  if (type !== "application/json") throw new Problem("wrong-type", "This takes JSON: send it as application/json.");
  return c.req.json().catch(() => {
    throw new Problem("bad", "The request's body is not JSON.");
  });
}

function tooLarge(): Response {
  return refusal(new Problem("too-large", "That is more than is taken at once."));
}

function answered(c: Context, operation: Operation, answer: Answer<Operation>): Response {
  if (operation.answer === "file") return fileOf(answer as FileAnswer);
  if ("events" in operation.answer) return newsOf(c, answer as News<unknown>);
  return c.json(answer);
}

function fileOf({ type, name, body }: FileAnswer): Response {
  return new Response(body, {
    headers: { "Content-Type": type, "Content-Disposition": `attachment; filename="${name}"` },
  });
}

/** Each message is made when it is sent, so that the newest state is what arrives. */
function newsOf(c: Context, { emitter, name, current }: News<unknown>): Response {
  const response = streamSSE(c, async (stream) => {
    let wake = () => {};
    let isNew = true;
    const onNews = () => {
      isNew = true;
      wake();
    };
    emitter.on(name, onNews);
    stream.onAbort(() => {
      emitter.off(name, onNews);
      wake();
    });
    while (!stream.aborted) {
      if (isNew) {
        isNew = false;
        await stream.writeSSE({ data: JSON.stringify(await current()) });
        await stream.sleep(EVERY_MS);
      } else await new Promise<void>((resolve) => (wake = resolve));
    }
  });
  // Compressed on the way, it would arrive in lumps.
  response.headers.set("Cache-Control", "no-cache, no-transform");
  return response;
}
