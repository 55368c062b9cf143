import { countLive, type Ranges, union } from "../access/ranges";
import { type WayIn, WaysIn } from "../access/waysIn";
import type { Estate } from "../estate/estate";
import { countWords, lastDayWords } from "../text/words";
import { seconds, type Seconds } from "../time/instant";
import { eachInSteps, finish, type Steps } from "../time/steps";
import { alteredBy } from "../changes/altered";
import { type Careful, carefulOf } from "./careful";
import { type Action, type Change, isMaking, isReopening, subjectOf } from "../changes/change";
import { withMade } from "../changes/making";
import { type Effect, type Effects, effectsInSteps, firstLive } from "./effects";
import { type ItemLoss, lossesByItem, lossesByOrganisation, type OrganisationLoss } from "./losses";
import { passingOn } from "../changes/telling";
import { settingsWords } from "../changes/undo";
import { verdictOn } from "../changes/verdict";

/** Some items: how many, and the names of the first few. */
export interface SomeItems {
  count: number;
  names: string[];
}

/** A share that still lets somebody in, in a few words. */
export interface Way {
  share: string;
  words: string;
}

/** What a docket does to somebody, or to all holders of a link's address. */
export interface EffectWords {
  loses: SomeItems;
  /** What the docket affects but they still reach, and by which shares. */
  keeps: SomeItems;
  gains: SomeItems;
  ways: Way[];
}

export interface PersonEffect extends EffectWords {
  address: string;
  name: string;
  insider: boolean;
  organisation: string;
}

export interface Preview {
  /** How many changes of each kind can be made. */
  counts: Partial<Record<Action, number>>;
  people: PersonEffect[];
  /** For the holders of an open link's address. */
  anyone: EffectWords;
  /** For everybody whom a house link lets in. */
  house: EffectWords;
  /** The same losses by organisation, and by item for the first few hundred. */
  organisations: OrganisationLoss[];
  items: ItemLoss[];
  /** How many different items outsiders lose. */
  itemsLostOutside: number;
  /** Links whose address stops working for good. */
  addressesStopping: number;
  /** Old passwords that are replaced; nobody here knows them. */
  passwordsReplaced: number;
  impossible: { subject: string; name: string; why: string; instead: string }[];
  /** Shares that end later, with the day; `byOrder` where we end them ourselves, since their store can't. */
  later: { shareId: string; itemName: string; on: string; byOrder: boolean }[];
  /** Shares that are over and are reopened until a day, which no tightening does. */
  reopened: { shareId: string; itemName: string; until: string }[];
  /** What becomes stricter for people who keep access. */
  tighter: { shareId: string; itemName: string; words: string }[];
  /** What is restored. */
  back: { shareId: string; itemName: string; words: string }[];
  /** Who has to be sent a new address, link by link. */
  newAddresses: { shareId: string; itemName: string; addresses: string[] }[];
  /** What somebody may want to remove before anything is done. */
  careful: Careful;
}

const NAMES_SHOWN = 5;

/**
 * What a set of changes would do at t, computed on the estate as it would be: nobody counts as losing
 * an item that another share, link or ownership still lets them reach.
 */
export function previewOf(known: Estate, changes: readonly Change[], t: Seconds, waysInNow?: WaysIn): Preview {
  return finish(previewInSteps(known, changes, t, waysInNow));
}

/** The same, piece by piece: for ten thousand changes it takes a second. */
export function* previewInSteps(
  known: Estate,
  changes: readonly Change[],
  t: Seconds,
  waysInNow?: WaysIn,
): Steps<Preview> {
  const among = changesByShare(changes);
  const verdicts = yield* eachInSteps(changes, (change) => ({
    change,
    verdict: verdictOn(known, change, t, among(change)),
  }));
  const possible = verdicts.filter(({ verdict }) => verdict.can).map(({ change }) => change);
  const estate = withMade(known, possible, t, true);
  const waysIn = estate === known && waysInNow ? waysInNow : new WaysIn(estate);
  yield;
  const effects = yield* effectsInSteps(estate, waysIn, alteredBy(estate, possible), t);
  return {
    ...(yield* lossesOf(estate, effects)),
    ...linksTold(estate, possible),
    impossible: verdicts.flatMap(({ change, verdict }) =>
      verdict.can
        ? []
        : [
            {
              subject: subjectOf(change),
              name: subjectName(estate, change),
              why: verdict.why,
              instead: verdict.instead,
            },
          ],
    ),
    ...changesTold(estate, possible),
    careful: carefulOf(estate, possible, effects, t),
  };
}

/** Who loses, keeps and gains what. */
function* lossesOf(estate: Estate, effects: Effects) {
  const people = yield* eachInSteps(effects.people, ([index, effect]): PersonEffect => {
    const { address, name, insider, organisation } = estate.people[index];
    return { address, name, insider, organisation, ...effectWords(estate, effect) };
  });
  for (const [address, effect] of effects.strangers)
    people.push({ ...estate.principals.describe(address), name: address, ...effectWords(estate, effect) });
  const outside = [...effects.people].filter(([index]) => !estate.people[index].insider).map(([, effect]) => effect);
  const crowds = { anyone: effectWords(estate, effects.anyone), house: effectWords(estate, effects.house) };
  yield;
  const organisations = lossesByOrganisation(estate, effects);
  yield;
  const items = lossesByItem(estate, effects);
  yield;
  return {
    people: people.sort((a, b) => Number(a.insider) - Number(b.insider) || b.loses.count - a.loses.count),
    ...crowds,
    organisations,
    items,
    itemsLostOutside: countLive(estate.tree, together([...outside, effects.anyone])),
  };
}

/** What becomes of addresses and passwords. */
function linksTold(estate: Estate, possible: readonly Change[]) {
  const revoked = possible.filter((one) => one.action === "revoke");
  const rekeyed = possible.filter((one) => one.action === "set-password");
  return {
    addressesStopping: revoked.filter(({ shareId }) => estate.share(shareId)!.isLink).length,
    passwordsReplaced: rekeyed.filter(({ shareId }) => estate.share(shareId)!.hasPassword).length,
    newAddresses: possible.flatMap((one) =>
      one.action === "make-link" || one.action === "remake-link"
        ? [{ shareId: one.shareId, itemName: subjectName(estate, one), addresses: toldOf(estate, one) }]
        : [],
    ),
  };
}

/** The changes themselves, counted. */
function changesTold(estate: Estate, possible: readonly Change[]) {
  return {
    counts: countsOf(possible),
    later: possible.flatMap((one) => laterWords(estate, one)),
    reopened: possible.flatMap((one) =>
      isReopening(one)
        ? [{ shareId: one.shareId, itemName: subjectName(estate, one), until: lastDayWords(seconds(one.expiresAt)) }]
        : [],
    ),
    tighter: possible.flatMap((one) => tighterWords(estate, one)),
    back: possible.flatMap((one) =>
      one.action === "put-back"
        ? [{ shareId: one.shareId, itemName: subjectName(estate, one), words: settingsWords(one.was) }]
        : [],
    ),
  };
}

/** The other changes on the same share. */
function changesByShare(changes: readonly Change[]): (change: Change) => Change[] {
  const ofShare = new Map<string, Change[]>();
  const shareOf = (change: Change) =>
    "shareId" in change ? change.shareId : isMaking(change) ? change.replaces : undefined;
  for (const change of changes) {
    const share = shareOf(change);
    if (share !== undefined) ofShare.set(share, [...(ofShare.get(share) ?? []), change]);
  }
  return (change) => ofShare.get(shareOf(change) ?? "") ?? [];
}

function laterWords(estate: Estate, change: Change): Preview["later"] {
  if ((change.action !== "set-expiry" && change.action !== "order-revoke") || isReopening(change)) return [];
  const byOrder = change.action === "order-revoke";
  const on = lastDayWords(seconds(byOrder ? change.on : change.expiresAt));
  return [{ shareId: change.shareId, itemName: subjectName(estate, change), on, byOrder }];
}

function tighterWords(estate: Estate, change: Change): Preview["tighter"] {
  const words = tighterBy(estate, change);
  return words === null || !("shareId" in change)
    ? []
    : [{ shareId: change.shareId, itemName: subjectName(estate, change), words }];
}

function tighterBy(estate: Estate, change: Change): string | null {
  switch (change.action) {
    case "set-password":
      return "needs a password, which has to be handed over";
    case "block-download":
      return "no more downloads";
    case "set-role":
      return `${estate.share(change.shareId)!.role} becomes ${change.role}`;
    case "narrow":
      return `only for ${countWords(change.addresses.length, "named person", "named people")}`;
    default:
      return null;
  }
}

function countsOf(changes: readonly Change[]): Preview["counts"] {
  const counts: Preview["counts"] = {};
  for (const { action } of changes) counts[action] = (counts[action] ?? 0) + 1;
  return counts;
}

function together(effects: Effect[]): Ranges {
  return union(effects.flatMap(({ loses }) => [...loses]));
}

/** Who has to be sent a new address: those whom the link is for, or else somebody who passes it on. */
function toldOf(estate: Estate, change: Extract<Change, { action: "make-link" | "remake-link" }>): string[] {
  if (change.action === "make-link") return change.addresses;
  const { shares, people } = estate;
  const share = estate.share(change.shareId)!;
  const passesOn = passingOn(estate, change.shareId);
  if (share.reach !== "named") return passesOn < 0 ? [] : [people[passesOn].address];
  const recipients = shares.recipients.subarray(shares.recipientsFrom[share.slot], shares.recipientsTo[share.slot]);
  return Array.from(recipients, (one) => people[one].address).sort();
}

/** The name of what a change is about; its id where that isn't here any more. */
export function subjectName(estate: Estate, change: Change): string {
  const { tree, principals } = estate;
  if ("groupId" in change) {
    const group = principals.findGroup(change.groupId);
    return group === undefined ? change.groupId : principals.groups[group].name;
  }
  const id = "itemId" in change ? change.itemId : change.shareId;
  const position = "itemId" in change ? tree.position(id) : estate.share(id)?.position;
  return position === undefined ? id : tree.nameAt(position);
}

function effectWords(estate: Estate, { loses, keeps, gains, waysLeft }: Effect): EffectWords {
  return {
    loses: someItems(estate, loses),
    keeps: someItems(estate, keeps),
    gains: someItems(estate, gains),
    ways: waysLeft.map((way) => wayWords(estate, way)),
  };
}

export function someItems(estate: Estate, ranges: Ranges): SomeItems {
  const names = firstLive(estate, ranges, NAMES_SHOWN).map((at) => estate.tree.nameAt(at));
  return { count: countLive(estate.tree, ranges), names };
}

function wayWords(estate: Estate, { share, position }: WayIn): Way {
  const { tree, shares, principals } = estate;
  const name = tree.nameAt(position);
  if (share < 0) return { share: `owner:${tree.idAt(position)}`, words: `owns ${name}` };
  const id = shares.idOf(share);
  if (shares.isLink(share)) return { share: id, words: `${shares.reachOf(share)} link on ${name}` };
  const group = principals.groupOf[shares.to[share]];
  const words = group >= 0 ? `group ${principals.groups[group].name}` : `right to ${estate.share(id)!.role}`;
  return { share: id, words: `${words} on ${name}` };
}
