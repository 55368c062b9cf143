import { isLiveShare } from "../access/live";
import { whoReaches } from "../access/reach";
import { idOfMade, withMade } from "../changes/making";
import type { MakingChange } from "../changes/change";
import { type Estate, sharesOn } from "../estate/estate";
import { labelFromWords } from "../estate/labelWords";
import { type Kind, type Label, LABELS } from "../estate/records";
import { shareSentence } from "../estate/shareWords";
import { countWithLabel, filesReached, inheritedFrom, liveBetween, placeOf } from "../estate/tree";
import { brokenBy, brokenByItem, bySeverity, type RuleSet } from "../rules/findings";
import { judgeShare, momentOf } from "../rules/judging";
import { type RuleId, RULES } from "../rules/list";
import { reasonFor } from "../rules/reasons";
import { countWords, type DayWords, dayWords } from "../text/words";
import { type Seconds } from "../time/instant";
import { type Asker, changesFor, type WishedChanges } from "./changesFor";
import { type AddressRemark, remarksOn } from "./remarks";
import type { Wish } from "./wish";

/** A rule that a share would break, or make an item break, and why. */
export interface WouldBreak {
  rule: RuleId;
  title: string;
  reason: string;
  /** Ids of the items that would break it; empty where the new share itself does. */
  items: string[];
}

/** What a share would be, were it made as somebody wishes. */
export interface ShareOutlook extends WishedChanges {
  item: { id: string; name: string; kind: Kind; place: string[]; label: Label; labelFrom: string };
  breaks: WouldBreak[];
  /** What each new share would do, in a sentence. */
  sentences: string[];
  /** What it would give away: live files, and of all live items how many have each label. */
  files: number;
  labels: Record<Label, number>;
  /** What else a folder gives away, and what could be shared instead; null where nothing speaks against it. */
  folder: string | null;
  addresses: AddressRemark[];
  /** Who could reach the item afterwards: anyone; how many by name. */
  after: { anyone: boolean; insiders: number; outsiders: number };
}

interface Told {
  rules: RuleSet;
  days?: DayWords;
}

/** Null where the item isn't here. Shares are judged at the instant from which they let people in. */
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

/** The rules that are broken once the shares are made, and weren't before. */
function wouldBreak(
  before: Estate,
  made: Estate,
  changes: readonly MakingChange[],
  t: Seconds,
  { rules, days }: Required<Told>,
): WouldBreak[] {
  const moment = momentOf(made, t, days);
  const found = new Map<RuleId, WouldBreak>();
  for (const change of changes) {
    const share = made.share(idOfMade(change))!;
    for (const rule of brokenBy(judgeShare(moment, share), moment, rules))
      found.set(rule, {
        rule,
        title: RULES[rule].title,
        reason: reasonFor(rule, made, share, t, rules, days),
        items: [],
      });
  }
  const [first] = changes;
  if (first) {
    const was = momentOf(before, t, days);
    for (const position of turningBelow(made, made.tree.position(first.itemId)!)) {
      const known = new Set(brokenByItem(was, position, rules));
      for (const rule of brokenByItem(moment, position, rules)) {
        if (known.has(rule)) continue;
        const reason = `${made.tree.nameAt(position)}: ${RULES[rule].title.toLowerCase()}.`;
        const one = found.get(rule) ?? { rule, title: RULES[rule].title, reason, items: [] };
        found.set(rule, { ...one, items: [...one.items, made.tree.idAt(position)] });
      }
    }
  }
  return [...found.values()].sort((a, b) => bySeverity(rules)(a.rule, b.rule));
}

/** The items that a share on a position reaches and on which shares sit: what lies between is no otherwise than they are. */
function turningBelow({ tree, shares }: Estate, position: number): number[] {
  const turning = new Set([position]);
  for (let slot = 0; slot < shares.count; slot++) {
    const at = shares.position[slot];
    if (at > position && at < tree.end[position] && tree.live[at] === 1) turning.add(at);
  }
  return [...turning];
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
  const end = tree.end[position];
  const sensitive = LABELS.indexOf("confidential");
  const count = [sensitive, sensitive + 1].reduce((sum, label) => sum + countWithLabel(tree, label, position, end), 0);
  const files = countWords(filesReached(tree, position), "file");
  const [below, more] = [
    liveBetween(tree, position, end) - 1,
    count > 0 ? `, ${count} of them confidential or restricted` : "",
  ];
  return below === 0
    ? "The folder is empty; whatever is put there later is shared too."
    : `${files} below${more}, and whatever is put there later. Share a file instead?`;
}

function reachedBy(estate: Estate, position: number, t: Seconds): ShareOutlook["after"] {
  const named = [...whoReaches(estate, t, position).keys()];
  const insiders = named.filter((index) => estate.people[index].insider).length;
  const anyone = inheritedFrom(estate.tree, position)
    .flatMap((at) => sharesOn(estate, at))
    .some((share) => share.audience === "open" && isLiveShare(estate, share, t));
  return { anyone, insiders, outsiders: named.length - insiders };
}
