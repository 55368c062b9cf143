import { z } from "zod";
import type { App } from "../app";
import type { Db } from "../platform/db/open";
import { theApp } from "../theApp";
import { seconds, type Seconds } from "@/core/time/instant";
import { Problem, type ProblemKind } from "../platform/problem";
import { ROLES, type SignInRole } from "@/contract/roles";

export interface Actor {
  email: string;
  name: string;
  role: SignInRole;
}

/**
 * Who may do what. Reading, and keeping what is one's own (how one's table looks, one's own queries), is for all who
 * see the console; changing is for administrators alone.
 */
const ALLOWED = {
  read: ["administrator", "auditor"],
  keep: ["administrator", "auditor"],
  change: ["administrator"],
} satisfies Record<string, SignInRole[]>;
export type Permission = keyof typeof ALLOWED;

/** Whoever sent these headers, if they are signed in. */
export async function actorFrom(app: App, headers: Headers): Promise<Actor | null> {
  const session = await (await app.auth()).api.getSession({ headers });
  if (!session) return null;
  const role = z.enum(ROLES).parse(session.user.role);
  return { email: session.user.email, name: session.user.name, role };
}

export function may(actor: Actor, permission: Permission): boolean {
  return (ALLOWED[permission] as SignInRole[]).includes(actor.role);
}

interface Context<P> {
  request: Request;
  actor: Actor;
  app: App;
  db: Db;
  params: P;
}

/**
 * The one place where a request's right is checked: wraps a route handler so that it runs only for
 * somebody signed in who may do this. A request that changes something must come from our own pages.
 */
export function guarded<P = Record<never, never>>(
  permission: Permission,
  handle: (context: Context<P>) => Promise<Response | object>,
): (request: Request, route: { params: Promise<P> }) => Promise<Response> {
  return async (request, route) => {
    try {
      const app = await theApp();
      const actor = await actorFrom(app, request.headers);
      if (!actor) throw new Problem("not-signed-in", "Sign in first.");
      if (!may(actor, permission))
        throw new Problem("not-allowed", `This is for ${ALLOWED[permission].join(" or ")} only.`);
      if (request.method !== "GET") checkOrigin(app, request);
      const answer = await handle({ request, actor, app, db: app.db, params: await route.params });
      return answer instanceof Response ? answer : Response.json(answer);
    } catch (error) {
      return refusal(error);
    }
  };
}

export function checkOrigin(app: App, request: Request) {
  const origin = request.headers.get("origin");
  if (origin !== new URL(app.settings.url).origin)
    throw new Problem("not-allowed", "This request did not come from this application.");
}

const STATUS: Record<ProblemKind, number> = {
  bad: 400,
  "not-signed-in": 401,
  "not-allowed": 403,
  unknown: 404,
  conflict: 409,
  gone: 410,
  "too-many": 429,
  unreachable: 502,
};

export function refusal(error: unknown): Response {
  if (error instanceof Problem) return Response.json({ error: error.message }, { status: STATUS[error.kind] });
  if (error instanceof z.ZodError) return Response.json({ error: z.prettifyError(error) }, { status: 400 });
  console.error(error);
  return Response.json({ error: "Something went wrong in the application. Its log says what." }, { status: 500 });
}

/** A request's JSON body, checked. @throws {Problem | z.ZodError} */
export async function bodyOf<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const value = await request.json().catch(() => {
    throw new Problem("bad", "The request's body is not JSON.");
  });
  return schema.parse(value);
}

const pastSchema = z.object({
  at: z.iso.datetime({ precision: 0, error: "at: must be a time such as 2026-03-03T12:00:00Z" }).optional(),
});

/** The past instant that a request asks about; undefined is now. @throws {Problem | z.ZodError} */
export function pastOf(app: App, request: Request): Seconds | undefined {
  const { at } = queryOf(request, pastSchema);
  if (at === undefined) return undefined;
  if (seconds(at) > app.clock.seconds())
    throw new Problem("bad", "at: that lies in the future; nobody knows who will reach what then.");
  return seconds(at);
}

/** A request's query, checked. @throws {z.ZodError} */
export function queryOf<T>(request: Request, schema: z.ZodType<T>): T {
  return schema.parse(Object.fromEntries(new URL(request.url).searchParams));
}
