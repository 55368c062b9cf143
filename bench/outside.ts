import { ALWAYS } from "../core/time/instant";
import type { Exposures } from "../core/access/exposure";
import { isLiveSlot, leadsOutside } from "../core/access/live";
import type { Estate } from "../core/estate/estate";
import { ROLES } from "../core/estate/records";
import { OPEN } from "../core/estate/shares";

/** What a baseline says of one item: the same that the engine says, as numbers. */
export interface OutsideRow {
  item: number;
  open: number;
  keyed: number;
  outsiders: number;
  organisations: number;
  role: number;
  download: number;
  until: number;
}

/** The live outside shares of an estate and whom they let in: what every baseline starts from, closures worked out. */
export interface OutsideShare {
  id: number;
  item: number;
  open: number;
  keyed: number;
  role: number;
  download: number;
  until: number;
  people: Int32Array;
}

export function* outsideShares(estate: Estate): Generator<OutsideShare> {
  const { shares, principals } = estate;
  for (let slot = 0; slot < shares.count; slot++) {
    if (!leadsOutside(estate, slot) || !isLiveSlot(estate, slot, estate.asOf)) continue;
    yield {
      id: slot,
      item: shares.item[slot],
      open: shares.audience[slot] === OPEN ? 1 : 0,
      keyed: shares.audience[slot] === OPEN && shares.hasPassword(slot) ? 1 : 0,
      role: shares.role[slot],
      download: shares.download[slot],
      until: shares.expires[slot],
      people: principals.pool.subarray(shares.membersFrom[slot], shares.insidersFrom[slot]),
    };
  }
}

/**
 * The question as a recursive query, over the tables `item (id, parent, inherits)`, `share` and `audience
 * (share, person, organisation)`. The cross join pins the order in which SQLite goes through them: it guesses wrong.
 */
export const OUTSIDE_SQL = `
  with recursive reach (item, share) as (
    select item, id from share
    union all
    select item.id, reach.share from reach cross join item where item.parent = reach.item and item.inherits = 1)
  select reach.item as item, max(share.open) as open, min(case when share.open = 1 then share.keyed end) as keyed,
    count(distinct audience.person) as outsiders, count(distinct audience.organisation) as organisations,
    max(share.role) as role, max(share.download) as download, max(share.until) as until
  from reach join share on share.id = reach.share left join audience on audience.share = share.id
  group by reach.item`;

/** @throws {Error} if a baseline says anything else than the engine of any item: one that computes something else is none */
export function compare(name: string, estate: Estate, ours: Exposures, rows: Iterable<OutsideRow>) {
  const theirs = new Map<number, OutsideRow>();
  for (const row of rows) theirs.set(Number(row.item), row);
  for (let position = 0; position < estate.tree.length; position++) {
    const slot = estate.tree.slotAt[position];
    const exposure = ours.at(position)!;
    const mine = [
      exposure.open ? 1 : 0,
      exposure.openKeyed ? 1 : 0,
      exposure.outsiders,
      exposure.organisations.length,
      exposure.outsideRole === null ? -1 : ROLES.indexOf(exposure.outsideRole),
      exposure.outsideDownload ? 1 : 0,
      exposure.outsideUntil === ALWAYS ? 0 : exposure.outsideUntil,
    ];
    const row = theirs.get(slot);
    const { open = 0, keyed = 0, outsiders = 0, organisations = 0, role = -1, download = 0, until = 0 } = row ?? {};
    const other = [open, keyed ?? 0, outsiders, organisations, role, download, until].map(Number);
    if (mine.join() !== other.join())
      throw new Error(`${name} and the engine differ on ${estate.items.idOf(slot)}: ${mine} and ${other}`);
  }
}
