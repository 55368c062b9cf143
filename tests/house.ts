import { serve, type ServerType } from "@hono/node-server";
import { Hono } from "hono";
import { mkdtempSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type ParsedMail, simpleParser } from "mailparser";
import { SMTPServer } from "smtp-server";
import type { EstateRecord } from "@/core/estate/records";
import type { Preview } from "@/core/preview/preview";
import { allCarriedOut } from "@/server/dockets/executor";
import { docketView } from "@/server/dockets/receipts";
import { channelsBody } from "@/contract/estate";
import { setChannels } from "@/server/messages/channels";
import { importEstate } from "@/server/stores/importEstate";
import { readStores } from "@/server/stores/read";
import { connect } from "@/server/stores/connections";
import { storeApi } from "@/standins/store/api";
import { StoreDatabase } from "@/standins/store/database";
import { recipientPages } from "@/standins/store/recipient";
import { STORES, type StoreName } from "@/standins/store/stores";
import { appIn } from "./app";
import { file, group, head, item, link, named, NOW, person, store } from "./records";

const KEY = "a key that is long enough";

/** Three who are in most houses: two who work there, and one from outside. */
export const PEOPLE = [
  person("ida", "ida@home.example"),
  person("ivo", "ivo@home.example"),
  person("out", "out@quay.example"),
];
/** Where an item lies that one of them owns. */
export const inStacks = { storeId: "stacks", ownerId: "ida" };

/** A folder with a file that is shared openly, by a link whose address is a secret, and with somebody outside. */
export const ONE_OF_EACH = {
  stacks: [
    store("stacks"),
    ...PEOPLE,
    item("a", null, { ...inStacks, name: "Touring", label: "confidential" }),
    file("f", "a", { ...inStacks, name: "Rider" }),
    link("l", "f", { createdBy: "ida", address: "7Qk1lI0O" }),
    named("n", "f", ["out@quay.example"], { createdBy: "ida" }),
  ],
  alcoves: [],
  dock: [],
};

/** A whole house in one process: its stores with their recipients' pages, its mail server, its database, its engine. */
export async function openHouse(
  records: Record<StoreName, EstateRecord[]>,
  own: readonly EstateRecord[] = [head()],
  homeDomain = "home.example",
) {
  const folder = mkdtempSync(join(tmpdir(), "latch-house-"));
  const app = await appIn(folder);
  const { db, clock } = app;
  const mails: ParsedMail[] = [];
  const stores = {} as Record<StoreName, { db: StoreDatabase; server: ServerType; url: string }>;
  for (const name of Object.keys(STORES) as StoreName[])
    stores[name] = await openStore(name, folder, records[name], homeDomain);
  const smtp = await openMail(mails);
  for (const [id, { url }] of Object.entries(stores))
    await connect(app, { id, name: STORES[id as StoreName].name, url, key: KEY }, "tests");
  const mail = mailTo((smtp.server.address() as AddressInfo).port);
  await setChannels(app, channelsBody.parse({ mail }), "tests");
  const [first, ...rest] = own.map((record) => JSON.stringify(record));
  await importEstate(app, [first], { as: "house", name: "house.jsonl" });
  await readStores(app);
  // What the house says of its stores' items it says once they are known.
  if (rest.length > 0) await importEstate(app, [first, ...rest], { as: "house", name: "house.jsonl" });
  await app.engine.ask("refresh", {});
  return {
    app,
    db,
    mails,
    stores,
    /** What a docket that waits would do. */
    async preview(docketId: string): Promise<Preview> {
      return (await docketView(app, docketId)).preview!;
    },
    /** Subjects of a docket's changes that were not done. */
    async undone(docketId: string): Promise<string[]> {
      const rows = await db
        .selectFrom("docket_change")
        .select(["subject", "state", "answer"])
        .where("docket_id", "=", docketId)
        .where("state", "!=", "done")
        .execute();
      return rows.map(({ subject }) => subject).sort();
    },
    /** Reads the stores, and lets the engine know. */
    async read() {
      await readStores(app);
      await app.engine.ask("refresh", {});
    },
    /** Lets the clocks of all go on, or sets them. */
    async later(days: number) {
      clock.standsAt = new Date(clock.standsAt!.getTime() + days * 86_400_000);
      // The stores' own clock.
      process.env.LATCH_NOW = clock.text();
      await readStores(app);
    },
    /** Has something go wrong in a store. */
    async control(name: StoreName, faults: Record<string, number>) {
      const headers = { Authorization: `Bearer ${KEY}`, "Content-Type": "application/json" };
      await fetch(`${stores[name].url}/api/control`, { method: "POST", headers, body: JSON.stringify(faults) });
    },
    /** Has somebody make a share in a store themselves. */
    async share(name: StoreName, given: { itemId: string; by: string; reach: string }) {
      const headers = { Authorization: `Bearer ${KEY}`, "Content-Type": "application/json" };
      const answer = await fetch(`${stores[name].url}/api/shares`, {
        method: "POST",
        headers,
        body: JSON.stringify(given),
      });
      if (!answer.ok) throw new Error(await answer.text());
    },
    /** Does what is due, and waits for all that it began. */
    async tick() {
      const alerts = await app.jobs.doDue();
      await allCarriedOut(app);
      return alerts;
    },
    async close() {
      await app.close();
      for (const { server } of Object.values(stores)) await new Promise((resolve) => server.close(resolve));
      await new Promise<void>((resolve) => smtp.close(resolve));
      process.env.LATCH_NOW = NOW;
    },
  };
}
/** Two who own things and somebody from outside, in every store, with what each store holds besides. */
export function openHouseWith(records: Partial<Record<StoreName, EstateRecord[]>>): Promise<House> {
  const people = [
    person("ida", "ida@home.example"),
    person("oda", "oda@home.example"),
    person("out", "out@quay.example"),
  ];
  const { stacks = [], alcoves = [], dock = [] } = records;
  return openHouse({
    stacks: [...people, ...group("g"), ...stacks],
    alcoves: [...people, ...alcoves],
    dock: [...people, ...dock],
  });
}
export type House = Awaited<ReturnType<typeof openHouse>>;

async function openStore(name: StoreName, folder: string, records: EstateRecord[], homeDomain: string) {
  const db = new StoreDatabase(join(folder, `${name}.sqlite`));
  db.transaction(() => records.forEach((record) => db.put(record, NOW)));
  const app = new Hono();
  const server = serve({ fetch: app.fetch, port: 0, hostname: "127.0.0.1" });
  await new Promise((resolve) => server.once("listening", resolve));
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  app.route("/api", storeApi(db, STORES[name], KEY, url));
  app.route("/", recipientPages({ db, store: STORES[name], cookieKey: "k".repeat(32), homeDomain }));
  return { db, server, url };
}

async function openMail(mails: ParsedMail[]): Promise<SMTPServer> {
  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ["STARTTLS"],
    onData: (stream, _session, done) => {
      simpleParser(stream).then((mail) => {
        mails.push(mail);
        done();
      }, done);
    },
  });
  await new Promise<void>((resolve) => smtp.listen(0, "127.0.0.1", resolve));
  return smtp;
}

function mailTo(port: number) {
  return { host: "127.0.0.1", port, secure: false, user: "", password: "", from: "latch@home.example" };
}
