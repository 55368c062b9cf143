import * as OTPAuth from "otpauth";
import { SIGN_IN } from "@/contract/signIn";
import type { SignInRole } from "@/contract/roles";
import { standardSetting } from "@/core/rules/setting";
import type { App } from "@/server/app";
import type { Actor } from "@/server/platform/serving";
import { setRule } from "@/server/rules/settings";
import { addPerson } from "@/server/people/people";
import { unlockSignIn } from "@/server/people/unlock";
import { signed } from "@/server/platform/signed";
import { writing } from "@/server/platform/db/open";
import { setPolicy } from "@/server/people/policy";
import { entriesBefore } from "@/server/records/ledger/ledger";
import { actorOf } from "./actor";
import { appIn } from "./app";
import { T } from "./records";
import { statuses, Visitor } from "./visitor";

jest.setTimeout(120_000);

const [ADA, BEA, PASSWORD] = ["ada@home.example", "bea@home.example", "four unlike words here"];
const TRIES = 50;
let app: App;

beforeEach(async () => {
  app = await appIn();
  await addPerson(app, { name: "Ada Umberlow", email: ADA, password: PASSWORD }, "administrator", "tests");
});
afterEach(() => app.close());

const add = (email: string, role: SignInRole) =>
  addPerson(app, { name: "Bea Quillby", email, password: PASSWORD }, role, "tests");
const times = <T>(count: number, one: (n: number) => T) => Array.from({ length: count }, (_, n) => one(n));
const kinds = async () => (await entriesBefore(app.db, 10_000, 200)).map(({ kind }) => kind).reverse();
const idOf = async (email: string) =>
  (await app.db.selectFrom("user").select("id").where("email", "=", email).executeTakeFirstOrThrow()).id;
async function signedIn(email = ADA, password = PASSWORD): Promise<Visitor> {
  const visitor = new Visitor(app);
  expect((await visitor.signIn(email, password)).status).toBe(200);
  return visitor;
}

describe("guessing", () => {
  test(`of ${TRIES} wrong passwords at once ten are looked at, and the right one is no longer after them`, async () => {
    const answers = await Promise.all(times(TRIES, (n) => new Visitor(app).signIn(ADA, `a wrong password ${n}`)));
    expect(statuses(answers)).toEqual({ 401: 10, 429: TRIES - 10 });
    const refused = await new Visitor(app).signIn(ADA, PASSWORD);
    expect([refused.status, refused.body.message]).toEqual([429, "Too many attempts. Try again in 15 minutes."]);
    expect(Number(refused.headers.get("retry-after"))).toBeGreaterThan(800);
    expect((await kinds()).filter((kind) => kind === "sign-in-refused")).toHaveLength(10);
  });

  test("a browser that somebody has signed in by is let in though others have shut their account; a command opens it", async () => {
    const theirs = await signedIn();
    const others = await Promise.all(times(20, () => new Visitor(app).signIn(ADA, "another wrong password")));
    expect(statuses(others)).toEqual({ 401: 10, 429: 10 });
    expect((await theirs.signIn(ADA, PASSWORD)).status).toBe(200);
    // What it remembers is good for nobody else's account, and for no more wrong tries than others have.
    await add(BEA, "auditor");
    await Promise.all(times(10, () => new Visitor(app).signIn(BEA, "another wrong password")));
    expect((await theirs.twin().signIn(BEA, PASSWORD)).status).toBe(429);
    expect(statuses(await Promise.all(times(20, () => theirs.twin().signIn(ADA, "wrong again, and long"))))).toEqual({
      401: 10,
      429: 10,
    });
    await unlockSignIn(app, { id: await idOf(ADA), email: ADA }, "command line");
    expect((await new Visitor(app).signIn(ADA, PASSWORD)).status).toBe(200);
  });

  test("right passwords are not counted, however many", async () => {
    for (let n = 0; n < 12; n++) await signedIn();
  });

  test("no X-Forwarded-For gets round the limit of a network", async () => {
    const answers = await Promise.all(
      times(80, (n) =>
        new Visitor(app, { "X-Forwarded-For": `198.51.100.${n}` }).signIn(
          `nobody${n}@home.example`,
          "a wrong password",
        ),
      ),
    );
    expect(statuses(answers)).toEqual({ 401: 60, 429: 20 });
  });

  test("wrong addresses from letters shut out nobody who has a right one", async () => {
    const wrong = await Promise.all(times(100, (n) => new Visitor(app).post("/api/answers", { token: `a.b${n}.c` })));
    expect(statuses(wrong)).toEqual({ 410: 60, 429: 40 });
    const token = signed(app, "answer", "7", T + 99);
    expect((await new Visitor(app).post("/api/answers", { token })).status).not.toBe(429);
  });
});

test(`the right code three times at once, in ${TRIES} first runs, makes one administrator each`, async () => {
  for (let n = 0; n < TRIES; n++) {
    const fresh = await appIn();
    const give = (code: string, m: number) =>
      new Visitor(fresh).post("/api/first-run", { code, name: "Ada", email: `a${m}@home.example`, password: PASSWORD });
    const answers = await Promise.all(times(3, (m) => give(fresh.firstRun.code, m)));
    expect(statuses(answers)).toEqual({ 200: 1, 403: 2 });
    expect(await fresh.db.selectFrom("user").select("role").execute()).toEqual([{ role: "administrator" }]);
    await fresh.close();
  }
});

test("wrong codes at the first run shut out nobody who has the right one", async () => {
  const fresh = await appIn();
  const give = (code: string) =>
    new Visitor(fresh).post("/api/first-run", { code, name: "Ada", email: ADA, password: PASSWORD });
  expect(statuses(await Promise.all(times(70, (n) => give(`${n}`))))).toEqual({ 403: 60, 429: 10 });
  expect((await give(` ${fresh.firstRun.code} `)).status).toBe(200);
  await fresh.close();
});

describe("the sign-in package", () => {
  test("is reached at the addresses that pages use, and at no other", async () => {
    const { api } = await app.auth();
    const known = new Set<string>(Object.values(SIGN_IN).map(({ method, path }) => `${method} ${path}`));
    const visitor = await signedIn();
    const shut: string[] = [];
    for (const { path, options } of Object.values(api) as { path?: string; options?: { method?: string | string[] } }[])
      for (const method of [options?.method ?? "GET"].flat()) {
        if (path === undefined || known.has(`${method} ${path}`)) continue;
        const at = path.replace(/:\w+/, "x");
        const { status } = await visitor.ask(method, `/api/auth${at}`, method === "GET" ? undefined : {});
        if (`GET ${at}` === "GET /callback/x" || `POST ${at}` === "POST /callback/x") continue;
        expect([method, path, status]).toEqual([method, path, 404]);
        shut.push(path);
      }
    expect(shut.length).toBeGreaterThan(25);
    expect(shut).toEqual(
      expect.arrayContaining(["/update-user", "/list-sessions", "/revoke-sessions", "/get-session"]),
    );
  });

  test("is sent nothing large, nothing deep, nothing but JSON, and nothing from elsewhere", async () => {
    const at = "/api/auth/sign-in/email";
    const visitor = new Visitor(app);
    const answers = [
      await visitor.post(at, { email: ADA, password: "x".repeat(100_000) }),
      await visitor.ask("POST", at, `${"[".repeat(10_000)}`),
      await visitor.ask("POST", at, "email=x", { "Content-Type": "text/plain" }),
      await visitor.ask("POST", at, "{}", { Origin: "http://elsewhere.example" }),
      await visitor.ask("POST", at, '{"email":"\\ud800@home.example","password":"x"}'),
    ];
    expect(answers.map(({ status }) => status)).toEqual([413, 413, 415, 403, 400]);
  });
});

describe("sessions", () => {
  const session = () => app.db.selectFrom("session").select(["id", "usedAt", "expiresAt"]).execute();

  test("end after an hour unused, and after twelve however much they are used", async () => {
    const visitor = await signedIn();
    const [{ id, expiresAt }] = await session();
    const hours = (Date.parse(expiresAt) - Date.now()) / 3_600_000;
    expect(hours).toBeGreaterThan(11.9);
    expect(hours).toBeLessThanOrEqual(12);
    const usedBefore = (seconds: number) =>
      app.db
        .updateTable("session")
        .set({ usedAt: Math.floor(Date.now() / 1_000) - seconds })
        .where("id", "=", id)
        .execute();
    const status = async (idle?: number) =>
      (await visitor.ask("GET", "/api/self", undefined, idle === undefined ? {} : { "X-Idle": `${idle}` })).status;
    await usedBefore(3_500);
    // A page that nobody has touched for five minutes asks by itself.
    expect(await status(300)).not.toBe(401);
    expect((await session())[0].usedAt).toBeLessThan(Date.now() / 1_000 - 3_000);
    expect(await status()).not.toBe(401);
    expect((await session())[0].usedAt).toBeGreaterThan(Date.now() / 1_000 - 10);
    await usedBefore(3_700);
    expect(await status()).toBe(401);
    expect(await session()).toEqual([]);
  });

  test("whoever signs in again where they are signed in has one session, not two", async () => {
    const visitor = await signedIn();
    await visitor.signIn(ADA, PASSWORD);
    expect(await session()).toHaveLength(1);
  });

  test("are seen and ended by whom they are; a role that is lost is lost at once, and so is an account", async () => {
    await add(BEA, "administrator");
    const [ada, here, elsewhere] = [await signedIn(), await signedIn(BEA), await signedIn(BEA)];
    const seen = (await here.ask("GET", "/api/self")).body;
    expect(seen.sessions.map(({ isThis, by }: { isThis: boolean; by: string }) => [isThis, by])).toEqual(
      expect.arrayContaining([
        [true, "password"],
        [false, "password"],
      ]),
    );
    expect((await here.ask("DELETE", "/api/self/sessions", { id: null })).body).toEqual({ ended: 1 });
    expect((await elsewhere.ask("GET", "/api/self")).status).toBe(401);
    // Nobody ends another's by its id.
    const [{ id }] = (await ada.ask("GET", "/api/self")).body.sessions;
    expect((await here.ask("DELETE", "/api/self/sessions", { id })).body).toEqual({ ended: 0 });

    const bea = await idOf(BEA);
    expect((await here.ask("GET", "/api/accounts")).status).toBe(200);
    expect((await ada.ask("PUT", `/api/accounts/${bea}/role`, { role: "owner" })).status).toBe(200);
    expect((await here.ask("GET", "/api/accounts")).status).toBe(403);
    expect((await here.ask("GET", "/api/self")).status).toBe(200);
    expect((await ada.ask("DELETE", `/api/accounts/${bea}`)).status).toBe(200);
    expect((await here.ask("GET", "/api/self")).status).toBe(401);
    expect((await kinds()).slice(-2)).toEqual(["role-changed", "person-removed"]);
  });
});

test("the last administrator stays one, and nobody shuts themselves out", async () => {
  await add(BEA, "administrator");
  const [ada, bea] = [await idOf(ADA), await idOf(BEA)];
  const visitor = await signedIn();
  const own = await visitor.ask("DELETE", `/api/accounts/${ada}`);
  expect([own.status, own.body.error]).toEqual([409, expect.stringContaining("your own account")]);
  // Two who demote each other at the same moment: one of them stays, however often that is tried.
  const other = await signedIn(BEA);
  for (let n = 0; n < TRIES; n++) {
    const demote = (who: Visitor, id: string) => who.ask("PUT", `/api/accounts/${id}/role`, { role: "auditor" });
    await Promise.all([demote(visitor, bea), demote(other, ada)]);
    const left = await app.db.selectFrom("user").select("id").where("role", "=", "administrator").execute();
    expect(left).toHaveLength(1);
    await app.db.updateTable("user").set({ role: "administrator" }).execute();
  }
});

describe("whoever comes upon somebody's session", () => {
  const setBack = (seconds: number) =>
    app.db
      .updateTable("session")
      .set({ createdAt: new Date(Date.now() - seconds * 1_000).toISOString() })
      .execute();

  test("can't try out the password by it", async () => {
    const visitor = await signedIn();
    const answers = await Promise.all(
      times(TRIES, (n) =>
        visitor.post("/api/auth/change-password", {
          ...{ currentPassword: `a wrong password ${n}`, newPassword: "four unlike words more" },
        }),
      ),
    );
    expect(statuses(answers)).toEqual({ 400: 10, 429: TRIES - 10 });
    expect((await visitor.post("/api/auth/two-factor/enable", { password: PASSWORD })).status).toBe(429);
  });

  test("removes no passkey by it a while after, nor when it has ended for not being used", async () => {
    const visitor = await signedIn();
    const drop = () => visitor.post("/api/auth/passkey/delete-passkey", { id: "x" });
    expect((await drop()).status).toBe(404);
    await setBack(16 * 60);
    const refused = await drop();
    expect([refused.status, refused.body.kind]).toEqual([403, "sign-in-again"]);
    await app.db.updateTable("session").set({ usedAt: 1 }).execute();
    expect((await drop()).status).toBe(401);
  });
});

describe("an invitation", () => {
  test(`lets somebody choose a password once, in ${TRIES} tries at once too, and holds no longer after a reset`, async () => {
    const ada = await signedIn();
    const invited = await ada.post("/api/accounts", { name: "Cato Venn", email: "Cato@Home.example", role: "auditor" });
    expect(invited.body).toMatchObject({ isMailed: false, mailProblem: null });
    const token = invited.body.address.split("#")[1];
    expect((await new Visitor(app).post("/api/welcome", { token })).body).toEqual({
      name: "Cato Venn",
      email: "cato@home.example",
    });
    const choose = (password: string) => new Visitor(app).ask("PUT", "/api/welcome", { token, password });
    expect((await choose("password password")).body.error).toContain(
      "That is too close to your name, your address or the name of this tool. Choose another password.",
    );
    const answers = await Promise.all(times(TRIES, (n) => choose(`four unlike words ${n} here`)));
    expect(statuses(answers)).toEqual({ 200: 1, 410: TRIES - 1 });
    const n = answers.findIndex(({ status }) => status === 200);
    const cato = await signedIn("cato@home.example", `four unlike words ${n} here`);

    const reset = await ada.post(`/api/accounts/${await idOf("cato@home.example")}/password`);
    expect((await cato.ask("GET", "/api/self")).status).toBe(401);
    expect((await new Visitor(app).signIn("cato@home.example", `four unlike words ${n} here`)).status).toBe(401);
    expect((await choose("four unlike words again")).status).toBe(410);
    const next = { token: reset.body.address.split("#")[1], password: "quite other words, four" };
    expect((await new Visitor(app).ask("PUT", "/api/welcome", next)).status).toBe(200);
    await signedIn("cato@home.example", next.password);
    expect(await kinds()).toEqual(
      expect.arrayContaining(["person-invited", "password-chosen", "password-reset", "signed-in"]),
    );
  });

  test("goes to one address once", async () => {
    const ada = await signedIn();
    const again = await ada.post("/api/accounts", { name: "Ada", email: ADA, role: "owner" });
    expect([again.status, again.body.error]).toEqual([409, "ada@home.example has an account already."]);
  });
});

describe("a second factor", () => {
  /** Adds codes to an account. @returns what makes them, and those for when that is lost */
  async function withCodes(visitor: Visitor) {
    const begun = await visitor.post("/api/auth/two-factor/enable", { password: PASSWORD });
    const totp = OTPAuth.URI.parse(begun.body.totpURI) as OTPAuth.TOTP;
    expect((await visitor.post("/api/auth/two-factor/verify-totp", { code: totp.generate() })).status).toBe(200);
    return { totp, recovery: begun.body.backupCodes as string[] };
  }
  /** A code that has not been given yet, as after half a minute. */
  const next = (totp: OTPAuth.TOTP, steps: number) => totp.generate({ timestamp: Date.now() + steps * 30_000 });

  test("is asked for after the password, and until then nobody is signed in or said to be", async () => {
    const { totp } = await withCodes(await signedIn());
    const before = await kinds();
    expect(before).toContain("codes-added");
    const visitor = new Visitor(app);
    const asked = await visitor.signIn(ADA, PASSWORD);
    expect(asked.body).toMatchObject({ twoFactorRedirect: true });
    expect((await visitor.ask("GET", "/api/self")).status).toBe(401);
    expect(await kinds()).toEqual(before);
    expect((await visitor.post("/api/auth/two-factor/verify-totp", { code: next(totp, 1) })).status).toBe(200);
    const { body } = await visitor.ask("GET", "/api/self");
    expect([body.hasCodes, body.sessions[0].by]).toEqual([true, "code"]);
    expect((await kinds()).slice(before.length)).toEqual(["signed-in"]);
  });

  test(`a code is taken once: of ${TRIES} who give it at once one is let in`, async () => {
    const { totp } = await withCodes(await signedIn());
    const visitors: Visitor[] = [];
    for (let n = 0; n < 8; n++) {
      const visitor = new Visitor(app);
      await visitor.signIn(ADA, PASSWORD);
      visitors.push(visitor);
    }
    const code = next(totp, 1);
    const answers = await Promise.all(
      times(TRIES, (n) => visitors[n % 8].twin().post("/api/auth/two-factor/verify-totp", { code })),
    );
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
  });

  test("a recovery code works once and never again, at once or later", async () => {
    const { recovery } = await withCodes(await signedIn());
    for (const code of recovery.slice(0, 2)) {
      const visitors: Visitor[] = [];
      for (let n = 0; n < 4; n++) {
        const visitor = new Visitor(app);
        await visitor.signIn(ADA, PASSWORD);
        visitors.push(visitor);
      }
      const answers = await Promise.all(
        visitors.map((one) => one.post("/api/auth/two-factor/verify-backup-code", { code })),
      );
      expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
      const later = new Visitor(app);
      await later.signIn(ADA, PASSWORD);
      expect((await later.post("/api/auth/two-factor/verify-backup-code", { code })).status).toBe(401);
    }
  });

  test("codes can't be tried out: ten wrong ones, from however many who have the password", async () => {
    await withCodes(await signedIn());
    await unlockSignIn(app, { id: await idOf(ADA), email: ADA }, "tests");
    const answers = [];
    for (let n = 0; n < 5; n++) {
      const visitor = new Visitor(app);
      await visitor.signIn(ADA, PASSWORD);
      for (let m = 0; m < 4; m++)
        answers.push(await visitor.post("/api/auth/two-factor/verify-totp", { code: String(100_000 + n * 4 + m) }));
    }
    expect(statuses(answers)).toEqual({ 401: 10, 429: 10 });
  });

  test("where a role needs one, nothing is open without it but one's own account", async () => {
    await writing(app.db, (tx) => setPolicy(tx, { factorFor: ["administrator"], passwordsOff: false }, "tests"));
    const visitor = await signedIn();
    const refused = await visitor.ask("GET", "/api/accounts");
    expect([refused.status, refused.body.kind]).toEqual([403, "factor-missing"]);
    expect((await visitor.ask("GET", "/api/self")).body.needsFactor).toBe(true);
    await withCodes(visitor);
    expect((await visitor.ask("GET", "/api/accounts")).status).toBe(200);
    const ending = await visitor.post("/api/auth/two-factor/disable", { password: PASSWORD });
    expect([ending.status, ending.body.message]).toEqual([400, expect.stringContaining("needs a second factor")]);
  });

  test("lets a password be shorter; without it a short one has to go first", async () => {
    const visitor = await signedIn();
    const change = (currentPassword: string, newPassword: string) =>
      visitor.post("/api/auth/change-password", { currentPassword, newPassword, revokeOtherSessions: true });
    expect((await change(PASSWORD, "seldom93")).body.message).toBe("A password has at least 15 characters.");
    await withCodes(visitor);
    expect((await change(PASSWORD, "12345678")).body.message).toContain("Many people use");
    expect((await change(PASSWORD, "seldom93!x")).status).toBe(200);
    const ending = await visitor.post("/api/auth/two-factor/disable", { password: "seldom93!x" });
    expect(ending.body.message).toContain("needs 15 characters");
    expect((await change("seldom93!x", PASSWORD)).status).toBe(200);
    expect((await visitor.post("/api/auth/two-factor/disable", { password: PASSWORD })).status).toBe(200);
    expect((await kinds()).slice(-3)).toEqual(["password-changed", "password-changed", "codes-removed"]);
  });
});

test("who can sign in is decided by somebody who has signed in lately", async () => {
  const visitor = await signedIn();
  await app.db
    .updateTable("session")
    .set({ createdAt: new Date(Date.now() - 16 * 60_000).toISOString() })
    .execute();
  const invitation = { name: "Bea", email: BEA, role: "auditor" };
  const refused = await visitor.post("/api/accounts", invitation);
  expect([refused.status, refused.body.kind]).toEqual([403, "sign-in-again"]);
  expect((await visitor.ask("GET", "/api/accounts")).status).toBe(200);
  await visitor.signIn(ADA, PASSWORD);
  expect((await visitor.post("/api/accounts", invitation)).status).toBe(200);
});

test("a rule is loosened by somebody who has signed in lately, and tightened by anyone who may", async () => {
  const ada = actorOf(ADA);
  const long = { ...ada, signedInAt: Date.now() / 1_000 - 16 * 60 };
  const standard = standardSetting("open-expiry");
  const set = (more: object, by: Actor) => setRule(app.db, ADA, "open-expiry", { ...standard, ...more }, by);
  await set({ mode: "ask", graceDays: 10 }, long);
  for (const looser of [
    { mode: "observe" },
    { isOn: false },
    { mode: "ask", graceDays: 11 },
    { parameters: { days: 99 } },
  ])
    await expect(set(looser, long)).rejects.toMatchObject({ kind: "sign-in-again" });
  await set({ mode: "enforce", graceDays: 5 }, long);
  await set({ isOn: false }, ada);
});

test("passwords can be switched off by somebody who came by single sign-on, and then let nobody in", async () => {
  const visitor = await signedIn();
  const refused = await visitor.ask("PUT", "/api/accounts", { factorFor: [], passwordsOff: true });
  expect([refused.status, refused.body.error]).toEqual([409, expect.stringContaining("single sign-on yourself first")]);
  await writing(app.db, (tx) => setPolicy(tx, { factorFor: [], passwordsOff: true }, "tests"));
  const signIn = await new Visitor(app).signIn(ADA, PASSWORD);
  expect([signIn.status, signIn.body.message]).toEqual([400, expect.stringContaining("Use single sign-on")]);
});
