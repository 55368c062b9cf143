import { readFileSync } from "node:fs";
import { z } from "zod";
import { channelsBody } from "../contract/estate";
import { newPerson } from "../contract/people";
import { ROLES } from "../contract/roles";
import { linesOf } from "../core/estate/lines";
import { DAY, utcDay } from "../core/time/instant";
import { createApp } from "../server/app";
import { makePack } from "../server/evidence/pack/make";
import { addSchedule } from "../server/evidence/report/schedules";
import { setChannels } from "../server/messages/channels";
import { packMaker } from "../server/packMaker";
import { addPerson } from "../server/people/people";
import { Clock } from "../server/platform/clock";
import { settingsFrom } from "../server/platform/settings";
import { connect } from "../server/stores/connections";
import { importEstate } from "../server/stores/importEstate";
import { readStores } from "../server/stores/read";
import { planPeople } from "./people";
import { Player } from "./player";
import { planRounds } from "./rounds";
import { saveShipped } from "../server/trail/shipped";

/** What the demo is filled with: given as JSON on standard input, since there are keys and passwords in it. */
const given = z
  .object({
    stores: z.array(z.object({ id: z.string(), name: z.string(), url: z.string(), key: z.string() })),
    house: z.string(),
    lists: z.object({ before: z.string(), now: z.string() }),
    mail: z.object({ port: z.int(), from: z.string() }),
    people: z.array(newPerson.extend({ role: z.enum(ROLES) })),
    zone: z.string(),
  })
  .parse(JSON.parse(readFileSync(0, "utf8")));

const WATCHED_DAYS = 7;
const PACK_DAYS = 30;
const BY = "command line";

const settings = settingsFrom(process.env);
const clock = new Clock(settings.now);
const app = await createApp({ settings, clock });
for (const store of given.stores) await connect(app, store, "demo");
// What happened speaks of people whom the house tells of: it is read when they are known.
orFail(await readStores(app, undefined, { withEvents: false }));
const { problems } = await importEstate(app, linesOf([readFileSync(given.house)]), {
  as: "house",
  name: "house.jsonl",
});
if (problems.length > 0) throw new Error(`${given.house}: ${problems[0].message}`);
const mail = { ...given.mail, host: "127.0.0.1", secure: false, user: "", password: "" };
await setChannels(app, channelsBody.parse({ mail }), BY);
const told = { mail: [given.people[0].email], webhook: false, syslog: false, zone: given.zone };
await saveShipped(app.db, BY, told, app.clock.seconds() - WATCHED_DAYS * DAY);
orFail(await readStores(app));
for (const { role, ...person } of given.people) await addPerson(app, person, role, BY);
await app.engine.ask("refresh", {});
const player = new Player(app, clock);
planPeople(player, { before: text(given.lists.before), now: text(given.lists.now) });
planRounds(player);
await player.play();
const [from, to] = [app.clock.seconds() - PACK_DAYS * DAY, app.clock.seconds()].map(utcDay);
const administrator = given.people.find(({ role }) => role === "administrator")!.email;
await addSchedule(app, { kind: "state", every: "month", to: administrator }, { email: administrator, zone: "UTC" });
await makePack(
  await packMaker(app),
  { from, to, scope: "" },
  given.people.find(({ role }) => role === "auditor")!.email,
);
await app.close();

function text(path: string): string {
  return readFileSync(path, "utf8");
}

function orFail(results: Awaited<ReturnType<typeof readStores>>) {
  const failed = results.find(({ error }) => error);
  if (failed) throw new Error(`${failed.store}: ${failed.error}`);
}
