import type { Settled } from "../estate/estate";
import type { Person } from "../estate/principals";
import type { Register } from "../register/register";
import { piecesOf, wordsIn } from "../text/text";
import type { PhraseHits } from "./phrases";

/** What a line of the words is about: its id is four times an index, and this. */
const KINDS = { item: 0, person: 1, group: 2, store: 3 } as const;
/** So many names may be new or changed before everything is gathered again; until then each is looked at by itself. */
const MOST_LATER = 20_000;

/** One text with a line for each name, ` word word`, and where each line ends and what it is about. */
interface Lines {
  text: string;
  ends: Uint32Array;
  ids: Int32Array;
}

/**
 * The words in names and addresses: of items that shares lie on and all above them, of people, groups and stores. They
 * are kept in one text, since searching some million characters for a phrase takes less time than keeping an index of
 * them up to date; they are gathered when somebody first asks.
 */
export class Words {
  private lines: Lines | null = null;
  /** By id: what has another name than in the lines, or isn't there. */
  private readonly later = new Map<number, string>();
  /** By slot of an item: 1 where it is in the lines, or has come later. */
  private inUse = new Uint8Array();
  /** So many people are in the lines, or have come later: a link can name somebody who wasn't known before. */
  private peopleKnown = 0;

  constructor(private readonly register: Register) {}

  /** Learns what has changed in the estate. */
  take({ whole, groupsOnly, stores, shares, renamed }: Settled) {
    if (!this.lines) return;
    if ((whole && !groupsOnly) || stores || this.later.size > MOST_LATER) {
      this.lines = null;
      this.later.clear();
      return;
    }
    const { items, people } = this.register.estate;
    for (const person of people.slice(this.peopleKnown))
      this.later.set(person.index * 4 + KINDS.person, [...namesOf(person)].map(lineOf).join(""));
    this.peopleKnown = people.length;
    for (const slot of renamed) this.later.set(slot * 4 + KINDS.item, lineOf(items.names.get(slot)));
    for (const slot of this.itemsOf(shares)) this.later.set(slot * 4 + KINDS.item, lineOf(items.names.get(slot)));
  }

  /** Where a phrase occurs: its words one after the other, the last perhaps only its beginning. */
  find(phrase: string): PhraseHits {
    const wanted = lineOf(phrase).slice(0, -1);
    const lists: number[][] = [[], [], [], []];
    if (wanted.trim() !== "") for (const id of this.idsWith(wanted)) lists[id & 3].push(id >> 2);
    const stores = [...this.register.estate.stores.keys()];
    return {
      items: lists[KINDS.item],
      people: lists[KINDS.person],
      groups: lists[KINDS.group],
      stores: lists[KINDS.store].map((index) => stores[index]),
    };
  }

  private *idsWith(wanted: string): Generator<number> {
    const { text, ends, ids } = (this.lines ??= this.gathered());
    let line = 0;
    for (let at = text.indexOf(wanted); at >= 0; at = text.indexOf(wanted, ends[line])) {
      while (ends[line] <= at) line++;
      if (!this.later.has(ids[line])) yield ids[line];
    }
    for (const [id, later] of this.later) if (later.includes(wanted)) yield id;
  }

  private gathered(): Lines {
    const texts: string[] = [];
    const ids: number[] = [];
    const ends: number[] = [];
    let end = 0;
    for (const [id, name] of this.names()) {
      const line = lineOf(name);
      texts.push(line);
      ids.push(id);
      ends.push((end += line.length));
    }
    return { text: texts.join(""), ends: Uint32Array.from(ends), ids: Int32Array.from(ids) };
  }

  private *names(): Generator<[id: number, name: string]> {
    const { items, people, principals, stores } = this.register.estate;
    this.inUse = new Uint8Array(items.parent.length);
    for (const slot of this.itemsOf(this.allShares())) yield [slot * 4 + KINDS.item, items.names.get(slot)];
    for (const person of people) for (const name of namesOf(person)) yield [person.index * 4 + KINDS.person, name];
    this.peopleKnown = people.length;
    for (const [index, { name }] of principals.groups.entries()) yield [index * 4 + KINDS.group, name];
    for (const [index, { name }] of [...stores.values()].entries()) yield [index * 4 + KINDS.store, name];
  }

  private *allShares(): Generator<number> {
    for (let slot = 0; slot < this.register.length; slot++) yield slot;
  }

  /** Slots of the items that some shares lie on, and of all above them, that weren't in use before. */
  private *itemsOf(slots: Iterable<number>): Generator<number> {
    const { tree, shares, items } = this.register.estate;
    if (this.inUse.length < items.parent.length) this.inUse = grown(this.inUse, items.parent.length);
    for (const slot of slots)
      for (let at = shares.position[slot]; at >= 0; at = tree.parent[at]) {
        const item = tree.slotAt[at];
        if (this.inUse[item] === 1) break;
        this.inUse[item] = 1;
        yield item;
      }
  }
}

function* namesOf({ name, address }: Person): Generator<string> {
  if (name !== address) yield name;
  yield address;
}

/** A name as a line: our own words and pieces, each with a space before it. */
function lineOf(name: string): string {
  return ` ${piecesOf(wordsIn(name)).join(" ")}\n`;
}

function grown(flags: Uint8Array, length: number): Uint8Array<ArrayBuffer> {
  const longer = new Uint8Array(length);
  longer.set(flags);
  return longer;
}
