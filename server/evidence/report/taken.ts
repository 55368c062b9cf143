import type { Held } from "@/core/access/history";
import { normaliseAddress } from "@/core/estate/address";
import type { EventRecord, ShareRecord } from "@/core/estate/records";
import { joined, type OpenTime, openTimes } from "@/core/evidence/openTimes";
import { parseSubject, type Report, type ReportSection, type ReportSubject, tableOf } from "@/core/evidence/report";
import { begun } from "@/core/text/text";
import { countWords } from "@/core/text/words";
import { DAY, NEVER, rfc3339, seconds, type Seconds, utcDay } from "@/core/time/instant";
import type { TrailEvent } from "@/core/trail/event";
import { NOTHING_ASKED, type TrailSearch } from "@/core/trail/search";
import { USING, verbTitle } from "@/core/trail/verbs";
import type { Asking } from "../../engine/client";
import { Problem } from "../../platform/problem";
import { bodiesOf, firstEvents } from "../../records/events/events";
import { itemAndAbove, shareHistory, sharesNaming, sharesOnItems } from "../../records/facts";
import { connections } from "../../stores/connections";
import { readingDays } from "../../stores/readingDays";
import { eventPieces } from "../../trail";
import { figure, momentOf, spanOf } from "./days";

interface Asked {
  about: string;
  from: string;
  to: string;
}

/** What a share's row says besides its record. */
interface Known {
  item: string;
  audience: string;
}

/** When something was open, and what was taken in that time. @throws {Problem} if it isn't known */
export async function takenReport(app: Asking, asked: Asked): Promise<Report> {
  const { from, to } = spanOf(app, asked);
  const subject = parseSubject(asked.about)!;
  const ids = await sharesOf(app, subject, to);
  const known = await knownOf(app, ids);
  const opened = await openedIn(app, ids, from, to);
  const events = await usesIn(app, subject, from, to);
  return {
    title: `What was taken ${await nameOf(app, subject, known)}`,
    words:
      `From ${momentOf(from)} to ${momentOf(to)}, in UTC. This is what the stores reported, kept as it came; ` +
      "the last two sections say what they didn’t report.",
    sections: [
      openSection(opened, known),
      usesSection(subject, events),
      unknowableSection(opened, events),
      await unrecordedSection(app, from, to),
    ],
  };
}

/** Shares by which it could ever be reached. */
async function sharesOf({ db }: Asking, { kind, id }: ReportSubject, to: Seconds): Promise<string[]> {
  switch (kind) {
    case "share":
      return [id];
    case "item":
      return sharesOnItems(db, await itemAndAbove(db, id, rfc3339(to)));
    case "person":
      return sharesNaming(db, normaliseAddress(id));
    case "organisation":
      throw new Problem(
        "bad",
        "about: choose a share, an item or a person; for an organisation, choose each of its people.",
      );
  }
}

async function knownOf(app: Asking, ids: string[]): Promise<Map<string, Known>> {
  const rows = await app.engine.ask("rows", { ids });
  return new Map(rows.map(({ id, itemName, audience }) => [id, { item: itemName, audience }]));
}

async function nameOf(app: Asking, { kind, id }: ReportSubject, known: ReadonlyMap<string, Known>): Promise<string> {
  if (kind === "share") return `by share ${id}${known.has(id) ? ` of ${known.get(id)!.item}` : ""}`;
  const ways = await app.engine.ask("waysIn", { [kind]: id });
  if (ways?.kind === "item") return `of ${ways.item.name}`;
  if (ways?.kind === "reach" && !("people" in ways.who)) return `by ${ways.who.name} (${ways.who.address})`;
  throw new Problem("unknown", `about: nothing is known of ${kind}:${id}.`);
}

type Opened = [share: string, times: OpenTime[]];

async function openedIn({ db }: Asking, ids: readonly string[], from: Seconds, to: Seconds): Promise<Opened[]> {
  const opened: Opened[] = [];
  for (const id of ids) {
    const held: Held[] = await shareHistory(db, id, rfc3339(to));
    const times = joined(openTimes(held, from, to), (record) => latchWords(record).join());
    if (times.length > 0) opened.push([id, times]);
  }
  return opened;
}

function latchWords(record: ShareRecord): string[] {
  const isLink = record.type === "link";
  return [
    record.role,
    isLink ? (record.password ? "asked for" : "none") : "",
    record.download ? "allowed" : "blocked",
    record.expiresAt === null ? "never" : momentOf(seconds(record.expiresAt)),
    isLink
      ? record.reach === "named"
        ? record.recipients.map(({ email }) => email).join(", ")
        : REACH_WORDS[record.reach]
      : "",
  ];
}

const REACH_WORDS = { open: "Whoever has the address", house: "Everyone who works here" };

function openSection(opened: readonly Opened[], known: ReadonlyMap<string, Known>): ReportSection {
  const rows = opened.flatMap(([share, times]) =>
    times.map(({ record, from, to }) => {
      const [role, password, download, ends, who] = latchWords(record);
      const until = to === NEVER ? "still open" : momentOf(to);
      const { item = "", audience = "" } = known.get(share) ?? {};
      return [item, who || audience, begun(role), momentOf(from), until, password, download, ends, share];
    }),
  );
  return {
    title: "When it was open, and how",
    words:
      rows.length === 0
        ? "No share known here opened it in this period. Its owner and the store’s administrators could still reach it."
        : `By ${countWords(opened.length, "share")}. Each change in how it was shared starts a new line. A share doesn’t show whether its item was in the bin at the time.`,
    table: tableOf(
      ["Item", "Audience", "Role", "Open from", "Until", "Password", "Download", "End date", "Share"],
      rows,
    ),
  };
}

/** A use, with its network address if the store reported one. */
interface Use {
  event: TrailEvent;
  network: string;
}

async function usesIn(app: Asking, { kind, id }: ReportSubject, from: Seconds, to: Seconds): Promise<Use[]> {
  const about: Partial<TrailSearch> =
    kind === "person" ? { person: normaliseAddress(id), side: "actor" } : { [kind]: id };
  const search = { ...NOTHING_ASKED, ...about, verbs: [...USING], from, to: to + 1 };
  const uses: Use[] = [];
  for await (const events of eventPieces(app, search)) {
    const bodies = await bodiesOf(
      app.db,
      events.map(({ seq }) => seq),
    );
    for (const event of events) uses.push({ event, network: networkIn(bodies.get(event.seq)) });
  }
  return uses.reverse();
}

function networkIn(body: string | undefined): string {
  return body === undefined ? "" : ((JSON.parse(body) as Partial<EventRecord>).ip ?? "");
}

const isNamed = ({ event: { who } }: Use) => (who?.people?.length ?? 0) > 0;

function usesSection({ kind }: ReportSubject, uses: readonly Use[]): ReportSection {
  const taken = uses.filter(({ event }) => event.verb !== "opened").length;
  const rows = uses.map(({ event: { at, verb, who, item, share }, network }) => [
    momentOf(at),
    verbTitle(verb),
    ...[item?.name ?? "", who?.name ?? "nobody named", who?.people?.[0] ?? "", network, share?.key ?? ""],
  ]);
  return {
    title: kind === "person" ? "What they visited and took" : "Every visit and download",
    words:
      uses.length === 0
        ? "None were reported."
        : `${countWords(uses.length, "use")}; ${figure(taken)} of them downloaded or uploaded something. Earliest first.`,
    table: tableOf(["When", "What", "Item", "Who", "Address", "From", "Share"], rows),
  };
}

function unknowableSection(opened: readonly Opened[], uses: readonly Use[]): ReportSection {
  const open = opened.filter(([, times]) =>
    times.some(({ record }) => record.type === "link" && record.reach === "open"),
  );
  const unnamed = uses.filter((use) => !isNamed(use)).length;
  const words = [
    open.length === 0
      ? "None of these shares let anyone in without naming them."
      : `${countWords(open.length, "share")} let in whoever had the address: nobody can know who that was, and addresses are passed on.`,
    unnamed === 0 ? "" : `${countWords(unnamed, "use")} named nobody.`,
    "No store can tell what was done with a file after it was downloaded.",
  ];
  return { title: "What nobody can know", words: words.filter((one) => one !== "").join(" ") };
}

/** Since when each source has reported, and on how many days of the span it wasn't read. */
async function unrecordedSection({ db }: Asking, from: Seconds, to: Seconds): Promise<ReportSection> {
  const days = await readingDays(db, utcDay(from), utcDay(to));
  const first = await firstEvents(db);
  const all = Math.floor(to / DAY) - Math.floor(from / DAY) + 1;
  const rows = (await connections(db)).map(({ id, name }) => {
    const own = days.filter(({ store }) => store === id);
    const begins = first.get(id);
    const gap = Math.max(0, ...own.map((one) => one.gap)) / 3_600;
    return [
      ...[name, begins === undefined ? "nothing yet" : momentOf(begins), figure(all - own.length)],
      ...[figure(own.reduce((sum, { errors }) => sum + errors, 0)), own.length === 0 ? "" : gap.toFixed(1)],
    ];
  });
  return {
    title: "What was never recorded",
    words:
      "Nothing is known of what happened in a store before its first event, or of what it didn’t keep until its next reading. " +
      "Readings are counted by day since this version. An estate read from a file says nothing after its date.",
    table: tableOf(
      ["Store", "Events since", "Days without a reading", "Failed readings", "Longest gap in hours"],
      rows,
      [2, 3, 4],
    ),
  };
}
