import type { App } from "@/server/app";
import { appIn } from "@/tests/app";
import { createSocket } from "node:dgram";
import { mkdirSync, readFileSync, symlinkSync, writeFileSync } from "node:fs";
import { createServer, type Server } from "node:http";
import { type AddressInfo, createServer as listenTo } from "node:net";
import { join } from "node:path";
import { simpleParser } from "mailparser";
import parseSyslog from "nsyslog-parser";
import { SMTPServer } from "smtp-server";
import { Webhook } from "standardwebhooks";
import { NOW, T } from "@/tests/records";
import type { Db } from "../platform/db/open";
import { channels, channelsBody, UNCHANGED } from "@/contract/estate";
import { channelsOf, setChannels, shown } from "./channels";
import { mailBodies } from "./message";
import { releaseHeld, sendDue, sendNow } from "./outbox";
import { mailBy, SENDING, serverOf } from "./sending";
import { signed, subjectOf } from "../platform/signed";
import { syslogLine } from "./syslog";

const SECRET = `whsec_${Buffer.alloc(24, 7).toString("base64")}`;
const ODD = 'Zoë “downloaded” <Rider>]\n"x" \\ & more';
const told = { id: 7, watch: "Downloads", severity: "urgent" as const, words: ODD, at: T, count: 3 };
let app: App;
let db: Db;
let web: Server;
/** What the webhook answers, and what came to it. */
let status: number;
let posted: { headers: Record<string, string>; body: string }[];
const urlOf = (server: Server) => `http://127.0.0.1:${(server.address() as AddressInfo).port}`;

beforeEach(async () => {
  app = await appIn();
  ({ db } = app);
  [status, posted] = [200, []];
  web = createServer(async (request, response) => {
    const pieces: Buffer[] = [];
    for await (const piece of request) pieces.push(piece as Buffer);
    posted.push({ headers: request.headers as Record<string, string>, body: Buffer.concat(pieces).toString() });
    response.writeHead(status).end();
  });
  await new Promise<void>((resolve) => web.listen(0, "127.0.0.1", resolve));
});
afterEach(async () => {
  web.closeAllConnections();
  web.close();
  await app.close();
});

test("a line for the log is read back by another package: RFC 5424, and no name can forge a second line", () => {
  const data = { alert: "7", watch: "Downloads" };
  const line = syslogLine({
    at: NOW,
    host: "latch host",
    process: 42,
    severity: "high",
    id: "alert",
    data,
    words: ODD,
  });
  expect(line.split("\n")).toHaveLength(1);
  const parsed = parseSyslog(line);
  expect(parsed).toMatchObject({
    type: "RFC5424",
    prival: 13 * 8 + 4,
    host: "latchhost",
    appName: "tight-latch",
    pid: "42",
    messageid: "alert",
  });
  expect(new Date(parsed.ts).toISOString()).toBe("2026-10-05T08:00:00.000Z");
  expect(parsed.structuredData[0]).toMatchObject({ $id: "latch@32473", alert: "7" });
  expect(parsed.message).toContain("Zoë “downloaded” <Rider>]");
  // That package doesn't read escapes; RFC 5424, section 6.3.5, example 3 has them in this way.
  const odd = syslogLine({ ...told, at: NOW, host: "h", process: 1, id: "alert", data: { watch: 'a "b" \\ c]' } });
  expect(odd).toContain('[latch@32473 watch="a \\"b\\" \\\\ c\\]"]');
});

test("a log is appended to, or sent to this machine by UDP", async () => {
  const message = { alerts: [told, { ...told, id: 8 }], isDigest: true };
  await SENDING.syslog(app, { mail: null, webhook: null, syslog: { to: "file", name: "alerts.log" } }, "", message);
  const lines = readFileSync(join(app.settings.logs, "alerts.log"), "utf8").trimEnd().split("\n");
  expect(lines.map((line) => parseSyslog(line).structuredData[0].alert)).toEqual(["7", "8"]);
  const socket = createSocket("udp4");
  await new Promise<void>((resolve) => socket.bind(0, "127.0.0.1", resolve));
  const came = new Promise<string>((resolve) => socket.once("message", (bytes) => resolve(bytes.toString())));
  const udp = { to: "udp" as const, port: socket.address().port };
  await SENDING.syslog(app, { mail: null, webhook: null, syslog: udp }, "", { ...message, alerts: [told] });
  expect(parseSyslog(await came).messageid).toBe("alert");
  socket.close();
});

test("a log stays in its folder: no name leads out of it, and no link is followed", async () => {
  for (const name of ["../key", "/etc/passwd", "..", ".hidden", "a/b", "a\u0000b", ""])
    expect(channels.shape.syslog.safeParse({ to: "file", name }).success).toBe(false);
  const key = join(app.settings.data, "a-key");
  writeFileSync(key, "secret");
  mkdirSync(app.settings.logs);
  symlinkSync(key, join(app.settings.logs, "led.log"));
  const syslog = { to: "file" as const, name: "led.log" };
  const sent = SENDING.syslog(app, { mail: null, webhook: null, syslog }, "", { alerts: [told], isDigest: false });
  await expect(sent).rejects.toMatchObject({ code: "ELOOP" });
  expect(readFileSync(key, "utf8")).toBe("secret");
});

test("a saved password goes to the server that it was given for, and to no other", async () => {
  const mail = {
    host: "mail.home.example",
    port: 587,
    secure: false,
    user: "latch",
    password: "p",
    from: "l@home.example",
  };
  await setChannels(app, { mail }, "tests");
  const kept = { ...mail, password: UNCHANGED };
  await setChannels(app, { mail: { ...kept, from: "desk@home.example" } }, "tests");
  expect((await channelsOf(app)).mail).toEqual({ ...mail, from: "desk@home.example" });
  for (const change of [{ host: "mail.quay.example" }, { port: 25 }, { user: "another" }, { secure: true }])
    await expect(setChannels(app, { mail: { ...kept, ...change } }, "tests")).rejects.toThrow(
      "The server, port, user or TLS setting has changed: enter the password again.",
    );
  expect((await channelsOf(app)).mail).toEqual({ ...mail, from: "desk@home.example" });
});

test("what a mail server says is not told, and a password goes to it over TLS alone", async () => {
  const said: string[] = [];
  const server = listenTo((socket) => {
    socket.write("220 hello\r\n");
    socket.on("data", (bytes) => {
      said.push(bytes.toString());
      socket.write(said.length === 1 ? "250 hello\r\n" : "535 your password is p4ss\r\n");
    });
    socket.on("error", () => {});
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const { port } = server.address() as AddressInfo;
  const mail = { host: "127.0.0.1", port, secure: false, user: "u", password: "p4ss", from: "l@home.example" };
  const content = { to: "desk@home.example", subject: "s", text: "t" };
  await expect(mailBy(mail, content)).rejects.toThrow(/^The mail server [a-z ]*\.$/);
  const isTlsNeeded = (host: string) => serverOf({ ...mail, host }).requireTLS;
  expect(["localhost", "127.0.0.9", "::1"].map(isTlsNeeded)).toEqual([false, false, false]);
  expect(["mail.home.example", "10.0.0.5", "localhost.quay.example", "0.0.0.0"].map(isTlsNeeded)).not.toContain(false);
  server.close();
  await expect(mailBy({ ...mail, port: 1 }, content)).rejects.toThrow("The mail server can't be reached.");
});

test.each(["a@evil.example(.home.example", "a@evil.example,b@home.example", "Ada <a@evil.example>"])(
  "no mail goes to %s",
  async (to) => {
    const mail = { host: "127.0.0.1", port: 1, secure: false, user: "", password: "", from: "l@home.example" };
    await expect(mailBy(mail, { to, subject: "s", text: "t" })).rejects.toThrow("Mail can’t be sent to that address.");
  },
);

test("a webhook's signature is verified by the scheme's own library, and a changed body is refused", async () => {
  // The library looks at the clock itself; it must be the one that signed.
  jest.useFakeTimers({ now: T * 1000, doNotFake: ["nextTick", "setImmediate", "setTimeout", "queueMicrotask"] });
  const channels = { mail: null, webhook: { url: urlOf(web), secret: SECRET }, syslog: null };
  await SENDING.webhook(app, channels, "", { alerts: [told], isDigest: false });
  const [{ headers, body }] = posted;
  const verified = new Webhook(SECRET).verify(body, headers) as { type: string; data: { alerts: object[] } };
  expect([verified.type, verified.data.alerts]).toEqual(["alert.raised", [{ ...told, at: NOW }]]);
  expect(() => new Webhook(SECRET).verify(body.replace("7", "8"), headers)).toThrow();
  expect(() => new Webhook(`whsec_${Buffer.alloc(24, 8).toString("base64")}`).verify(body, headers)).toThrow();
  jest.useRealTimers();
});

test("a mail says the same as plain text and as HTML; what it offers is signed for one purpose", async () => {
  const mails: Awaited<ReturnType<typeof simpleParser>>[] = [];
  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ["STARTTLS", "AUTH"],
    onData: (stream, _, done) => void simpleParser(stream).then((mail) => (mails.push(mail), done())),
  });
  const server = await new Promise<Server>((resolve) => {
    const it = smtp.listen(0, "127.0.0.1", () => resolve(it as unknown as Server));
  });
  const { port } = server.address() as AddressInfo;
  const mail = { host: "127.0.0.1", port, secure: false, user: "", password: "", from: "latch@home.example" };
  await SENDING.mail(app, { mail, webhook: null, syslog: null }, "desk@home.example", {
    alerts: [told],
    isDigest: false,
  });
  await new Promise<void>((resolve) => smtp.close(resolve));
  const [{ text, html, subject, to }] = mails;
  expect([subject?.startsWith("Urgent: Zoë “downloaded” <Rider>]"), JSON.stringify(to)]).toEqual([
    true,
    expect.stringContaining("desk@home.example"),
  ]);
  expect(html).toContain("&lt;Rider&gt;");
  const wordsOf = (of: string) => of.replace(/https?:\S+/g, "").match(/[\p{L}\d]+/gu);
  const plain = (html as string)
    .replace(/<a href="([^"]*)">([^<]*)<\/a>/g, "$2")
    .replace(/<[^>]*>/g, " ")
    .replace(/&(lt|gt|quot|amp);/g, " ");
  expect(wordsOf(plain)).toEqual(wordsOf(text!));
  const token = text!.match(/\/seen#(\S+)/)![1];
  expect(subjectOf(app, "see-alert", token)).toBe("7");
  expect(
    subjectOf(
      app,
      "see-alert",
      token.replace(/.$/, (last) => (last === "A" ? "B" : "A")),
    ),
  ).toBeNull();
  expect(subjectOf(app, "see-alert", "nonsense")).toBeNull();
  expect(subjectOf(app, "see-alert", signed(app, "see-alert", "7", T))).toBeNull();
  expect(subjectOf(app, "see-alert", signed(app, "another" as "see-alert", "7", T + 9))).toBeNull();
});

test("a digest tells of all that had to wait", () => {
  const alerts = [told, { ...told, id: 8, words: "Second" }];
  const { text } = mailBodies({ alerts, isDigest: true }, ({ id }) => ({ open: `o${id}`, seen: `s${id}` }));
  expect(text).toContain("2 alerts that had to wait, from the watch “Downloads”.");
  expect(text.match(/Open it: o\d/g)).toEqual(["Open it: o7", "Open it: o8"]);
});

test("secrets are sealed, are not shown, and stay where nothing else is given", async () => {
  const mail = { host: "h", port: 25, secure: false, user: "u", password: "pass-word", from: "a@home.example" };
  await setChannels(app, { mail, webhook: { url: "https://hooks.home.example/x", secret: SECRET } }, "imre");
  const { body } = await db.selectFrom("setting").select("body").executeTakeFirstOrThrow();
  expect(Buffer.from(body, "base64").toString("latin1")).not.toContain("pass-word");
  expect(JSON.stringify(shown(await channelsOf(app)))).not.toMatch(/pass-word|whsec/);
  await setChannels(app, { mail: { ...mail, password: UNCHANGED, from: "b@home.example" } }, "imre");
  expect((await channelsOf(app)).mail).toEqual({ ...mail, from: "b@home.example" });
  const asShown = { url: "https://other.home.example/x", secret: UNCHANGED };
  expect(channelsBody.safeParse({ webhook: asShown }).success).toBe(true);
  await setChannels(app, { webhook: asShown }, "imre");
  expect((await channelsOf(app)).webhook).toEqual({ ...asShown, secret: SECRET });
  expect(channelsBody.safeParse({ webhook: { url: "https://x.example", secret: "short" } }).success).toBe(false);
  await expect(setChannels(app, { webhook: { url: "ftp://x", secret: SECRET } }, "imre")).rejects.toThrow();
});

describe("the outbox", () => {
  const held = (state: "waiting" | "held", due: number) =>
    db
      .insertInto("notice")
      .values({
        watch_id: "w",
        alert_id: 1,
        channel: "webhook",
        target: "",
        state,
        made_at: due,
        due_at: due,
        next_at: due,
        sent_at: null,
        error: null,
      })
      .execute();
  const notices = () => db.selectFrom("notice").select(["state", "tries", "next_at", "error"]).orderBy("id").execute();

  beforeEach(async () => {
    const nothing = { share_id: null, item_id: null, person: null, assigned_to: null, settled_by: null };
    const rest = { first_seq: null, last_seq: null, settled_at: null, note: null, raised_at: NOW, count: 1 };
    const alert = { watch_id: "w", key: "k", severity: "high" as const, state: "new" as const, words: "Words" };
    await db
      .insertInto("alert")
      .values({ ...nothing, ...rest, ...alert, first_at: T, last_at: T })
      .execute();
    await setChannels(app, { webhook: { url: urlOf(web), secret: SECRET } }, "imre");
  });

  test("sends what is due, each once, and what was held as one", async () => {
    for (const state of ["waiting", "held", "held"] as const) await held(state, T);
    await held("held", T + 60);
    await sendDue(app);
    await sendDue(app);
    expect(posted.map(({ body }) => JSON.parse(body).data.digest)).toEqual([false, true]);
    expect((await notices()).map(({ state }) => state)).toEqual(["sent", "sent", "sent", "held"]);
    expect(await releaseHeld(db, "w")).toBe(1);
    await sendDue(app);
    expect(posted).toHaveLength(3);
  });

  test("however many were held, they are one digest", async () => {
    for (let i = 0; i < 120; i++) await held("held", T);
    await sendDue(app);
    expect(posted).toHaveLength(1);
    expect((await notices()).every(({ state }) => state === "sent")).toBe(true);
  });

  test("what becomes due while messages go out goes out next, once, for all who asked meanwhile", async () => {
    await held("waiting", T);
    const first = sendNow(app);
    // By the first post, what was due has been looked up.
    while (posted.length === 0) await new Promise((resolve) => setTimeout(resolve, 5));
    await held("waiting", T);
    await Promise.all([sendNow(app), sendNow(app), first]);
    expect((await notices()).map(({ state }) => state)).toEqual(["sent", "sent"]);
    expect(posted).toHaveLength(2);
  });

  test("tries again later and later where the other side fails, and sets aside after a day", async () => {
    status = 500;
    await held("waiting", T);
    await sendDue(app);
    await sendDue(app);
    expect(await notices()).toEqual([
      {
        state: "waiting",
        tries: 1,
        next_at: T + 10,
        error: expect.stringMatching(/^The webhook answered 500 to msg_/),
      },
    ]);
    await db.updateTable("notice").set({ next_at: T, tries: 4 }).execute();
    await sendDue(app);
    expect((await notices())[0].next_at).toBe(T + 160);
    await db
      .updateTable("notice")
      .set({ next_at: T, due_at: T - 86_400 })
      .execute();
    await sendDue(app);
    expect((await notices())[0]).toMatchObject({ state: "aside", tries: 6 });
    await sendDue(app);
    expect(posted).toHaveLength(3);
  });

  test("a webhook that never answers is given up, and tried again later", async () => {
    const timeout = AbortSignal.timeout.bind(AbortSignal);
    const patience = jest.spyOn(AbortSignal, "timeout").mockImplementation(() => timeout(40));
    const silent = createServer(() => {});
    await new Promise<void>((resolve) => silent.listen(0, "127.0.0.1", resolve));
    await setChannels(app, { webhook: { url: urlOf(silent), secret: SECRET } }, "imre");
    await held("waiting", T);
    await sendDue(app);
    expect(patience).toHaveBeenCalledWith(10_000);
    expect((await notices())[0]).toMatchObject({
      state: "waiting",
      tries: 1,
      next_at: T + 10,
      error: expect.stringContaining("timeout"),
    });
    patience.mockRestore();
    silent.closeAllConnections();
    silent.close();
  });

  test("what belongs to a channel that is not set waits, and says what is missing", async () => {
    await setChannels(app, { webhook: null }, "imre");
    await held("waiting", T);
    await sendDue(app);
    expect((await notices())[0]).toMatchObject({ state: "waiting", error: "No webhook is set." });
  });

  test("a mail server that is down is the same", async () => {
    await setChannels(
      app,
      {
        mail: { host: "127.0.0.1", port: 1, secure: false, user: "", password: "", from: "a@home.example" },
      },
      "imre",
    );
    await held("waiting", T);
    await db.updateTable("notice").set({ channel: "mail", target: "b@home.example" }).execute();
    await sendDue(app);
    expect((await notices())[0]).toMatchObject({
      state: "waiting",
      tries: 1,
      error: "The mail server can't be reached.",
    });
  });
});
