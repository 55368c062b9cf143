import { shownName } from "../text/shown";
import type { Problem } from "../estate/placed";
import { type Kind, ROLES } from "../estate/records";
import type { ChoiceField } from "./field";
import { type ReportItem, ReportItems } from "./reportItems";
import { ReportShare, ReportShares } from "./reportShares";
import type { AudienceTold, ItemTold, RowRead, RowTold, ShareTold } from "./row";
import { SharesByKey } from "./sharesByKey";

/** A text that somebody has to map, and how many rows have it. */
export interface Unmapped {
  field: ChoiceField;
  text: string;
  rows: number;
}

/** The most problems and remarks that are kept; more are only counted. */
const MOST_KEPT = 500;
/** Separates the parts of an id; file names don't contain it. */
const BETWEEN = " · ";

/** What a report says, row by row: its items, and who each is shared with. */
export class Report {
  rows = 0;
  understood = 0;
  refused = 0;
  left = 0;
  /** Rows whose access comes from a folder above that has it too. */
  inherited = 0;
  readonly problems: Problem[] = [];
  readonly leftOut: Problem[] = [];
  readonly remarks: Problem[] = [];
  remarked = 0;
  readonly items = new ReportItems();
  readonly shares = new ReportShares(this.items);
  private readonly byKey = new SharesByKey((number) => {
    const share = new ReportShare(this.shares, number);
    return keyOf(share.item, share, share.copy);
  });
  private readonly unmappedTexts = new Map<string, Unmapped>();
  /** Access said to be inherited: whether it is can only be checked once all rows are in. */
  private readonly waiting = new ReportShares(this.items);

  /** Takes in what a row says. @param row its number in the file, counted from 1 */
  add(row: number, read: RowRead) {
    if (read === null) return;
    this.rows++;
    if ("problem" in read) {
      this.refused++;
      keep(this.problems, { line: row, message: read.problem });
      if (read.unmapped) this.countUnmapped(read.unmapped);
    } else if ("left" in read) {
      this.left++;
      keep(this.leftOut, { line: row, message: read.left });
    } else {
      this.understood++;
      this.take(row, read);
    }
  }

  private take(row: number, { item: told, shares }: RowTold) {
    const item = this.itemFor(row, told);
    for (const share of shares)
      if (share.inherited) this.waiting.add(share, { item, row, copy: 1 });
      else this.put(row, item, share);
  }

  get unmapped(): Unmapped[] {
    return [...this.unmappedTexts.values()].sort((a, b) => b.rows - a.rows);
  }

  private countUnmapped({ field, text }: { field: ChoiceField; text: string }) {
    const known = this.unmappedTexts.get(`${field} ${text}`);
    if (known) known.rows++;
    else if (this.unmappedTexts.size < MOST_KEPT) this.unmappedTexts.set(`${field} ${text}`, { field, text, rows: 1 });
  }

  private remark(line: number, message: string) {
    this.remarked++;
    keep(this.remarks, { line, message });
  }

  private itemFor(row: number, told: ItemTold): ReportItem {
    const path = told.path && ["", ...told.path].join("/");
    const id = told.id ?? path!;
    const known = this.items.find(id);
    if (known) return this.again(row, known, told);
    const { name, kind, label = null, owner = null, inherits = true } = told;
    return this.items.add({ id, path, name, kind, label, owner, inherits, row });
  }

  /** Where several rows describe an item, the first that gives a value counts. */
  private again(row: number, known: ReportItem, told: ItemTold): ReportItem {
    const differs = <T>(name: string, before: T, now: T | null | undefined) => {
      if (now == null || now === before) return;
      if (before === null) return now;
      this.remark(row, `${shownName(known.name)} has another ${name} than on row ${known.row}, which counts`);
      return;
    };
    known.kind = differs("kind", known.kind, told.kind) ?? known.kind;
    known.label = differs("label", known.label, told.label) ?? known.label;
    known.owner = differs("owner", known.owner, told.owner) ?? known.owner;
    if (told.inherits !== undefined && told.inherits !== known.inherits) differs("setting for inheriting", true, false);
    return known;
  }

  /** A person with several kinds of access to an item has the strongest; further rows of a link add people. */
  private put(row: number, item: ReportItem, share: ShareTold) {
    for (let copy = 1; ; copy++) {
      const key = keyOf(item, share, copy);
      const number = this.byKey.find(key);
      const known = number === undefined ? undefined : new ReportShare(this.shares, number);
      if (known && !(known.item.number === item.number && canBeOne(known, share))) continue;
      if (known) addUp(known, share);
      else this.byKey.add(this.shares.add(share, { item, row, copy }).number, key);
      return;
    }
  }

  /** Finds out, once all rows are in, what is above each item and which access is inherited. */
  finish(): this {
    for (const item of this.items.values()) this.place(item);
    for (const share of this.waiting.values()) {
      const { row, item } = share;
      if (this.comesFromAbove(item, share)) this.inherited++;
      else {
        this.remark(
          row,
          `its access is said to be inherited, and no folder above it in the report has it: it is taken as its own`,
        );
        this.put(row, item, share);
      }
    }
    return this;
  }

  private place(item: ReportItem) {
    for (let at = item; at.path !== null && at.parent === null;) {
      const above = at.path.slice(0, at.path.lastIndexOf("/"));
      if (above === "") return;
      let parent = this.items.findAt(above);
      const isNew = parent === undefined;
      parent ??= this.folderAt(above);
      at.parent = parent;
      if (parent.kind === "file" && !parent.hasChildren)
        this.remark(
          parent.row,
          `${shownName(parent.name)} is told to be a file, and has something in it: it is taken as a folder`,
        );
      parent.hasChildren = true;
      if (!isNew) return;
      at = parent;
    }
  }

  private folderAt(path: string): ReportItem {
    let id = path;
    // An id of the store's own could be the same text.
    while (this.items.find(id)) id += "/";
    const name = path.slice(path.lastIndexOf("/") + 1);
    const folder = { id, path, name, kind: "folder" as const, label: null, owner: null, inherits: true, row: 0 };
    return Object.assign(this.items.add(folder), { hasChildren: true });
  }

  private comesFromAbove(item: ReportItem, share: ShareTold): boolean {
    const key = audienceKey(share.audience);
    for (let at = item; at.inherits && at.parent; at = at.parent)
      for (const above of this.sharesOn(at.parent))
        if (audienceKey(above.audience) === key && isAsStrong(above, share)) return true;
    return false;
  }

  private chains: { first: Int32Array; next: Int32Array } | undefined;
  private *sharesOn(item: ReportItem): Generator<ReportShare> {
    const { first, next } = (this.chains ??= this.chained());
    for (let number = first[item.number]; number >= 0; number = next[number])
      yield new ReportShare(this.shares, number);
  }

  /** By item: the number of its first share, or -1. By share: the next one on its item. */
  private chained() {
    const { items, shares } = this;
    const first = new Int32Array(items.size).fill(-1);
    const next = new Int32Array(shares.size);
    for (let number = shares.size - 1; number >= 0; number--) {
      const item = shares.item[number];
      next[number] = first[item];
      first[item] = number;
    }
    return { first, next };
  }
}

/** An item's kind: as told, or else by what it contains and by its name. */
export function kindOf({ kind, hasChildren, name }: ReportItem): Kind {
  if (hasChildren) return kind === "space" ? "space" : "folder";
  return kind ?? (/\.[a-z0-9]{1,8}$/i.test(name) ? "file" : "folder");
}

function keep(problems: Problem[], problem: Problem) {
  if (problems.length < MOST_KEPT) problems.push(problem);
}

function audienceKey(audience: AudienceTold): string {
  if ("person" in audience) return audience.person;
  if ("group" in audience) return `group ${audience.group}`;
  if ("reach" in audience) return `${audience.reach} link`;
  return `link for ${[...audience.people].sort().join(" ")}`;
}

/** Shares with one key may be one. */
function keyOf(item: ReportItem, share: ShareTold, copy: number): string {
  const told = share.id ?? share.url;
  const of = told === null ? `${item.number} ${audienceKey(share.audience)}` : `${told} ${personIn(share)}`;
  return `${of} ${copy}`;
}

/** A store may list one permission for several people, a row each: here each is a share of its own. */
function personIn({ audience }: Pick<ShareTold, "audience">): string {
  return "person" in audience ? audience.person : "";
}

/** What identifies a share from one report to the next: the report's id for it, or else its item and audience. */
export function shareId({ item, id, url, audience, madeOn, copy }: ReportShare): string {
  const told = id ?? url;
  const person = personIn({ audience });
  const isLink = "reach" in audience || "people" in audience;
  const parts =
    told === null
      ? [item.id, audienceKey(audience), ...(isLink && madeOn !== null ? [String(madeOn)] : [])]
      : [told, ...(person === "" ? [] : [person])];
  return [...parts, ...(copy === 1 ? [] : [String(copy)])].join(BETWEEN);
}

/** Whether two rows describe the same share. Links without an id are the same only if they are alike. */
function canBeOne(known: ReportShare, share: ShareTold): boolean {
  const told = share.id ?? share.url;
  const [a, b] = [known.audience, share.audience];
  if ("person" in a || "group" in a) return audienceKey(a) === audienceKey(b);
  if ("people" in a) return "people" in b && (told !== null || audienceKey(a) === audienceKey(b));
  const isAlike =
    known.madeOn === share.madeOn &&
    known.role === share.role &&
    known.password === share.password &&
    known.ends === share.ends;
  return "reach" in b && a.reach === b.reach && (told !== null || (isAlike && known.download === share.download));
}

/** Access adds up: the strongest role, the latest end, downloading where any row allows it. */
function addUp(known: ReportShare, share: ShareTold) {
  if ("people" in known.audience && "people" in share.audience)
    known.audience = { people: [...new Set([...known.audience.people, ...share.audience.people])] };
  if (strength(share.role) > strength(known.role)) known.role = share.role;
  known.download ||= share.download;
  known.password &&= share.password;
  known.ends = known.ends === null || share.ends === null ? null : Math.max(known.ends, share.ends);
  if (share.lastUsed !== null) known.lastUsed = Math.max(known.lastUsed ?? share.lastUsed, share.lastUsed);
  known.madeBy ??= share.madeBy;
}

function strength(role: ShareTold["role"]): number {
  return (ROLES as readonly string[]).indexOf(role);
}

function isAsStrong(above: ReportShare, share: ShareTold): boolean {
  const lasts = above.ends === null || (share.ends !== null && above.ends >= share.ends);
  return strength(above.role) >= strength(share.role) && lasts && (above.download || !share.download);
}
