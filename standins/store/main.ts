import type { HttpBindings } from "@hono/node-server";
import { Hono } from "hono";
import { createHmac } from "node:crypto";
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { endWithParent, listen } from "../parts/listen";
import { storeApi } from "./api";
import { StoreDatabase } from "./database";
import { insidePages } from "./insidePages";
import { recipientPages } from "./recipient";
import { STORES, type StoreName } from "./stores";

/** Runs one stand-in store over its own data folder; `seed` fills it when it is empty. */
export function runStore(name: StoreName, options: { port: number; data: string; seed: string; key: string }) {
  mkdirSync(options.data, { recursive: true });
  const db = new StoreDatabase(join(options.data, `${name}.sqlite`));
  if (db.isEmpty) db.seed(options.seed);
  const store = STORES[name];
  const app = new Hono<{ Bindings: HttpBindings }>();
  app.route("/api", storeApi(db, store, options.key, `http://127.0.0.1:${options.port}`));
  const cookieKey = createHmac("sha256", options.key).update("recipient cookies").digest("hex");
  app.route("/", recipientPages({ db, store, cookieKey, homeDomain: "wrenmoor.example" }));
  app.route("/", insidePages({ db, store, cookieKey }));
  endWithParent();
  listen(store.name, app, options.port);
}
