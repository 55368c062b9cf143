import type { Register } from "../register/register";
import { placeOf } from "../estate/tree";
import { byText, fold } from "../text/text";
import { type GroupOrder, type GroupTotals, Totals } from "./totals";

export const GROUPINGS = ["item", "organisation", "maker", "folder"] as const;
export type Grouping = (typeof GROUPINGS)[number];

/** The line above shares that have something in common: totals of those found, including everything below. */
export interface GroupHead extends GroupTotals {
  key: string;
  title: string;
  /** What tells it apart from others of the same name. */
  detail: string;
  depth: number;
  isOpen: boolean;
}

/** One line of the register where it is grouped. */
export type Line = { head: number } | { slot: number; depth: number };

const NOBODY = -1;

/**
 * Shares under the heads of groups, of which those that are open show theirs. Groups come in the order of their
 * first shares; folders by name, each with the shares on it and on its files before what lies below.
 */
export class Outline {
  // By head, in the order in which they are shown.
  private readonly codes: number[] = [];
  private readonly depths: number[] = [];
  /** The number under which its totals stand. */
  private readonly places: number[] = [];
  private totals: Totals;
  /** Where its rows stand in `rows`; nothing while it is closed. */
  private readonly rowsFrom: number[] = [];
  /** The line of each head, and behind the last the number of lines. */
  private readonly lines: number[] = [0];
  private rows: Uint32Array = new Uint32Array(0);
  private readonly open: Set<number>;

  /** @param sorted slots of the shares found, in order */
  constructor(
    private readonly register: Register,
    private readonly by: Grouping,
    sorted: Uint32Array,
    open: readonly string[],
    private readonly groupOrder: GroupOrder = "first",
  ) {
    this.totals = new Totals(register, by === "folder" ? register.estate.tree.length : 0);
    this.open = new Set(open.map((key) => this.codeOf(key)).filter((code) => code !== undefined));
    if (by === "folder") this.layFolders(sorted);
    else this.layGroups(sorted);
  }

  get length(): number {
    return this.lines.at(-1)!;
  }

  get groups(): number {
    return this.codes.length;
  }

  /** The lines from one on. */
  page(from: number, count: number): Line[] {
    const page: Line[] = [];
    let head = this.headOf(from);
    for (let line = from; line < Math.min(from + count, this.length); line++) {
      while (line >= this.lines[head + 1]) head++;
      const within = line - this.lines[head];
      page.push(
        within === 0 ? { head } : { slot: this.rows[this.rowsFrom[head] + within - 1], depth: this.depths[head] + 1 },
      );
    }
    return page;
  }

  headAt(head: number): GroupHead {
    const code = this.codes[head];
    const totals = this.totals.of(this.places[head]);
    return { ...this.words(code), ...totals, depth: this.depths[head], isOpen: this.open.has(code) };
  }

  private headOf(line: number): number {
    let low = 0;
    let high = this.codes.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.lines[middle] <= line) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  private addHead(code: number, depth: number, place: number, rowsFrom: number, rowsTo: number) {
    const shown = this.open.has(code) ? rowsTo - rowsFrom : 0;
    this.codes.push(code);
    this.depths.push(depth);
    this.places.push(place);
    this.rowsFrom.push(rowsFrom);
    this.lines.push(this.length + 1 + shown);
  }

  private layGroups(sorted: Uint32Array) {
    const groups = new Map<number, number>();
    const counts: number[] = [];
    this.eachGroup(sorted, (_, code) => {
      let group = groups.get(code);
      if (group === undefined) groups.set(code, (group = counts.push(0) - 1));
      counts[group]++;
    });
    this.totals = new Totals(this.register, counts.length);
    const ends: number[] = [];
    let end = 0;
    for (const count of counts) ends.push((end += count));
    const next = ends.map((at, group) => at - counts[group]);
    this.rows = new Uint32Array(end);
    this.eachGroup(sorted, (slot, code) => {
      const group = groups.get(code)!;
      this.rows[next[group]++] = slot;
      this.totals.add(group, slot);
    });
    for (const [code, group] of this.inOrder([...groups], ([code]) => this.words(code).title))
      this.addHead(code, 0, group, ends[group] - counts[group], ends[group]);
  }

  /** Groups in the order asked for; equal ones keep their order. */
  private inOrder(
    groups: (readonly [code: number, place: number])[],
    titleOf: (group: readonly [number, number]) => string,
  ) {
    if (this.groupOrder === "first") return groups;
    if (this.groupOrder !== "name") return groups.sort(([, a], [, b]) => this.totals.compare(this.groupOrder, a, b));
    const titles = new Map(groups.map((group) => [group[0], fold(titleOf(group))]));
    return groups.sort(([a], [b]) => byText(titles.get(a)!, titles.get(b)!));
  }

  /** One group for each share, but one for each organisation of its outsiders. */
  private eachGroup(sorted: Uint32Array, visit: (slot: number, code: number) => void) {
    const { register } = this;
    for (const slot of sorted) {
      if (this.by === "item") visit(slot, register.estate.shares.item[slot]);
      else if (this.by === "maker") visit(slot, register.maker[slot] - 1);
      else {
        const organisations = register.organisationSets.get(register.organisations[slot]);
        for (const one of organisations) visit(slot, one);
        if (organisations.length === 0) visit(slot, NOBODY);
      }
    }
  }

  private layFolders(sorted: Uint32Array) {
    const { tree } = this.register.estate;
    const { totals } = this;
    for (const slot of sorted) totals.add(this.folderOf(slot), slot);
    for (let position = tree.length - 1; position >= 0; position--)
      if (tree.parent[position] >= 0) totals.addAll(tree.parent[position], position);
    const below = this.childrenOfOpen();
    const rowsOf = this.rowsOfOpen(sorted);
    this.rows = new Uint32Array([...rowsOf.values()].reduce((sum, slots) => sum + slots.length, 0));
    let at = 0;
    const lay = (position: number, depth: number) => {
      const rows = rowsOf.get(position) ?? [];
      this.rows.set(rows, at);
      this.addHead(position, depth, position, at, at + rows.length);
      at += rows.length;
      for (const child of below.get(position) ?? []) lay(child, depth + 1);
    };
    for (const top of below.get(NOBODY) ?? []) lay(top, 0);
  }

  /** Positions below each open folder that hold anything found, by name where nothing else is asked for; the top ones below -1. */
  private childrenOfOpen(): Map<number, number[]> {
    const { tree } = this.register.estate;
    const children = new Map<number, number[]>();
    for (let position = 0; position < tree.length; position++) {
      const parent = tree.parent[position];
      if (this.totals.count(position) === 0 || (parent >= 0 && !this.open.has(parent))) continue;
      const among = children.get(parent);
      if (among) among.push(position);
      else children.set(parent, [position]);
    }
    for (const among of children.values()) {
      const names = new Map(among.map((position) => [position, fold(tree.nameAt(position))]));
      const byName = (a: number, b: number) => byText(names.get(a)!, names.get(b)!) || a - b;
      among.sort((a, b) => this.totals.compare(this.groupOrder, a, b) || byName(a, b));
    }
    return children;
  }

  /** Position of the folder that a share is listed under: the one that it is on, or that holds its file. */
  private folderOf(slot: number): number {
    const { tree, shares } = this.register.estate;
    const position = shares.position[slot];
    return tree.kindAt(position) === "file" && tree.parent[position] >= 0 ? tree.parent[position] : position;
  }

  private rowsOfOpen(sorted: Uint32Array): Map<number, number[]> {
    const rows = new Map<number, number[]>();
    for (const slot of sorted) {
      const folder = this.folderOf(slot);
      if (!this.open.has(folder)) continue;
      const among = rows.get(folder);
      if (among) among.push(slot);
      else rows.set(folder, [slot]);
    }
    return rows;
  }

  private codeOf(key: string): number | undefined {
    const { items, principals, tree } = this.register.estate;
    if (key === "") return NOBODY;
    if (this.by === "item") return items.find(key);
    if (this.by === "folder") return tree.position(key);
    if (this.by === "maker") return principals.findAddress(key);
    const organisation = principals.organisations.indexOf(key);
    return organisation < 0 ? undefined : organisation;
  }

  private words(code: number): Pick<GroupHead, "key" | "title" | "detail"> {
    const { items, people, principals, tree, stores } = this.register.estate;
    switch (this.by) {
      case "item":
      case "folder": {
        const position = this.by === "folder" ? code : tree.positionOf[code];
        const id = tree.idAt(position);
        const store = stores.get(tree.storeIdAt(position))?.name ?? "";
        const place = this.by === "folder" && tree.parent[position] >= 0 ? [] : [store, ...placeOf(tree, position)];
        return { key: id, title: items.names.get(tree.slotAt[position]), detail: place.join(" / ") };
      }
      case "maker":
        if (code === NOBODY) return { key: "", title: "Nobody known", detail: "" };
        return { key: people[code].address, title: people[code].name, detail: people[code].address };
      case "organisation":
        if (code === NOBODY)
          return { key: "", title: "No outsider by name", detail: "whoever has the address, or all our own people" };
        return { key: principals.organisations[code], title: principals.organisations[code], detail: "" };
    }
  }
}
