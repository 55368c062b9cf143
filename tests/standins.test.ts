import { createHmac } from "node:crypto";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import * as OTPAuth from "otpauth";
import type { EstateRecord, LinkRecord } from "@/core/estate/records";
import { applyOnce } from "@/standins/store/changes";
import { codeFor, isCode } from "@/standins/store/codes";
import { StoreDatabase } from "@/standins/store/database";
import { insidePages } from "@/standins/store/insidePages";
import { recipientPages } from "@/standins/store/recipient";
import { STORES } from "@/standins/store/stores";
import { file, grant, group, item, link, person } from "./records";

const sent: { address: string; code: string }[] = [];
jest.mock("../standins/store/mail", () => ({
  sendCode: async (address: string, code: string) => void sent.push({ address, code }),
}));

process.env.LATCH_NOW = "2026-10-05T08:00:00Z";

function storeWith(...records: EstateRecord[]) {
  const db = new StoreDatabase(join(mkdtempSync(join(tmpdir(), "latch-standin-")), "store.sqlite"));
  const dock = STORES.dock;
  for (const record of records) db.put(record);
  const app = recipientPages({
    db,
    store: { ...dock, capabilities: { ...dock.capabilities, namedLinks: true, perRecipientUse: true } },
    cookieKey: "k".repeat(32),
    homeDomain: "home.example",
  });
  const visitor = new Visitor((path, init) => app.request(path, init));
  return { db, visitor, another: () => new Visitor((path, init) => app.request(path, init)) };
}

/** Somebody with a browser: keeps cookies, sends forms. */
class Visitor {
  private cookies = new Map<string, string>();
  constructor(private readonly request: (path: string, init?: RequestInit) => Response | Promise<Response>) {}

  async open(path: string, form?: Record<string, string | File>) {
    const body =
      form && Object.entries(form).reduce((data, [name, value]) => (data.append(name, value), data), new FormData());
    const headers = { Cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join("; ") };
    const response = await this.request(path, { method: form ? "POST" : "GET", body, headers });
    for (const cookie of response.headers.getSetCookie()) {
      const [name, value] = cookie.split(";")[0].split(/=(.*)/s);
      this.cookies.set(name, value);
    }
    return { status: response.status, text: await response.text(), headers: response.headers };
  }
}

const folder = item("a", null, { name: "Tour", storeId: "dock" });
const plan = file("f", "a", { name: "Plan.pdf", storeId: "dock" });
const secret = file("s", "a", { name: "Secret.pdf", storeId: "dock", inherits: false });
const open = (more: Partial<LinkRecord> = {}) => link("l", "a", { address: "TOKEN", ...more });
const usesOf = (db: StoreDatabase) => db.get<LinkRecord>("link", "l")!.uses;

describe("an open link", () => {
  test("shows the folder, counts one use a visitor, and keeps out what doesn't inherit", async () => {
    const { db, visitor, another } = storeWith(folder, plan, secret, open());
    const { status, text } = await visitor.open("/l/TOKEN");
    expect([status, text.includes("Plan.pdf"), text.includes("Secret.pdf")]).toEqual([200, true, false]);
    await visitor.open("/l/TOKEN?at=f");
    expect(usesOf(db)).toBe(1);
    await another().open("/l/TOKEN");
    expect(usesOf(db)).toBe(2);
    expect((await visitor.open("/l/TOKEN?at=s")).status).toBe(410);
  });

  test("gives the file's bytes only where a download is allowed, by direct request too", async () => {
    const free = storeWith(folder, plan, secret, open());
    await free.visitor.open("/l/TOKEN");
    const download = await free.visitor.open("/l/TOKEN/file/f");
    expect([download.status, download.headers.get("content-disposition")]).toEqual([
      200,
      "attachment; filename*=UTF-8''Plan.pdf",
    ]);
    expect((await free.visitor.open("/l/TOKEN/file/s")).status).toBe(403);

    const blocked = storeWith(folder, plan, open({ download: false }));
    expect((await blocked.visitor.open("/l/TOKEN?at=f")).text).not.toContain("Download");
    await blocked.visitor.open("/l/TOKEN");
    expect((await blocked.visitor.open("/l/TOKEN/file/f")).status).toBe(403);
    expect(blocked.db.eventsAfter(0, 10).map(({ event }) => event.verb)).toEqual(["opened", "refused"]);
  });

  test("says what is wrong with it: not yet, ended, revoked, used up, its target gone", async () => {
    const states = async (more: Partial<LinkRecord>, ...items: EstateRecord[]) => {
      const { visitor } = storeWith(...(items.length > 0 ? items : [folder]), open(more));
      const { status, text } = await visitor.open("/l/TOKEN");
      return [status, text.includes("no longer available")];
    };
    expect(await states({ opensAt: "2026-10-06T08:00:00Z" })).toEqual([403, false]);
    expect(await states({ expiresAt: "2026-10-05T08:00:00Z" })).toEqual([410, true]);
    expect(await states({ revokedAt: "2026-10-01T08:00:00Z" })).toEqual([410, true]);
    expect(await states({ maxUses: 2, uses: 2 })).toEqual([410, true]);
    expect(await states({}, { ...folder, state: "binned" })).toEqual([410, true]);
  });

  test("with a cap lets in so many and no more; those inside stay inside", async () => {
    const { visitor, another } = storeWith(folder, open({ maxUses: 1 }));
    expect((await visitor.open("/l/TOKEN")).status).toBe(200);
    expect((await another().open("/l/TOKEN")).status).toBe(410);
    expect((await visitor.open("/l/TOKEN")).status).toBe(200);
  });

  test("with a password takes only that, and five wrong tries are the most", async () => {
    const { db, visitor, another } = storeWith(folder, plan, open({ password: true }));
    db.setPassword("l", "tern-gravel");
    expect((await visitor.open("/l/TOKEN")).status).toBe(401);
    expect((await visitor.open("/l/TOKEN/file/f")).status).toBe(303);
    expect((await visitor.open("/l/TOKEN/password", { password: "wrong" })).text).toContain(
      "That is not the password.",
    );
    expect((await visitor.open("/l/TOKEN/password", { password: "tern-gravel" })).status).toBe(303);
    expect((await visitor.open("/l/TOKEN")).text).toContain("Plan.pdf");
    const guesser = another();
    for (let i = 0; i < 4; i++) await guesser.open("/l/TOKEN/password", { password: `wrong ${i}` });
    expect((await guesser.open("/l/TOKEN/password", { password: "tern-gravel" })).status).toBe(429);
  });
});

describe("a named link", () => {
  const named = () => open({ reach: "named", recipients: [{ email: "A@Quay.example" }] });

  test("sends a code to those on it alone, takes only that, and notes who opened it", async () => {
    const { db, visitor } = storeWith(folder, plan, named());
    sent.length = 0;
    expect((await visitor.open("/l/TOKEN")).text).toContain("Who are you?");
    await visitor.open("/l/TOKEN/address", { address: "stranger@post.example" });
    expect(sent).toEqual([]);
    await visitor.open("/l/TOKEN/address", { address: "a@QUAY.example" });
    expect(sent).toEqual([{ address: "a@quay.example", code: expect.stringMatching(/^\d{6}$/) }]);
    const [{ code }] = sent;
    const wrong = code === "000000" ? "000001" : "000000";
    expect((await visitor.open("/l/TOKEN/code", { address: "a@quay.example", code: wrong })).status).toBe(401);
    expect((await visitor.open("/l/TOKEN/code", { address: "stranger@post.example", code })).status).toBe(401);
    expect((await visitor.open("/l/TOKEN/code", { address: "a@quay.example", code })).status).toBe(303);
    expect((await visitor.open("/l/TOKEN")).text).toContain("Plan.pdf");
    expect(db.get<LinkRecord>("link", "l")!.recipients[0].lastOpenedAt).toBe("2026-10-05T08:00:00Z");
    expect((await visitor.open("/l/TOKEN/code", { address: "a@quay.example", code })).status).toBe(401);
  });
});

test("an intake link takes files, says who sent what, and shows nobody what is there", async () => {
  const { db, visitor } = storeWith(folder, plan, open({ role: "deposit" }));
  const page = await visitor.open("/l/TOKEN");
  expect([page.text.includes("Send files to Tour"), page.text.includes("Plan.pdf")]).toEqual([true, false]);
  const answer = await visitor.open("/l/TOKEN/files", {
    sender: "New@Post.example",
    file: new File(["la la"], "Audition.mp4"),
  });
  expect(answer.text).toContain("Audition.mp4 has arrived.");
  const arrived = db.childrenOf("a").find((one) => one.name === "Audition.mp4")!;
  expect(Buffer.from(db.fileBytes(arrived.id)!).toString()).toBe("la la");
  expect(db.eventsAfter(0, 9).at(-1)!.event).toMatchObject({
    verb: "sent-in",
    actorEmail: "new@post.example",
    detail: { name: "Audition.mp4" },
  });
  expect((await visitor.open(`/l/TOKEN/file/${arrived.id}`)).status).toBe(403);
});

describe("changes from outside", () => {
  test("are done once for each key, and the same key has the same answer", () => {
    const { db } = storeWith(folder, open());
    const first = applyOnce(db, STORES.dock, "key-00001", { action: "revoke", shareId: "l" });
    expect([first.status, first.body.entries]).toMatchObject([
      200,
      [{ gone: false, record: { revokedAt: "2026-10-05T08:00:00Z" } }],
    ]);
    expect(applyOnce(db, STORES.dock, "key-00001", { action: "revoke", shareId: "l" })).toEqual(first);
    expect(applyOnce(db, STORES.dock, "key-00002", { action: "revoke", shareId: "l" }).status).toBe(409);
    expect([db.appliedCount, db.eventsAfter(0, 9).length]).toEqual([1, 1]);
  });

  test("are refused where the store can't keep them", () => {
    const { db } = storeWith(folder, open(), grant("g", "a", "out"));
    const end = (shareId: string, expiresAt: string, key: string) =>
      applyOnce(db, STORES.stacks, key, { action: "set-expiry", shareId, expiresAt });
    expect(end("l", "2026-10-05T20:00:00Z", "key-00001").body.error).toBe(
      "Stacks wants an end date at least 24 hours ahead.",
    );
    expect(end("l", "2026-10-07T08:00:00Z", "key-00002").status).toBe(200);
    expect(
      applyOnce(db, STORES.dock, "key-00003", { action: "set-expiry", shareId: "g", expiresAt: "2026-11-05T08:00:00Z" })
        .status,
    ).toBe(422);
    expect(end("nothing", "2026-11-05T08:00:00Z", "key-00004").status).toBe(404);
  });
});

describe("changes to who is on something", () => {
  const crew = group("crew", "out", "band");
  const records = [person("out", "out@quay.example"), ...crew, ...group("band", "out"), folder, plan];
  const apply = (db: StoreDatabase, key: string, change: Parameters<typeof applyOnce>[3]) =>
    applyOnce(db, STORES.dock, key, change);

  test("a recipient is dropped from a link, and gets no code any more", async () => {
    const { db, visitor } = storeWith(
      folder,
      open({ reach: "named", recipients: [{ email: "Out@quay.example" }, { email: "b@quay.example" }] }),
    );
    await visitor.open("/l/TOKEN/address", { address: "out@quay.example" });
    await visitor.open("/l/TOKEN/code", { address: "out@quay.example", code: sent.at(-1)!.code });
    expect((await visitor.open("/l/TOKEN")).status).toBe(200);
    const drop = { action: "drop-recipient", shareId: "l", address: "out@QUAY.example" } as const;
    expect(apply(db, "key-00001", drop).status).toBe(200);
    expect(db.get<LinkRecord>("link", "l")!.recipients).toEqual([{ email: "b@quay.example" }]);
    expect(apply(db, "key-00002", drop).status).toBe(404);
    expect((await visitor.open("/l/TOKEN")).status).toBe(401);
    sent.length = 0;
    await visitor.open("/l/TOKEN/address", { address: "out@quay.example" });
    expect(sent).toEqual([]);
  });

  test("somebody leaves a group, which is told on, and only once", () => {
    const { db } = storeWith(...records);
    const leave = { action: "leave-group", groupId: "crew", address: "out@quay.example" } as const;
    const member = { type: "member", groupId: "crew", memberId: "out" };
    expect(apply(db, "key-00001", leave).body.entries).toMatchObject([{ gone: true, record: member }]);
    expect(db.after(0, 99).at(-1)).toMatchObject({ gone: true, record: member });
    expect(apply(db, "key-00002", leave).status).toBe(404);
    expect(apply(db, "key-00003", { ...leave, groupId: "nothing" }).status).toBe(404);
  });

  test("an item stops inheriting, once", () => {
    const { db } = storeWith(...records);
    expect(apply(db, "key-00001", { action: "stop-inheriting", itemId: "f" }).body.entries).toMatchObject([
      { record: { id: "f", inherits: false } },
    ]);
    expect(apply(db, "key-00002", { action: "stop-inheriting", itemId: "f" }).status).toBe(409);
    expect(apply(db, "key-00003", { action: "stop-inheriting", itemId: "nothing" }).status).toBe(404);
  });

  test("a right opens an item to those who show who they are, until it is cut on any of its ways", async () => {
    const { db } = storeWith(...records, grant("g", "a", "crew"));
    const pages = insidePages({ db, store: STORES.dock, cookieKey: "k".repeat(32) });
    const visitor = new Visitor((path, init) => pages.request(path, init));
    sent.length = 0;
    expect((await visitor.open("/i/f")).status).toBe(401);
    await visitor.open("/i/f/address", { address: "stranger@post.example" });
    await visitor.open("/i/f/address", { address: "OUT@quay.example" });
    expect(sent).toHaveLength(1);
    expect((await visitor.open("/i/f/code", { address: "out@quay.example", code: "000000" })).status).toBe(401);
    await visitor.open("/i/f/code", { address: "out@quay.example", code: sent[0].code });
    expect((await visitor.open("/i/f")).text).toContain("Plan.pdf");
    expect(apply(db, "key-00001", { action: "leave-group", groupId: "crew", address: "out@quay.example" }).status).toBe(
      200,
    );
    // They are still in a group within it.
    expect((await visitor.open("/i/f")).status).toBe(200);
    apply(db, "key-00002", { action: "stop-inheriting", itemId: "f" });
    expect((await visitor.open("/i/f")).status).toBe(410);
    expect((await visitor.open("/i/a")).status).toBe(200);
    apply(db, "key-00003", { action: "revoke", shareId: "g" });
    expect((await visitor.open("/i/a")).status).toBe(410);
  });
});

describe("codes", () => {
  /** RFC 6238, appendix B: time, and the eight digits for each hash. */
  const VECTORS: [number, string, string, string][] = [
    [59, "94287082", "46119246", "90693936"],
    [1111111109, "07081804", "68084774", "25091201"],
    [1111111111, "14050471", "67062674", "99943326"],
    [1234567890, "89005924", "91819424", "93441116"],
    [2000000000, "69279037", "90698825", "38618901"],
    [20000000000, "65353130", "77737706", "47863826"],
  ];
  const seed = (bytes: number) => OTPAuth.Secret.fromUTF8("1234567890".repeat(7).slice(0, bytes));
  test.each(VECTORS)("RFC 6238 at %s", (time, sha1, sha256, sha512) => {
    const at = (algorithm: string, bytes: number) =>
      new OTPAuth.TOTP({ secret: seed(bytes), digits: 8, period: 30, algorithm }).generate({ timestamp: time * 1000 });
    expect([at("SHA1", 20), at("SHA256", 32), at("SHA512", 64)]).toEqual([sha1, sha256, sha512]);
  });

  /** RFC 4226, appendix D. */
  test.each(
    ["755224", "287082", "359152", "969429", "338314", "254676", "287922", "162583", "399871", "520489"].map(
      (code, i) => [i, code] as const,
    ),
  )("RFC 4226 at count %s is %s", (counter, code) =>
    expect(new OTPAuth.HOTP({ secret: seed(20) }).generate({ counter })).toBe(code),
  );

  test("ours are those digits: HMAC by node:crypto, cut as RFC 4226 section 5.3 says", () => {
    const secret = new OTPAuth.Secret({ size: 32 });
    const counter = Buffer.alloc(8);
    counter.writeBigUInt64BE(BigInt(Math.floor(Date.parse("2026-10-05T08:00:00Z") / 600_000)));
    const hmac = createHmac("sha256", Buffer.from(secret.bytes)).update(counter).digest();
    const offset = hmac[hmac.length - 1] & 0xf;
    const code = String((hmac.readUInt32BE(offset) & 0x7fffffff) % 1_000_000).padStart(6, "0");
    expect(codeFor(secret.base32)).toBe(code);
    expect([isCode(secret.base32, ` ${code} `), isCode(secret.base32, "12345")]).toEqual([true, false]);
  });
});
