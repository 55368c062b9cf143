import { DAY, HOUR, rfc3339 } from "../core/time/instant";
import { takeList } from "../server/directory/take";
import { engagementsDue } from "../server/engagements";
import { makeEngagement } from "../server/engagements/engagements";
import { noteLeavers } from "../server/leavers";
import { sendNow } from "../server/messages/outbox";
import type { PeopleLists } from "./lists";
import type { Player } from "./player";

/** Who looks after people in the demo. */
const ADMINISTRATOR = "thessaly.orrin@wrenmoor.example";

/** Plans what becomes of the demo's people: a directory that is read twice, and a project that ends in five days. */
export function planPeople(player: Player, lists: PeopleLists) {
  const { app, now } = player;
  const read = async (file: string, text: string) => {
    const given = { directory: "personnel", kind: "people" as const, file, text };
    await takeList(app.db, given, { digest: null, inactive: null }, ADMINISTRATOR);
    await app.engine.ask("refresh", {});
    await noteLeavers(app);
  };
  player.plan(now - 40 * DAY, () => read("people-october.csv", lists.before));
  player.plan(now - 38 * DAY, async () => {
    const { items } = await app.engine.ask("find", { text: "Winter tour", owners: false });
    const given = {
      ...{ name: "Winter tour", itemIds: [items[0].id], responsible: `runa.eastermark@wrenmoor.example` },
      ...{ organisations: ["quayside-staging.example", "brindle-haulage.example"] },
      ...{ starts: rfc3339(now - 38 * DAY), ends: rfc3339(now + 5 * DAY) },
    };
    await makeEngagement(app.db, given, ADMINISTRATOR);
    await app.engine.ask("refresh", {});
  });
  player.plan(now - 9 * DAY + HOUR, async () => {
    await engagementsDue(app);
    await sendNow(app);
  });
  player.plan(now - 3 * HOUR, () => read("people.csv", lists.now));
}
