import { recordSchemas } from "@/core/estate/records";
import type { ArrivalTold } from "@/contract/intake";
import type { LinkRecord, StoreRecord } from "@/core/estate/records";
import { type Came, cameFrom, marksOf } from "@/core/intake/arrival";
import { ALWAYS } from "@/core/time/instant";
import { shownName } from "@/core/text/shown";
import type { Db } from "../platform/db/open";
import { firstWithHash, type SentIn, sentIn, sentInByLink } from "../records/events/sentIn";
import { bodiesNow, shareHistory } from "../records/facts";

const PAGE = 100;
/** How many are searched for marked ones at a time. */
const MOST_LOOKED_AT = 2_000;

interface Asked {
  link?: string;
  marked?: "yes";
  before?: number;
}

/** What came in, the newest first, a page at a time. */
export async function cameIn(db: Db, { link, marked, before }: Asked) {
  const rows = await sentIn(db, { link, before, limit: (marked ? MOST_LOOKED_AT : PAGE) + 1 });
  const page = marked ? rows.slice(0, MOST_LOOKED_AT) : rows.slice(0, PAGE);
  const told = await toldOf(db, page);
  const byLink = await sentInByLink(db);
  const total =
    link === undefined ? [...byLink.values()].reduce((sum, { came }) => sum + came, 0) : (byLink.get(link)?.came ?? 0);
  return {
    arrivals: marked ? told.filter(({ marks }) => marks.length > 0) : told,
    total,
    more: rows.length > page.length ? page[page.length - 1].seq : null,
  };
}

async function toldOf(db: Db, rows: readonly SentIn[]): Promise<ArrivalTold[]> {
  const came = rows.map(({ body }) => cameFrom(recordSchemas.event.parse(JSON.parse(body))));
  const first = await firstWithHash(db, [...new Set(came.flatMap(({ sha256 }) => sha256 ?? []))]);
  const links = new Map<string, Promise<LinkRecord[]>>();
  const stores = new Map(
    (await bodiesNow<StoreRecord>(db, "store")).map(({ source, record }) => [source, record.name]),
  );
  const linkAt = async (id: string, one: Came) => {
    const known = links.get(id) ?? versionsOf(db, id);
    links.set(id, known);
    return versionAt(await known, one);
  };
  return Promise.all(
    rows.map(async ({ seq, source, link, item }, i): Promise<ArrivalTold> => {
      const one = came[i];
      const isAgain = one.sha256 !== null && first.get(one.sha256)! < seq;
      const record = link === null ? null : await linkAt(link, one);
      return {
        ...{ seq, at: one.at, linkId: link, itemName: item === null ? "" : shownName(item) },
        ...{ storeName: stores.get(source) ?? source, name: one.name === null ? null : shownName(one.name) },
        ...{ size: one.size, sender: one.sender === null ? null : shownName(one.sender), address: one.address },
        ...{ from: one.from, mediaType: one.mediaType, tellsBytes: one.sha256 !== null || one.firstBytes !== null },
        marks: await marksOf(one, record, isAgain),
      };
    }),
  );
}

/** All that a link has been, the latest first. */
async function versionsOf(db: Db, id: string): Promise<(LinkRecord & { since: number })[]> {
  const held = await shareHistory(db, id, null);
  return held
    .flatMap(({ record, from }) => (record.type === "link" ? [{ ...record, since: from }] : []))
    .sort((a, b) => b.since - a.since);
}

/** The link as it was known when a file came; where it came before we knew it, as it was first known. */
function versionAt(versions: readonly (LinkRecord & { since?: number })[], { at }: Came): LinkRecord | null {
  return versions.find(({ since = ALWAYS }) => since <= at) ?? versions.at(-1) ?? null;
}
