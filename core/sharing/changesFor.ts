import type { MakingChange } from "../changes/change";
import { canEndMade } from "../changes/making";
import { verdictOn } from "../changes/verdict";
import { normaliseAddress } from "../estate/address";
import { type Estate, storeAt } from "../estate/estate";
import { listWords } from "../text/words";
import { seconds, type Seconds } from "../time/instant";
import type { Wish } from "./wish";

/** What a wish amounts to in the item's store. */
export interface WishedChanges {
  changes: MakingChange[];
  /** What the store can't do as asked, and what is done instead. */
  instead: string[];
  /** Why it can't be made as asked, and what to do about each reason. */
  cannot: { why: string; instead: string }[];
  /** When the changes are made: later than now if the store can't keep a start. */
  makeAt: Seconds;
}

/** Who asks, and what distinguishes the shares from others. */
export interface Asker {
  by: string;
  mark: string;
}

/** The changes that fulfil a wish at t, as far as the store can. None for an item that doesn't exist here. */
export function changesFor(estate: Estate, wish: Wish, { by, mark }: Asker, t: Seconds): WishedChanges {
  const position = estate.tree.position(wish.itemId);
  if (position === undefined) return nothing("This item no longer exists.", t);
  const store = storeAt(estate, position);
  if (store.isRead === false)
    return nothing(`${store.name} is known from files only.`, t, "Make the share there, and import it.");
  const { capabilities, name } = store;
  const instead: string[] = [];
  const starts = wish.from !== null && seconds(wish.from) > t ? wish.from : null;
  const byUs = starts !== null && !capabilities.startTime;
  if (byUs) instead.push(`${name} can’t keep a start, so Tight Latch makes it on that day.`);
  const made: Common = {
    ...{ itemId: wish.itemId, mark, by, role: wish.role, download: wish.download, expiresAt: wish.until },
    ...(wish.replaces !== undefined && { replaces: wish.replaces }),
  };
  const link = { action: "new-link" as const, ...made, opensAt: byUs ? null : starts, maxUses: wish.maxUses };
  const changes = sharesFor(estate, wish, { link, made, instead, position }).map((change): MakingChange => {
    if (change.expiresAt === null || canEndMade(change, capabilities)) return change;
    return { ...change, endsByOrder: true };
  });
  if (changes.some(({ endsByOrder }) => endsByOrder))
    instead.push(`${name} can’t keep an end date on it, so Tight Latch revokes it then: a standing order.`);
  const makeAt = byUs ? seconds(starts) : t;
  const cannot = changes.flatMap((change) => {
    const verdict = verdictOn(estate, change, makeAt);
    return verdict.can ? [] : [{ why: verdict.why, instead: verdict.instead }];
  });
  return { changes, instead, cannot: distinct(cannot), makeAt };
}

type Common = Pick<MakingChange, "itemId" | "mark" | "by" | "role" | "download" | "expiresAt" | "replaces">;
type LinkParts = Omit<Extract<MakingChange, { action: "new-link" }>, "reach" | "addresses" | "password">;
interface Parts {
  link: LinkParts;
  made: Common;
  instead: string[];
  position: number;
}

/** Our own people get a grant, others a link of their own, or the closest thing that the store has. */
function sharesFor(estate: Estate, wish: Wish, { link, made, instead, position }: Parts): MakingChange[] {
  if (wish.to === "anyone") return [{ ...link, reach: "open", addresses: [], password: wish.password }];
  const addresses = [...new Set(wish.to.map(normaliseAddress))];
  const { principals, people } = estate;
  const { capabilities, name, source, isRead } = storeAt(estate, position);
  const isKnown = (address: string) => {
    const person = principals.findAddress(address);
    return person !== undefined && (!isRead || principals.isNamedBy(person, source));
  };
  const isOwn = (address: string) => isKnown(address) && people[principals.findAddress(address)!].insider;
  const asGrants = addresses.filter(capabilities.namedLinks ? isOwn : isKnown);
  const others = addresses.filter((one) => !asGrants.includes(one));
  const grants = asGrants.map((address): MakingChange => ({ action: "new-grant", ...made, address }));
  if (others.length === 0) return grants;
  if (capabilities.namedLinks) return [...grants, { ...link, reach: "named", addresses: others, password: false }];
  instead.push(
    `${name} can’t make links for named people: ${listWords(others)} ${others.length === 1 ? "gets" : "get"} an open link with a passphrase, which nobody else is sent.`,
  );
  return [...grants, { ...link, reach: "open", addresses: [], password: true }];
}

function nothing(why: string, t: Seconds, instead = "Choose another item."): WishedChanges {
  return { changes: [], instead: [], cannot: [{ why, instead }], makeAt: t };
}

function distinct(all: { why: string; instead: string }[]) {
  return [...new Map(all.map((one) => [one.why, one])).values()];
}
