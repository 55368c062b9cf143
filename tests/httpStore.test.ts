import { serve, type ServerType } from "@hono/node-server";
import { Hono } from "hono";
import type { AddressInfo } from "node:net";
import { StoreRefusal, StoreTrouble } from "@/server/stores/adapter";
import { httpStore } from "@/server/stores/httpStore";
import { connect } from "@/server/stores/connections";
import { readStores } from "@/server/stores/read";
import { appIn } from "./app";
import { file, grant, link, named } from "./records";

/** What the adapter makes of a store's answers, good and bad. */
let server: ServerType;
let url: string;
let answer: () => Response;
const asked: { path: string; key: string | undefined; body: unknown }[] = [];
const store = () => httpStore("Dock", url, "the key");
const json = (body: unknown, status = 200, headers = {}) => Response.json(body, { status, headers });

beforeAll(async () => {
  const app = new Hono();
  app.all("*", async (c) => {
    const body = c.req.method === "POST" ? await c.req.json() : undefined;
    asked.push({ path: new URL(c.req.url).pathname, key: c.req.header("authorization"), body });
    return answer();
  });
  server = serve({ fetch: app.fetch, port: 0, hostname: "127.0.0.1" });
  await new Promise((resolve) => server.once("listening", resolve));
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => new Promise((resolve) => server.close(resolve)));
beforeEach(() => (asked.length = 0));

// An answer without end is long until it is cut.
jest.setTimeout(20_000);

describe("a change", () => {
  const revoke = () => store().apply({ action: "revoke", shareId: "l" }, "the change's key");

  test("is sent with its key, and the share is taken as the store then has it", async () => {
    const record = link("l", "f", { revokedAt: "2026-10-05T08:00:00Z" });
    answer = () => json({ entries: [{ at: "2026-10-05T08:00:00Z", record }] });
    expect(await revoke()).toMatchObject([{ gone: false, record: { id: "l", revokedAt: "2026-10-05T08:00:00Z" } }]);
    expect(asked).toEqual([
      {
        path: "/api/changes",
        key: "Bearer the key",
        body: { key: "the change's key", change: { action: "revoke", shareId: "l" } },
      },
    ]);
  });

  test.each([
    [409, StoreRefusal],
    [422, StoreRefusal],
    [404, StoreRefusal],
    [429, StoreTrouble],
    [500, StoreTrouble],
    [503, StoreTrouble],
  ])("that is answered with %s is not, or may be, worth another try", async (status, kind) => {
    answer = () => json({ error: "In the store's words." }, status);
    const error = await revoke().catch((one) => one);
    expect([error instanceof kind, error.message]).toEqual([true, "In the store's words."]);
  });

  test("waits no longer than a quarter of an hour, whatever the store asks", async () => {
    for (const asked of ["86400", "99999999999999", "Fri, 31 Dec 9999 23:59:59 GMT"]) {
      answer = () => json({ error: "Too many." }, 429, { "Retry-After": asked });
      expect(await revoke().catch((one) => one.retryAfterMs)).toBe(15 * 60_000);
    }
  });

  test("an answer without end is read up to a limit, and no further", async () => {
    let sent = 0;
    answer = () =>
      new Response(
        new ReadableStream({
          pull(controller) {
            sent += 1_000_000;
            controller.enqueue(new Uint8Array(1_000_000).fill(32));
          },
        }),
      );
    await expect(revoke()).rejects.toThrow("Dock sent too much at once.");
    await new Promise((resolve) => setTimeout(resolve, 200));
    const then = sent;
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect([sent, sent < 200_000_000]).toEqual([then, true]);
  });

  test("waits as long as the store asks", async () => {
    answer = () => json({ error: "Too many." }, 429, { "Retry-After": "7" });
    expect(await revoke().catch((one) => one.retryAfterMs)).toBe(7_000);
  });

  test("an answer without words, and no answer at all, are said with the store's name", async () => {
    answer = () => new Response("oh", { status: 502 });
    await expect(revoke()).rejects.toThrow("Dock answered 502.");
    const nowhere = httpStore("Dock", "http://127.0.0.1:1", "the key");
    await expect(nowhere.describe()).rejects.toThrow("Dock can't be reached");
  });

  test.each([
    ["no record", { entries: [{ at: "2026-10-05T08:00:00Z", record: { id: "l" } }] }],
    ["nothing", { entries: [] }],
    ["a share that is gone", { entries: [{ at: "2026-10-05T08:00:00Z", record: link("l", "f"), gone: true }] }],
  ])("an answer that tells of %s is not believed", async (_, body) => {
    answer = () => json(body);
    await expect(revoke()).rejects.toThrow();
  });
});

describe("a look afterwards", () => {
  const revoked = { action: "revoke", shareId: "g" } as const;
  const probe = (status: number) => {
    answer = () => new Response("", { status });
    return store().probe(revoked, link("l", "f", { address: `${url}/l/TOKEN` }));
  };

  test.each([
    [410, true],
    [404, true],
    [200, false],
    [401, false],
    [500, false],
  ])("an address that answers %s is dead: %s", async (status, dead) => {
    expect((await probe(status)).dead).toBe(dead);
    expect(asked[0]).toMatchObject({ path: "/l/TOKEN", key: undefined });
  });

  test.each(["http://127.0.0.1:1/l/TOKEN", "http://169.254.169.254/", "file:///etc/hosts", "no address"])(
    "an address outside the store is never opened: %s",
    async (address) => {
      expect(await store().probe(revoked, link("l", "f", { address }))).toEqual({
        dead: false,
        words: "The address is outside its store, so it was not opened.",
      });
      expect(asked).toEqual([]);
    },
  );

  test("a grant is asked of the store again", async () => {
    answer = () => json(grant("g", "f", "out", { revokedAt: "2026-10-05T08:00:00Z" }));
    expect(await store().probe(revoked, grant("g", "f", "out"))).toEqual({
      dead: true,
      words: "The store lists it as revoked.",
    });
    answer = () => json(grant("g", "f", "out"));
    expect((await store().probe(revoked, grant("g", "f", "out"))).dead).toBe(false);
  });

  test.each([
    [{ action: "set-expiry", shareId: "l", expiresAt: "2026-12-01T00:00:00Z" }, "/api/shares/l"],
    [{ action: "drop-recipient", shareId: "l", address: "OUT@quay.example" }, "/api/shares/l"],
    [{ action: "leave-group", groupId: "crew", address: "out@quay.example" }, "/api/groups/crew/membership"],
    [{ action: "stop-inheriting", itemId: "f" }, "/api/items/f"],
  ] as const)("whatever else was changed is asked of the store again: %j", async (change, path) => {
    const after = {
      "/api/groups/crew/membership": { isMember: false },
      "/api/items/f": file("f", "a", { inherits: false }),
    };
    const before = { "/api/groups/crew/membership": { isMember: true }, "/api/items/f": file("f", "a") };
    const done = named("l", "f", [], { expiresAt: "2026-12-01T00:00:00Z" });
    answer = () => json({ "/api/shares/l": done, ...after }[path]);
    expect((await store().probe(change, null)).dead).toBe(true);
    answer = () => json({ "/api/shares/l": named("l", "f", ["out@quay.example"]), ...before }[path]);
    expect((await store().probe(change, null)).dead).toBe(false);
    expect(asked.map((one) => one.path)).toEqual([path, path]);
  });
});

describe("a page of records", () => {
  test("is read with its cursor, and the last one is known by being short", async () => {
    answer = () => json({ entries: [{ seq: 5, at: "2026-10-05T08:00:00Z", record: link("l", "f") }], next: 5 });
    expect(await store().read(4)).toMatchObject({
      next: 5,
      isLast: true,
      entries: [{ at: "2026-10-05T08:00:00Z", record: { id: "l" } }],
    });
  });

  test("a record that can't be read stops the reading with its reason", async () => {
    answer = () =>
      json({ entries: [{ at: "2026-10-05T08:00:00Z", record: { ...link("l", "f"), reach: "wide" } }], next: 5 });
    await expect(store().read(4)).rejects.toThrow("Dock sent a record that can't be read: bad value: reach");
  });
});

test("a store's key goes over plain http to this machine alone, unless the settings say that the way is safe", async () => {
  const app = await appIn();
  const to = (url: string) => connect(app, { id: "dock", name: "Dock", url, key: "the key" }, "tests");
  await to("http://127.0.0.1:4313");
  await to("http://[::1]:4313");
  await to("https://dock.example");
  await expect(to("http://dock.example")).rejects.toThrow(
    ": its key could be read on the way. Use https, or set LATCH_PLAIN_STORES=yes if the network is safe.",
  );
  // One from before is not asked either.
  await app.db.updateTable("connection").set({ url: "http://192.0.2.7" }).execute();
  expect((await readStores(app))[0].error).toContain(
    ": its key could be read on the way. Use https, or set LATCH_PLAIN_STORES=yes if the network is safe.",
  );
  Object.assign(app.settings, { plainStores: true });
  await to("http://dock.example");
  await app.close();
});
