import { isLiveShare } from "../access/live";
import { whoReaches } from "../access/reach";
import { idOfMade, withMade } from "../changes/making";
import type { MakingChange } from "../changes/change";
import { type Estate, sharesOn } from "../estate/estate";
import { labelFromWords } from "../estate/labelWords";
import { type Kind, type Label, LABELS } from "../estate/records";
import { Share } from "../estate/share";
import { shareSentence } from "../estate/shareWords";
import { countWithLabel, filesReached, inheritedFrom, liveBetween, placeOf } from "../estate/tree";
import { brokenBy, bySeverity, itemsBreaking, type RuleSet } from "../rules/findings";
import { judgeShare, momentOf } from "../rules/judging";
import { RULE_IDS, type RuleId, RULES } from "../rules/list";
import { reasonFor } from "../rules/reasons";
import { countWords, type DayWords, dayWords } from "../text/words";
import { type Seconds } from "../time/instant";
import { type Asker, changesFor, type WishedChanges } from "./changesFor";
import { type AddressRemark, remarksOn } from "./remarks";
import type { Wish } from "./wish";

/** A rule that a share would break, or cause to be broken, and why. */
export interface WouldBreak {
  rule: RuleId;
  title: string;
  reason: string;
  /** Whether the new share itself breaks it. */
  own: boolean;
  /** Ids of what else would break it: items, or other shares on the item. */
  items: string[];
  /** Whether a waiver can be given: not for more items than anybody could intend. */
  canWaive: boolean;
}

/** What a share would be if it were made as wished. */
export interface ShareOutlook extends WishedChanges {
  item: { id: string; name: string; kind: Kind; place: string[]; label: Label; labelFrom: string };
  breaks: WouldBreak[];
  /** What each new share would do, in a sentence. */
  sentences: string[];
  /** What it would give access to: the number of live files, and of live items by label. */
  files: number;
  labels: Record<Label, number>;
  /** What else the folder would give access to, and what could be shared instead; null where there is no objection. */
  folder: string | null;
  addresses: AddressRemark[];
  /** Who could reach the item afterwards: anyone, or how many people by name. */
  after: { anyone: boolean; insiders: number; outsiders: number };
}

interface Told {
  rules: RuleSet;
  days?: DayWords;
}

/** Null where the item doesn't exist here. Shares are judged at the instant when they begin. */
export function shareOutlook(
  estate: Estate,
  wish: Wish,
  asker: Asker,
  t: Seconds,
  { rules, days = dayWords }: Told,
): ShareOutlook | null {
  const { tree } = estate;
  const position = tree.position(wish.itemId);
  if (position === undefined) return null;
  const wished = changesFor(estate, wish, asker, t);
  const possible = wished.cannot.length === 0 ? wished.changes : [];
  const from = startOf(possible, wished.makeAt);
  const made = withMade(estate, possible, wished.makeAt);
  const named = wish.to === "anyone" ? wish.mailTo : wish.to;
  return {
    ...wished,
    item: {
      id: wish.itemId,
      name: tree.nameAt(position),
      kind: tree.kindAt(position),
      place: placeOf(tree, position),
      label: LABELS[tree.label[position]],
      labelFrom: labelFromWords(estate, position),
    },
    breaks: wouldBreak(estate, made, possible, from, { rules, days }),
    sentences: possible.map((change) => shareSentence(made, made.share(idOfMade(change))!, days)),
    ...givenAway(estate, position),
    folder: folderCaution(estate, position),
    addresses: remarksOn(estate, named),
    after: reachedBy(made, position, from),
  };
}

function startOf(changes: readonly MakingChange[], makeAt: Seconds): Seconds {
  const opens = changes.map((one) =>
    one.action === "new-link" && one.opensAt ? Date.parse(one.opensAt) / 1_000 : makeAt,
  );
  return Math.max(makeAt, ...opens);
}

/** The rules that the new shares cause to be broken. */
function wouldBreak(
  before: Estate,
  made: Estate,
  changes: readonly MakingChange[],
  t: Seconds,
  { rules, days }: Required<Told>,
): WouldBreak[] {
  if (changes.length === 0) return [];
  const moment = momentOf(made, t, days);
  const found = new Map<RuleId, WouldBreak>();
  for (const change of changes) {
    const share = made.share(idOfMade(change))!;
    for (const rule of brokenBy(judgeShare(moment, share), moment, rules)) {
      const reason = reasonFor(rule, made, share, t, rules, days);
      found.set(rule, { rule, title: RULES[rule].title, reason, own: true, items: [], canWaive: true });
    }
  }
  for (const [rule, shareIds] of othersBroken(before, made, changes[0].itemId, { rules, days, t })) {
    const reason = `Another share of it would break this: ${reasonFor(rule, made, made.share(shareIds[0])!, t, rules, days)}`;
    const one = found.get(rule) ?? { rule, title: RULES[rule].title, reason, own: false, items: [], canWaive: true };
    found.set(rule, { ...one, items: shareIds });
  }
  const position = made.tree.position(changes[0].itemId)!;
  const was = itemsBroken(before, position, t, rules);
  for (const [rule, positions] of itemsBroken(made, position, t, rules)) {
    const known = new Set(was.get(rule));
    const items = positions.filter((at) => !known.has(at));
    if (items.length > 0) found.set(rule, brokenOn(made, rule, items));
  }
  return [...found.values()].sort((a, b) => bySeverity(rules)(a.rule, b.rule));
}

/** By rule: other shares on an item that the new ones cause to break it. */
function othersBroken(
  before: Estate,
  made: Estate,
  itemId: string,
  { rules, days, t }: Required<Told> & { t: Seconds },
): Map<RuleId, string[]> {
  const [was, is] = [momentOf(before, t, days), momentOf(made, t, days)];
  const found = new Map<RuleId, string[]>();
  for (const share of sharesOn(before, before.tree.position(itemId)!)) {
    const known = brokenBy(judgeShare(was, share), was, rules);
    for (const rule of brokenBy(judgeShare(is, made.share(share.id)!), is, rules))
      if (!known.includes(rule)) found.set(rule, [...(found.get(rule) ?? []), share.id]);
  }
  return found;
}

/** Waivers are given item by item, and nobody intends to give more than this. */
const MOST_WAIVED = 200;

function brokenOn({ tree }: Estate, rule: RuleId, positions: readonly number[]): WouldBreak {
  const { title } = RULES[rule];
  const what = positions.length === 1 ? tree.nameAt(positions[0]) : countWords(positions.length, "item");
  const canWaive = positions.length <= MOST_WAIVED;
  const items = canWaive ? positions.map((at) => tree.idAt(at)) : [];
  return { rule, title, reason: `On ${what}.`, own: false, items, canWaive };
}

/** By rule: items within reach of a share on a position that break it. Only shares that reach them are examined. */
function itemsBroken(estate: Estate, position: number, t: Seconds, rules: RuleSet): Map<RuleId, number[]> {
  const { tree } = estate;
  const moment = momentOf(estate, t);
  const judging = { moment, shares: sharesInto(estate, position).map((share) => judgeShare(moment, share)) };
  const isReached = (at: number) => at >= position && at < tree.end[position];
  const onItems = RULE_IDS.filter((id) => rules[id] && RULES[id].items);
  return new Map(onItems.map((id) => [id, itemsBreaking(id, judging, rules[id]!).filter(isReached)]));
}

/** The shares that reach an item, or anything that a share on it would reach. */
function sharesInto(estate: Estate, position: number): Share[] {
  const { tree, shares } = estate;
  const above = new Set(inheritedFrom(tree, position));
  const found: Share[] = [];
  for (let slot = 0; slot < shares.count; slot++) {
    const at = shares.position[slot];
    if (at >= 0 && (above.has(at) || (at > position && at < tree.end[position]))) found.push(new Share(estate, slot));
  }
  return found;
}

function givenAway({ tree }: Estate, position: number): Pick<ShareOutlook, "files" | "labels"> {
  const end = tree.end[position];
  const labels = Object.fromEntries(
    LABELS.map((label, index) => [label, countWithLabel(tree, index, position, end)]),
  ) as Record<Label, number>;
  return { files: filesReached(tree, position), labels };
}

function folderCaution({ tree }: Estate, position: number): string | null {
  if (tree.kindAt(position) === "file") return null;
  const [below, end] = [position + 1, tree.end[position]];
  if (liveBetween(tree, below, end) === 0) return "The folder is empty; whatever is put there later is shared too.";
  const count = SENSITIVE.reduce((sum, label) => sum + countWithLabel(tree, LABELS.indexOf(label), below, end), 0);
  const more = count > 0 ? `, with ${countWords(count, "confidential or restricted item")}` : "";
  const files = countWords(filesReached(tree, position), "file");
  return `${files} below${more}, and whatever is put there later. Share a file instead?`;
}
const SENSITIVE: readonly Label[] = ["confidential", "restricted"];

function reachedBy(estate: Estate, position: number, t: Seconds): ShareOutlook["after"] {
  const named = [...whoReaches(estate, t, position).keys()];
  const insiders = named.filter((index) => estate.people[index].insider).length;
  const anyone = inheritedFrom(estate.tree, position)
    .flatMap((at) => sharesOn(estate, at))
    .some((share) => share.audience === "open" && isLiveShare(estate, share, t));
  return { anyone, insiders, outsiders: named.length - insiders };
}
