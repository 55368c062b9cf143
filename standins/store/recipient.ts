import { Hono, type Context } from "hono";
import { bodyLimit } from "hono/body-limit";
import { getSignedCookie, setSignedCookie } from "hono/cookie";
import { createHash, randomUUID } from "node:crypto";
import { normaliseAddress } from "../../core/estate/address";
import type { EventRecord, ItemRecord, LinkRecord, StoreRecord } from "../../core/estate/records";
import { nowText } from "../parts/clock";
import { sendCode } from "./mail";
import { Attempts } from "./attempts";
import { codeFor, isCode, newSecret } from "./codes";
import type { StoreDatabase } from "./database";
import { listed, opening, type Opening, reachedItem, textOf } from "./opening";
import * as pages from "./pages";
import { isPassword } from "./passwords";
import { TELLS_BYTES } from "./stores";

/** Of what is sent in the head is enough to see what it is. */
const FIRST_BYTES = 4_100;

function bytesToTell(file: File, bytes: Uint8Array) {
  return {
    ...(file.type && { mediaType: file.type }),
    sha256: createHash("sha256").update(bytes).digest("hex"),
    firstBytes: Buffer.from(bytes.subarray(0, FIRST_BYTES)).toString("base64"),
  };
}

/** What one file that is sent in may weigh. */
const MOST_BYTES = 25 * 1024 * 1024;

interface Options {
  db: StoreDatabase;
  store: StoreRecord;
  cookieKey: string;
  homeDomain: string;
}

/** Who somebody has shown to be: an address, or just somebody who knew the password or held the link. */
type Inside = { as: string } | undefined;
type There = Extract<Opening, { state: "there" }>;

/** The pages that people see who come with a link's address. */
export function recipientPages({ db, store, cookieKey, homeDomain }: Options) {
  const app = new Hono();
  const attempts = new Attempts();

  const show = (c: Context, content: ReturnType<typeof pages.askPassword>, status: 200 | 401 | 403 | 410 | 429 = 200) =>
    c.html(pages.page(store, "Shared with you", content), status);

  const note = (verb: string, link: LinkRecord, who: string, detail?: Record<string, unknown>) =>
    db.addEvent({
      type: "event",
      id: randomUUID(),
      at: nowText(),
      actorId: null,
      actorEmail: who.includes("@") ? who : null,
      verb,
      itemId: link.itemId,
      shareId: link.id,
      detail,
    } satisfies EventRecord);

  async function insideOf(c: Context, token: string): Promise<Inside> {
    const as = await getSignedCookie(c, cookieKey, `in_${token}`);
    return as ? { as } : undefined;
  }

  const letIn = (c: Context, token: string, as: string) =>
    setSignedCookie(c, `in_${token}`, as, cookieKey, { httpOnly: true, sameSite: "Strict", path: "/l", maxAge: 3_600 });

  /** Runs a page for a link that is there, or says why it isn't. */
  async function withLink(
    c: Context,
    page: (there: There, inside: Inside, token: string) => Promise<Response> | Response,
  ) {
    const token = c.req.param("token")!;
    const inside = await insideOf(c, token);
    const state = opening(db, store, token, inside !== undefined);
    if (state.state === "gone") return show(c, pages.gone, 410);
    if (state.state === "not-yet") return show(c, pages.notYet(state.opensAt), 403);
    // Whoever has been dropped since they came in is outside again.
    const isStill = inside !== undefined && (state.link.reach === "open" || isFor(state.link, inside.as));
    return page(state, isStill ? inside : undefined, token);
  }

  function countUse(link: LinkRecord, who: string) {
    const lastUsedAt = store.capabilities.lastUse ? nowText() : link.lastUsedAt;
    const recipients = link.recipients.map((one) =>
      normaliseAddress(one.email) === who
        ? { ...one, firstOpenedAt: one.firstOpenedAt ?? nowText(), lastOpenedAt: nowText() }
        : one,
    );
    db.put({ ...link, uses: link.uses + 1, lastUsedAt, recipients });
    note("opened", link, who);
  }

  app.get("/l/:token", (c) =>
    withLink(c, async ({ link, item, mayDownload }, inside, token) => {
      if (!inside) {
        if (link.password) return show(c, pages.askPassword(token), 401);
        if (link.reach !== "open") return show(c, pages.askAddress(`/l/${token}`), 401);
        if (link.role !== "deposit") countUse(link, "anyone");
        await letIn(c, token, "anyone");
      }
      if (link.role === "deposit") return show(c, pages.intake(token, item, link.message));
      const at = reachedItem(db, item, c.req.query("at") || item.id);
      if (!at) return show(c, pages.gone, 410);
      const children = at.kind === "file" ? [] : listed(db, at);
      return show(
        c,
        pages.shown({ token, item: at, isTop: at.id === item.id, children, mayDownload, text: textOf(db, at) }),
      );
    }),
  );

  app.post("/l/:token/password", (c) =>
    withLink(c, async ({ link }, _inside, token) => {
      if (attempts.areUsedUp(token)) return show(c, pages.tooManyTries, 429);
      const given = String((await c.req.parseBody()).password ?? "");
      const hash = db.passwordHash(link.id);
      if (!hash || !isPassword(given, hash)) {
        attempts.addWrong(token);
        note("refused", link, "anyone");
        return show(c, pages.askPassword(token, "That is not the password."), 401);
      }
      if (link.role !== "deposit") countUse(link, "anyone");
      await letIn(c, token, "anyone");
      return c.redirect(`/l/${token}`, 303);
    }),
  );

  const isFor = (link: LinkRecord, address: string) =>
    link.reach === "house"
      ? address.endsWith("@" + homeDomain)
      : link.recipients.some((one) => normaliseAddress(one.email) === address);

  app.post("/l/:token/address", (c) =>
    withLink(c, async ({ link, item }, _inside, token) => {
      const address = normaliseAddress(String((await c.req.parseBody()).address ?? ""));
      // The page is the same for those whom the link isn't for: it must not tell who is on it.
      if (isFor(link, address) && !attempts.areUsedUp(token + address)) {
        const secret = newSecret();
        db.setChallenge(link.id, address, secret);
        await sendCode(address, codeFor(secret), item.name, store.name);
      }
      return show(c, pages.askCode(`/l/${token}`, address));
    }),
  );

  app.post("/l/:token/code", (c) =>
    withLink(c, async ({ link }, _inside, token) => {
      const form = await c.req.parseBody();
      const address = normaliseAddress(String(form.address ?? ""));
      if (attempts.areUsedUp(token + address)) return show(c, pages.tooManyTries, 429);
      const secret = db.challenge(link.id, address);
      if (!secret || !isFor(link, address) || !isCode(secret, String(form.code ?? ""))) {
        attempts.addWrong(token + address);
        note("refused", link, address);
        return show(c, pages.askCode(`/l/${token}`, address, "That code is wrong."), 401);
      }
      db.dropChallenge(link.id, address);
      countUse(link, address);
      await letIn(c, token, address);
      return c.redirect(`/l/${token}`, 303);
    }),
  );

  app.get("/l/:token/file/:item", (c) =>
    withLink(c, async ({ link, item, mayDownload }, inside) => {
      const wanted = reachedItem(db, item, c.req.param("item")!);
      const refused = refusedDownload(c, link, inside, wanted, mayDownload);
      if (refused) return refused;
      noteDownload(link, inside!.as, wanted!);
      const bytes = db.fileBytes(wanted!.id) ?? new TextEncoder().encode(textOf(db, wanted!));
      return c.body(Uint8Array.from(bytes).buffer, 200, {
        "Content-Type": "application/octet-stream",
        "Content-Disposition": `attachment; filename*=UTF-8''${encodeURIComponent(wanted!.name)}`,
        "X-Content-Type-Options": "nosniff",
      });
    }),
  );

  function refusedDownload(
    c: Context,
    link: LinkRecord,
    inside: Inside,
    wanted: ItemRecord | undefined,
    mayDownload: boolean,
  ) {
    if (!inside) return c.redirect(`/l/${c.req.param("token")}`, 303);
    if (wanted?.kind === "file" && mayDownload) return undefined;
    note("refused", link, inside.as, { wanted: wanted?.id });
    return c.text("This file can't be downloaded.", 403);
  }

  function noteDownload(link: LinkRecord, who: string, item: ItemRecord) {
    if (store.capabilities.perRecipientUse) {
      const recipients = link.recipients.map((one) =>
        normaliseAddress(one.email) === who ? { ...one, downloads: (one.downloads ?? 0) + 1 } : one,
      );
      db.put({ ...db.get<LinkRecord>("link", link.id)!, recipients });
    }
    note("downloaded", link, who, { item: item.id });
  }

  app.post("/l/:token/files", bodyLimit({ maxSize: MOST_BYTES }), (c) =>
    withLink(c, async ({ link, item }, inside, token) => {
      if (link.role !== "deposit" || !inside) return c.redirect(`/l/${token}`, 303);
      const form = await c.req.parseBody();
      const file = form.file;
      if (!(file instanceof File) || file.size === 0) return c.redirect(`/l/${token}`, 303);
      const bytes = new Uint8Array(await file.arrayBuffer());
      const sender = {
        address: normaliseAddress(String(form.sender ?? "")),
        name: String(form.name ?? "").slice(0, 200),
      };
      receive(link, item, file, bytes, sender);
      return show(c, pages.intake(token, item, link.message, file.name));
    }),
  );

  interface Sender {
    address: string;
    name: string;
  }

  function receive(
    link: LinkRecord,
    folder: ItemRecord,
    file: File,
    bytes: Uint8Array,
    { address: sender, name: senderName }: Sender,
  ) {
    const id = randomUUID();
    const time = nowText();
    db.transaction(() => {
      db.put({
        type: "item",
        id,
        storeId: folder.storeId,
        parentId: folder.id,
        kind: "file",
        name: file.name,
        ownerId: null,
        label: null,
        inherits: true,
        state: "live",
        createdAt: time,
        modifiedAt: time,
        size: file.size,
        mediaType: file.type || null,
      });
      db.keepFile(id, file.name, sender, bytes);
      db.put({ ...link, uses: link.uses + 1 });
      const given = { item: id, name: file.name, size: file.size, ...(senderName && { sender: senderName }) };
      note("sent-in", link, sender, { ...given, ...(TELLS_BYTES.has(store.id) && bytesToTell(file, bytes)) });
    });
  }

  return app;
}
