import type { HttpBindings } from "@hono/node-server";
import { Hono } from "hono";
import { createHash, timingSafeEqual } from "node:crypto";
import { setTimeout as wait } from "node:timers/promises";
import { normaliseAddress } from "../../core/estate/address";
import type { EstateRecord, GrantRecord, ItemRecord, LinkRecord, StoreRecord } from "../../core/estate/records";
import { applyOnce, changeSchema } from "./changes";
import type { StoreDatabase } from "./database";
import { madeSchema, makeLink } from "./making";
import { Faults, faultSchema } from "./faults";
import { RequestRate } from "./requestRate";

const MOST_A_PAGE = 1_000;

/** What a store's administrator interface offers to a program that holds its key. */
export function storeApi(db: StoreDatabase, store: StoreRecord, key: string, origin: string) {
  const api = new Hono<{ Bindings: HttpBindings }>();
  const faults = new Faults();
  const rate = new RequestRate(() => faults.perSecond);
  const drop = (outgoing: HttpBindings["outgoing"]) => {
    outgoing.destroy();
    return new Response(null, { headers: { "x-hono-already-sent": "true" } });
  };

  api.use("*", async (c, next) => {
    const given = c.req.header("authorization")?.replace(/^Bearer /, "") ?? "";
    if (!sameText(given, key)) return c.json({ error: "The key is not right." }, 401);
    await next();
  });

  api.post("/control", async (c) => {
    const parsed = faultSchema.safeParse(await c.req.json());
    if (!parsed.success) return c.json({ error: parsed.error.issues[0].message }, 400);
    faults.set(parsed.data);
    return c.json({});
  });
  api.get("/control", (c) => c.json({ applied: db.appliedCount }));

  api.use("*", async (c, next) => {
    if (faults.slowMs > 0) await wait(faults.slowMs);
    if (faults.goesOn("downMs") || faults.strikes("drops")) return drop(c.env.outgoing);
    if (faults.strikes("errors") || faults.strikesAgain("errorEvery"))
      return c.json({ error: "Something broke in the store." }, 500);
    if (faults.goesOn("stormMs") || faults.strikes("tooMany") || !rate.allows())
      return c.json({ error: "Too many requests." }, 429, { "Retry-After": "1" });
    await next();
  });

  api.get("/capabilities", (c) => c.json(store));

  api.get("/records", (c) => {
    const entries = db.after(Number(c.req.query("after") ?? 0), pageSize(c.req.query("limit")));
    return c.json({
      entries: entries.map((entry) => ({ ...entry, record: withFullAddress(entry.record, origin) })),
      next: entries.at(-1)?.seq ?? Number(c.req.query("after") ?? 0),
    });
  });

  api.get("/events", (c) => {
    const entries = db.eventsAfter(Number(c.req.query("after") ?? 0), pageSize(c.req.query("limit")));
    return c.json({ entries, next: entries.at(-1)?.seq ?? Number(c.req.query("after") ?? 0) });
  });

  api.get("/shares/:id", (c) => {
    const id = c.req.param("id");
    const share = db.get<LinkRecord>("link", id) ?? db.get<GrantRecord>("grant", id);
    return share ? c.json(withFullAddress(share, origin)) : c.json({ error: `There is no share ${id}.` }, 404);
  });

  api.get("/items/:id", (c) => {
    const item = db.get<ItemRecord>("item", c.req.param("id"));
    return item ? c.json(item) : c.json({ error: `There is no item ${c.req.param("id")}.` }, 404);
  });

  api.get("/groups/:id/membership", (c) => {
    const ids = new Set(db.peopleAt(normaliseAddress(c.req.query("address") ?? "")));
    return c.json({ isMember: db.membersOf(c.req.param("id")).some(({ memberId }) => ids.has(memberId)) });
  });

  /** What a person of the house does in the store themselves: here so that it can be seen to be noticed. */
  api.post("/shares", async (c) => {
    const parsed = madeSchema.safeParse(await c.req.json());
    if (!parsed.success) return c.json({ error: parsed.error.issues[0].message }, 400);
    if (!db.get<ItemRecord>("item", parsed.data.itemId))
      return c.json({ error: `There is no item ${parsed.data.itemId}.` }, 404);
    return c.json(withFullAddress(makeLink(db, parsed.data), origin));
  });

  api.post("/changes", async (c) => {
    const parsed = changeSchema.safeParse(await c.req.json());
    if (!parsed.success) return c.json({ error: parsed.error.issues[0].message }, 400);
    const answer = applyOnce(db, store, parsed.data.key, parsed.data.change);
    if (faults.strikes("halfApplied") || faults.strikesAgain("halfAppliedEvery")) return drop(c.env.outgoing);
    const entries = answer.body.entries?.map((one) => ({ ...one, record: withFullAddress(one.record, origin) }));
    return c.json({ ...answer.body, entries }, answer.status);
  });

  return api;
}

function pageSize(asked: string | undefined): number {
  return Math.min(Math.max(Number(asked ?? MOST_A_PAGE) || MOST_A_PAGE, 1), MOST_A_PAGE);
}

/** Inside, a link's address is its token; outside it is the whole address. */
function withFullAddress(record: EstateRecord, origin: string): EstateRecord {
  return record.type === "link" && record.address ? { ...record, address: `${origin}/l/${record.address}` } : record;
}

/** Compares without telling by its time how much was right. */
function sameText(a: string, b: string): boolean {
  const digest = (text: string) => createHash("sha256").update(text).digest();
  return timingSafeEqual(digest(a), digest(b));
}
