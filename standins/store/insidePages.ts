import { Hono, type Context } from "hono";
import { getSignedCookie, setSignedCookie } from "hono/cookie";
import { normaliseAddress } from "../../core/estate/address";
import type { ItemRecord, StoreRecord } from "../../core/estate/records";
import { Attempts } from "./attempts";
import { codeFor, isCode, newSecret } from "./codes";
import type { StoreDatabase } from "./database";
import { sendCode } from "./mail";
import { textOf } from "./opening";
import * as pages from "./pages";
import { rightTo } from "./rights";

/** The pages of an item for people who have a right to it and show by a mailed code who they are. */
export function insidePages({ db, store, cookieKey }: { db: StoreDatabase; store: StoreRecord; cookieKey: string }) {
  const app = new Hono();
  const attempts = new Attempts();
  const show = (c: Context, content: ReturnType<typeof pages.askAddress>, status: 200 | 401 | 410 | 429 = 200) =>
    c.html(pages.page(store, "Shared with you", content), status);
  const place = (c: Context) => `/i/${c.req.param("item")}`;
  const itemOf = (c: Context) => db.get<ItemRecord>("item", c.req.param("item")!);

  app.get("/i/:item", async (c) => {
    const address = await getSignedCookie(c, cookieKey, "inside");
    if (!address) return show(c, pages.askAddress(place(c)), 401);
    const item = itemOf(c);
    const right = item && rightTo(db, store, address, item);
    if (!right) return show(c, pages.noRight, 410);
    return show(c, pages.insideItem(item, textOf(db, item), right.mayDownload));
  });

  app.post("/i/:item/address", async (c) => {
    const address = normaliseAddress(String((await c.req.parseBody()).address ?? ""));
    const item = itemOf(c);
    // The page is the same for those who have no right: it must not tell who has one.
    if (item && rightTo(db, store, address, item) && !attempts.areUsedUp(item.id + address)) {
      const secret = newSecret();
      db.setChallenge(item.id, address, secret);
      await sendCode(address, codeFor(secret), item.name, store.name);
    }
    return show(c, pages.askCode(place(c), address));
  });

  app.post("/i/:item/code", async (c) => {
    const form = await c.req.parseBody();
    const address = normaliseAddress(String(form.address ?? ""));
    const id = c.req.param("item");
    if (attempts.areUsedUp(id + address)) return show(c, pages.tooManyTries, 429);
    const secret = db.challenge(id, address);
    if (!secret || !isCode(secret, String(form.code ?? ""))) {
      attempts.addWrong(id + address);
      return show(c, pages.askCode(place(c), address, "That code is wrong."), 401);
    }
    db.dropChallenge(id, address);
    const options = { httpOnly: true, sameSite: "Strict", path: "/i", maxAge: 3_600 } as const;
    await setSignedCookie(c, "inside", address, cookieKey, options);
    return c.redirect(place(c), 303);
  });

  return app;
}
