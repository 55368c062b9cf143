import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { noticeWords } from "@/core/changes/telling";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { sendNotices } from "@/server/dockets/notices";
import { passphraseFor, showOnce } from "@/server/dockets/passphrases";
import { stage, trayOf } from "@/server/dockets/tray";
import { channelsOf } from "@/server/messages/channels";
import { signed, subjectOf } from "@/server/platform/signed";
import { addPerson } from "@/server/people/people";
import { forgetOlderKeys, rotateKey } from "@/server/rotating";
import { readStores } from "@/server/stores/read";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, link, T } from "./records";

const ADMIN = "admin@home.example";
const PASSWORD = "four unlike words here";
let house: House;

beforeAll(async () => {
  house = await openHouse({
    stacks: [...PEOPLE, file("plan", null, inStacks), link("open", "plan", { createdBy: "ida" })],
    alcoves: [],
    dock: [],
  });
}, 60_000);
afterAll(() => house.close());

const signIn = async () => {
  const { api } = await house.app.auth();
  const { headers } = await api.signInEmail({ body: { email: ADMIN, password: PASSWORD }, returnHeaders: true });
  return new Headers({
    cookie: headers
      .getSetCookie()
      .map((one) => one.split(";")[0])
      .join("; "),
  });
};

test("after the key has changed nothing is lost, all of it is sealed anew, and everybody signs in again", async () => {
  const { app, db } = house;
  await addPerson(app, { name: "Ada", email: ADMIN, password: PASSWORD }, "administrator", "tests");
  await stage(app, ADMIN, [{ action: "set-password", shareId: "open" }]);
  const docketId = (await trayOf(app, ADMIN)).docketId!;
  await applyDocket(app, docketId, ADMIN);
  await allCarriedOut(app);
  const { id } = await db.selectFrom("docket_change").select("id").executeTakeFirstOrThrow();
  const owners = {
    audience: "owners" as const,
    ...noticeWords("owners", { name: null, reason: null }),
    addresses: ["ida@home.example"],
  };
  expect(await sendNotices(app, docketId, owners, ADMIN)).toBe(1);
  const address = signed(app, "answer", "7", T + 99);
  const session = await signIn();
  expect(await app.actorFrom(session)).toMatchObject({ email: ADMIN });
  const older = app.secrets.ring.newest.id;

  // Three stores, the channels, a letter that waits and a passphrase.
  expect(await rotateKey(app, ADMIN)).toBe(6);
  const newest = app.secrets.ring.newest.id;
  expect(newest).not.toBe(older);
  const kept = [
    ...(await db.selectFrom("connection").select("key as sealed").execute()),
    ...(await db.selectFrom("setting").select("body as sealed").where("name", "=", "channels").execute()),
    ...(await db.selectFrom("letter").select("content as sealed").where("content", "is not", null).execute()),
    ...(await db.selectFrom("passphrase").select("sealed").execute()),
  ];
  expect(kept.map(({ sealed }) => sealed!.split(".")[1])).toEqual(kept.map(() => newest));
  expect((await readStores(app)).map(({ error }) => error)).toEqual([undefined, undefined, undefined]);
  expect((await channelsOf(app)).mail).toMatchObject({ host: "127.0.0.1" });
  await house.tick();
  expect(house.mails.map(({ subject }) => subject)).toEqual([
    noticeWords("owners", { name: null, reason: null }).subject,
  ]);
  expect(await showOnce(app, id, ADMIN)).toMatch(/^\w+(-\w+){5}$/);
  expect(await app.actorFrom(session)).toBeNull();
  expect(await app.actorFrom(await signIn())).toMatchObject({ email: ADMIN });

  // What is in the mail already goes on until the older key is forgotten.
  expect(subjectOf(app, "answer", address)).toBe("7");
  expect(await forgetOlderKeys(app, ADMIN)).toBe(1);
  expect(subjectOf(app, "answer", address)).toBeNull();
  expect(subjectOf(app, "answer", signed(app, "answer", "7", T + 99))).toBe("7");
  expect((await readStores(app)).map(({ error }) => error)).toEqual([undefined, undefined, undefined]);
  expect(readFileSync(join(app.settings.data, "key"), "utf8").split("\n")).toHaveLength(1);
  const kinds = await db.selectFrom("ledger").select("kind").where("kind", "like", "%key%").orderBy("seq").execute();
  expect(kinds).toEqual([{ kind: "key-rotated" }, { kind: "older-keys-forgotten" }]);
});

test("what is sealed at the moment of the change can be read after it, however often that is tried", async () => {
  const { app, db } = house;
  const [{ id }] = await db.selectFrom("docket_change").select("id").execute();
  for (let n = 0; n < 50; n++) {
    await db.deleteFrom("passphrase").execute();
    const [given] = await Promise.all([passphraseFor(app, { id, share_id: "open" }), rotateKey(app, ADMIN)]);
    await forgetOlderKeys(app, ADMIN);
    expect(await showOnce(app, id, ADMIN)).toBe(given);
  }
  expect(existsSync(join(app.settings.data, "key.new"))).toBe(false);
});
