import { LABELS } from "@/core/estate/records";
import { PARTIES } from "@/core/trail/event";
import { NOTHING_ASKED } from "@/core/trail/search";
import { OPENING, TAKING } from "@/core/trail/verbs";
import { type EventWatch, type Watch, watchSchema } from "@/core/trail/watch";
import type { SavedWatch } from "@/core/trail/savedWatch";
import { HOUR, type Seconds } from "@/core/time/instant";
import { type Db, writing } from "../platform/db/open";
import { administrators } from "../people";
import { saveWatch, watches } from "./watches";

type Told = Pick<Watch, "mail" | "webhook" | "syslog" | "zone">;
type Shipped = Record<string, (told: Told & Pick<Watch, "mostADay" | "quiet">) => Watch>;

const HELD_BACK = "A rule over its hourly limit";
const SENSITIVE = LABELS.filter((label) => label === "confidential" || label === "restricted");

function onEvents(severity: Watch["severity"], search: Partial<EventWatch["search"]>, many: EventWatch["many"] = null) {
  const asked = { ...NOTHING_ASKED, from: null, to: null, ...search };
  return (told: Parameters<Shipped[string]>[0]): Watch => ({ kind: "events", search: asked, many, severity, ...told });
}

/** A first set of watches; each can be changed or deleted. The numbers are common practice, no source. */
const SHIPPED: Shipped = {
  "Open link to sensitive items": onEvents("urgent", { verbs: ["shared-open"], labels: SENSITIVE }),
  "Shared with a denied party": onEvents("urgent", { verbs: [...OPENING], parties: ["denied"] }),
  "Shared with a personal mailbox": onEvents("high", { verbs: [...OPENING], parties: ["personal"] }),
  "Copy sent out": onEvents("high", { verbs: ["copy-sent"], labels: SENSITIVE }),
  "A latch removed": onEvents("high", {
    verbs: ["expiry-removed", "password-removed", "block-removed", "role-raised"],
  }),
  "Many downloads by one outsider": onEvents(
    "high",
    { verbs: [...TAKING], parties: [...PARTIES], side: "actor" },
    { moreThan: 20, seconds: HOUR, by: "person" },
  ),
  "Refused repeatedly": onEvents("high", { verbs: ["refused"] }, { moreThan: 5, seconds: HOUR, by: "share" }),
  "Not opened within two weeks": (told) => ({ kind: "not-opened", days: 14, severity: "low", ...told }),
  "Nothing sent in": (told) => ({ kind: "nothing-sent-in", severity: "low", ...told }),
  "An owner has not answered": (told) => ({ kind: "not-answered", days: 7, severity: "low", ...told }),
  [HELD_BACK]: (told) => ({ kind: "held-back", severity: "urgent", ...told }),
};

/** The watch over what rules do by themselves: where nobody has one, it is made, and tells every administrator. */
export async function watchOverRules(db: Db): Promise<SavedWatch> {
  const isOverRules = ({ watch }: SavedWatch) => watch.kind === "held-back";
  const known = (await watches(db)).find(isOverRules);
  if (known) return known;
  const told = { mail: await administrators(db), webhook: false, syslog: false, zone: "UTC" };
  const watch = watchSchema.parse(SHIPPED[HELD_BACK]({ ...told, mostADay: 20, quiet: null }));
  await writing(db, (within) => saveWatch(within, "Tight Latch", { name: HELD_BACK, watch, isOn: true }));
  return (await watches(db)).find(isOverRules)!;
}

/**
 * Keeps the shipped watches that are not there yet, switched on.
 * @param since events from this instant on raise alerts
 * @returns how many are new
 */
export async function saveShipped(db: Db, actor: string, told: Told, since: Seconds): Promise<number> {
  const known = new Set((await watches(db)).map(({ name }) => name));
  const fresh = Object.entries(SHIPPED).filter(([name]) => !known.has(name));
  await writing(db, async (within) => {
    for (const [name, make] of fresh) {
      const watch = watchSchema.parse(make({ ...told, mostADay: 20, quiet: null }));
      await saveWatch(within, actor, { name, watch, isOn: true, since });
    }
  });
  return fresh.length;
}
