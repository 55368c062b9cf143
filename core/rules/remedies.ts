import type { Change } from "../changes/change";
import { planOf } from "../changes/plan";
import { verdictOn } from "../changes/verdict";
import type { Estate } from "../estate/estate";
import { sharesOn } from "../estate/estate";
import type { Person } from "../estate/principals";
import type { Share } from "../estate/share";
import { inheritedFrom } from "../estate/tree";
import { isLiveShare, isOutsideShare } from "../access/live";
import { countWords } from "../text/words";
import { ALWAYS, DAY, rfc3339, type Seconds } from "../time/instant";
import { DEFAULT_RULES, type RuleSet } from "./findings";
import { LATCH_OF_RULE } from "./latches";
import { knownSkeletons, lookedLike } from "./lookAlike";
import { stanceOf } from "./parties";
import type { RuleId } from "./ruleWords";

/** Something that would end a finding: what to stage, or why that can't be done in this store. */
export interface Remedy {
  words: string;
  /** In the order in which they have to be done; empty where it can't be done. */
  changes: Change[];
  /** What whoever stages it may choose otherwise: another end than the one that stands in it; or has to: for whom. */
  asks: "end" | "addresses" | null;
  why: string | null;
}

const MOST_PEOPLE = 20;
/** An end that a rule wants is set no further off than this. */
const LONGEST_END_DAYS = 30;
/** Stands for addresses that somebody has yet to name. */
const SOMEBODY = ["somebody@outside.example"];

interface Case {
  estate: Estate;
  share: Share;
  t: Seconds;
  parameters: Record<string, unknown>;
}

/** What ends a finding on a share, the mildest first; the last is always to end the share. */
export function remediesFor(
  rule: RuleId,
  estate: Estate,
  share: Share,
  t: Seconds,
  rules: RuleSet = DEFAULT_RULES,
): Remedy[] {
  const given: Case = { estate, share, t, parameters: rules[rule] ?? {} };
  return [...milder(rule, given), remedy(given, endWords(share), { action: "revoke", shareId: share.id })];
}

/** The first that can be done as it stands, with nothing left to be named. */
export function firstRemedy(remedies: readonly Remedy[]): Remedy | undefined {
  return remedies.find(({ why, asks }) => why === null && asks !== "addresses");
}

function milder(rule: RuleId, given: Case): Remedy[] {
  const { share, estate } = given;
  const shareId = share.id;
  switch (rule) {
    case "open-password":
      return [remedy(given, "Give it a password", { action: "set-password", shareId }), narrowing(given)];
    case "intake-password":
      return [remedy(given, "Give it a password", { action: "set-password", shareId })];
    case "weak-password":
    case "reused-password":
      return [remedy(given, "Give it a new password", { action: "set-password", shareId })];
    case "open-edit":
      return [remedy(given, "Let them only view", { action: "set-role", shareId, role: "view" }), narrowing(given)];
    case "outside-edit-folder":
      return [remedy(given, "Let them only view", { action: "set-role", shareId, role: "view" })];
    case "outside-manage":
      return [remedy(given, "Let them edit, not manage", { action: "set-role", shareId, role: "edit" })];
    case "open-forbidden":
    case "open-many":
    case "house-listed":
      return [narrowing(given)];
    case "outside-download":
      return [remedy(given, "Block downloads", { action: "block-download", shareId })];
    case "party-denied":
      return without(given, (person) => stanceOf(estate, person) === "denied");
    case "personal-mailbox":
      return without(given, (person) => stanceOf(estate, person) === "personal");
    case "look-alike": {
      const known = knownSkeletons(estate);
      return without(given, (person) => lookedLike(person.organisation, known) !== undefined);
    }
    case "outsider-in-group":
      return without(given, () => true);
    default:
      return LATCH_OF_RULE[rule] === "expiry" ? [ending(given)] : [];
  }
}

function endWords({ isLink }: Share): string {
  return isLink ? "Revoke the link" : "Take the right back";
}

/** An end as far off as the rule lets it be. */
function ending(given: Case): Remedy {
  const { t, share, parameters } = given;
  const days = Math.min(parameters.maxDays as number, LONGEST_END_DAYS);
  const expiresAt = rfc3339(t + Math.max(Math.floor(days * DAY), 1));
  const byStore = remedy(given, "Give it an end date", { action: "set-expiry", shareId: share.id, expiresAt }, "end");
  if (byStore.changes[0]?.action === "set-expiry") return byStore;
  // The store keeps no such end, or wants more notice than the rule gives: we end it ourselves.
  return remedy(given, "Have it revoked on a day", { action: "order-revoke", shareId: share.id, on: expiresAt }, "end");
}

function narrowing(given: Case): Remedy {
  const words = "Make it for named people";
  return remedy(given, words, { action: "narrow", shareId: given.share.id, addresses: SOMEBODY }, "addresses");
}

/** Takes some of its outsiders off a named link, or out of the group, where they are few. */
function without(given: Case, isMeant: (person: Person) => boolean): Remedy[] {
  const { estate, share } = given;
  const people = [...share.outsiders].map((index) => estate.people[index]).filter(isMeant);
  const who = people.length === 1 ? people[0].address : countWords(people.length, "person", "people");
  if (people.length === 0 || people.length > MOST_PEOPLE) return [];
  if (share.isLink && share.reach === "named") {
    const changes = people.map(({ address }): Change => ({ action: "drop-recipient", shareId: share.id, address }));
    return [whole(given, `Take ${who} off it`, changes)];
  }
  if (share.group < 0) return [];
  const { id, name } = estate.principals.groups[share.group];
  // Whoever is in it by another group too would be in it still.
  const stays = ({ index }: Person) => estate.principals.groupsOf(index, new Set([share.group])).has(share.group);
  if (people.some(stays)) return [];
  const changes = people.map(({ address }): Change => ({ action: "leave-group", groupId: id, address }));
  return [whole(given, `Take ${who} out of the group ${name}`, changes)];
}

function remedy(given: Case, words: string, intent: Change, asks: Remedy["asks"] = null): Remedy {
  return whole(given, words, planOf(given.estate, intent), asks);
}

function whole({ estate, t }: Case, words: string, changes: Change[], asks: Remedy["asks"] = null): Remedy {
  for (const change of changes) {
    const verdict = verdictOn(estate, change, t, changes);
    if (!verdict.can) return { words, changes: [], asks, why: `${verdict.why} ${verdict.instead}` };
  }
  return { words, changes, asks, why: null };
}

/** What ends a finding on an item: over the shares that make it one. */
export function itemRemedies(
  rule: RuleId,
  estate: Estate,
  position: number,
  t: Seconds,
  rules: RuleSet = DEFAULT_RULES,
): Remedy[] {
  const parameters = rules[rule] ?? {};
  const over = (words: string, intent: (shareId: string) => Change, shares: Share[]) => {
    const changes = shares.flatMap((share) => planOf(estate, intent(share.id)));
    return shares.length === 0 ? [] : [whole({ estate, share: shares[0], t, parameters }, words, changes)];
  };
  const revoke = (shareId: string): Change => ({ action: "revoke", shareId });
  if (rule === "block-bypassed") {
    const undoing = inheritedFrom(estate.tree, position)
      .flatMap((at) => sharesOn(estate, at))
      .filter((share) => isOutsideShare(estate, share, t) && share.download);
    const what = countWords(undoing.length, "share");
    return [
      ...over(`Block downloads on ${what} too`, (shareId) => ({ action: "block-download", shareId }), undoing),
      ...over(`Revoke ${what} that undo it`, revoke, undoing),
    ];
  }
  if (rule !== "link-pile") return [];
  const links = sharesOn(estate, position).filter((share) => share.isLink && isLiveShare(estate, share, t));
  links.sort((a, b) => (a.lastUsed ?? ALWAYS) - (b.lastUsed ?? ALWAYS));
  const surplus = links.slice(0, Math.max(links.length - (parameters.max as number), 0));
  return over(`Revoke the ${countWords(surplus.length, "link")} used longest ago`, revoke, surplus);
}
