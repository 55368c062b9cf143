import { setImmediate } from "node:timers/promises";
import type { Estate, Settled } from "@/core/estate/estate";
import { Choices } from "@/core/query/choices";
import { countedOf, type Facet, type FacetName, facet } from "@/core/query/facets";
import { type ChoiceName, isLookedUp, type LookedUp } from "@/core/query/fields";
import { funnelOf } from "@/core/query/funnel";
import { withUseUnknown } from "@/core/query/edit";
import { Listing } from "@/core/query/listing";
import { type Order, SortColumns, SORTS } from "@/core/query/order";
import type { GroupOrder } from "@/core/query/totals";
import { type Grouping, Outline } from "@/core/query/outline";
import { parseQuery } from "@/core/query/parse";
import { printQuery } from "@/core/query/print";
import { fieldOf, isUnknownTest, type Query, type Term } from "@/core/query/query";
import { flagsOfPhrase } from "@/core/query/phrases";
import { Places } from "@/core/query/places";
import { IN_ANY_STATE } from "@/core/query/revoked";
import { type FlagsOfPhrase, lookUpKey, Selector } from "@/core/query/select";
import { Words } from "@/core/query/words";
import type { Funnel, PageAsked, RegisterLine, RegisterPage } from "@/core/query/page";
import { Register } from "@/core/register/register";
import type { RegisterRow } from "@/core/register/columns";
import { registerRow } from "@/core/register/row";
import { NEVER, type Seconds } from "@/core/time/instant";
import { csvLineOf } from "@/core/register/cells";

/** What was found holds so long: nobody reads an age to the minute, and pages of one list go together. */
const LISTING_HOLDS_S = 60;
const LISTINGS_HELD = 8;
const PHRASES_HELD = 64;
const VALUES_TOLD = 20;

/** Ids of the shares that a docket, or a round, is about, whatever has become of them. */
export type LookingUp = Record<Exclude<LookedUp, "share">, (id: string) => Promise<string[]>>;

interface Held {
  listing: Listing;
  at: Seconds;
  version: number;
  outline?: { key: string; outline: Outline };
}

/** Answers about the register: it brings the columns to an instant, and asks them. */
export class Book {
  private readonly sorts: SortColumns;
  readonly choices: Choices;
  readonly selector: Selector;
  private readonly places: Places;
  private readonly words: Words;
  private readonly listings = new Map<string, Held>();
  private readonly phrases = new Map<string, Uint8Array>();
  /** The version of the register whose sorts are all worked out. */
  private prepared = 0;

  constructor(
    readonly estate: Estate,
    /** Ids of the shares that a docket, or a round, is about. */
    private readonly looked: LookingUp = { docket: async () => [], round: async () => [] },
    readonly register = new Register(estate),
  ) {
    this.sorts = new SortColumns(this.register);
    this.choices = new Choices(this.register);
    this.selector = new Selector(this.register, this.choices);
    this.places = new Places(this.register);
    this.words = new Words(this.register);
  }

  /** Learns what has changed in the estate. */
  take(settled: Settled) {
    this.register.take(settled);
    this.words.take(settled);
    this.phrases.clear();
  }

  /** Brings the columns to t. */
  at(t: Seconds): Register {
    if (this.register.at(t).length > 0) this.phrases.clear();
    return this.register;
  }

  async page(asked: PageAsked, t: Seconds): Promise<RegisterPage> {
    const query = parseQuery(asked.query);
    const held = await this.held(query, asked.order, t);
    const { listing } = held;
    const common = {
      total: this.register.listedSlots.length,
      found: listing.length,
      problems: query.problems,
      useUnknown: await this.useUnknown(query.terms, t),
    };
    if (asked.group === null) {
      const slot = asked.behind === undefined ? undefined : this.estate.shares.find(asked.behind);
      const from = slot === undefined ? asked.from : listing.behind(slot);
      const slots = Array.from(listing.slots(from, asked.count));
      const page = slots.map((slot): RegisterLine => ({
        kind: "share",
        row: registerRow(this.register, slot),
        depth: 0,
      }));
      return { ...common, lines: listing.length, from, page };
    }
    const outline = this.outline(held, asked.group, asked.open, asked.groups);
    const page = this.lines(outline, asked.from, asked.count);
    return { ...common, lines: outline.length, from: asked.from, page };
  }

  private async useUnknown(terms: readonly Term[], t: Seconds): Promise<number | null> {
    const asksForUse = (term: Term) => fieldOf(term) === "used" && term.kind === "moment";
    if (this.estate.asAt === NEVER || !terms.some((one) => asksForUse(one) && !isUnknownTest(one))) return null;
    return (await this.found(withUseUnknown(terms), t)).length;
  }

  /** Slots of all that a query finds. */
  slots(text: string, t: Seconds): Promise<Uint32Array> {
    return this.found(parseQuery(text).terms, t);
  }

  /** Ids of all that a query finds. */
  async ids(text: string, t: Seconds): Promise<string[]> {
    const found = await this.slots(text, t);
    const ids = new Array<string>(found.length);
    for (let i = 0; i < ids.length; i++) ids[i] = this.estate.shares.idOf(found[i]);
    return ids;
  }

  /** Rows of what a query finds, in its order: the first, or those that follow a share. */
  async some(
    asked: { query: string; order: Order; behind?: string; count: number },
    t: Seconds,
  ): Promise<RegisterRow[]> {
    const { listing } = await this.held(parseQuery(asked.query), asked.order, t);
    const slot = asked.behind === undefined ? undefined : this.estate.shares.find(asked.behind);
    const from = slot === undefined ? 0 : listing.behind(slot);
    return Array.from(listing.slots(from, asked.count), (one) => registerRow(this.register, one));
  }

  /** The same as lines of CSV, safe to open in a spreadsheet; the last share's id where more may follow. */
  async csv(asked: Parameters<Book["some"]>[0], t: Seconds): Promise<{ lines: string; last?: string }> {
    const rows = await this.some(asked, t);
    const last = rows.length < asked.count ? undefined : rows[asked.count - 1].id;
    return { lines: rows.map(csvLineOf).join(""), last };
  }

  /** Ids of what a query finds, and of the items that it lies on, all above them included. */
  async extract(text: string, t: Seconds): Promise<{ shares: string[]; items: string[] }> {
    const found = await this.found(parseQuery(text).terms, t);
    const { tree, shares } = this.estate;
    const items = new Set<number>();
    for (const slot of found)
      for (let at = shares.position[slot]; at >= 0 && !items.has(at); at = tree.parent[at]) items.add(at);
    return { shares: Array.from(found, (slot) => shares.idOf(slot)), items: Array.from(items, (at) => tree.idAt(at)) };
  }

  async counts(queries: readonly string[], t: Seconds): Promise<number[]> {
    const counts: number[] = [];
    for (const text of queries) counts.push((await this.found(parseQuery(text).terms, t)).length);
    return counts;
  }

  async funnel(text: string, t: Seconds): Promise<Funnel> {
    const { terms } = parseQuery(text);
    this.at(t);
    const flags = await this.flagsOf(terms);
    return funnelOf(this, terms, t, flags);
  }

  /** More of one facet's values, those with some text in them. */
  async facet(asked: { query: string; field: FacetName; text: string; most: number }, t: Seconds): Promise<Facet> {
    const rest = parseQuery(asked.query).terms.filter((term) => fieldOf(term) !== asked.field);
    const others = asked.field === "state" ? [...rest, IN_ANY_STATE] : rest;
    const counted = countedOf(this.register, await this.found(others, t));
    return facet(this.choices, counted, asked.field, asked.text, asked.most);
  }

  /** Values that a field has anywhere, to complete what is being typed. */
  async values(field: ChoiceName, text: string, t: Seconds): Promise<{ value: string; title: string }[]> {
    if (isLookedUp(field)) return [];
    if (field === "for") {
      this.at(t);
      const isAsked = this.choices.asked("for", [{ text, exact: false }]);
      const people = this.estate.everybody.filter(({ index }) => isAsked[index] === 1);
      return people.slice(0, VALUES_TOLD).map(({ address, name }) => ({ value: address, title: name }));
    }
    const counted = countedOf(this.register, await this.found([], t));
    const { top } = facet(this.choices, counted, field as FacetName, text, VALUES_TOLD);
    return top.map(({ value, title }) => ({ value, title }));
  }

  rows(ids: readonly string[], t: Seconds): RegisterRow[] {
    const register = this.at(t);
    return ids
      .map((id) => this.estate.shares.find(id))
      .filter((slot) => slot !== undefined && register.isKnown(slot))
      .map((slot) => registerRow(register, slot!));
  }

  /**
   * Works out by what shares are sorted, one thing after the other, so that whoever sorts by it first needn't wait;
   * what is asked meanwhile is answered in between.
   */
  async prepare() {
    const { version } = this.register;
    if (this.prepared === version) return;
    for (const by of SORTS)
      for (const reversed of [false, true]) {
        await setImmediate();
        if (this.register.version !== version) return;
        this.sorts.keys([{ by, reversed }]);
      }
    this.prepared = version;
  }

  private lines(outline: Outline, from: number, count: number): RegisterLine[] {
    return outline
      .page(from, count)
      .map((line) =>
        "slot" in line
          ? { kind: "share", row: registerRow(this.register, line.slot), depth: line.depth }
          : { kind: "group", ...outline.headAt(line.head) },
      );
  }

  private outline(held: Held, by: Grouping, open: readonly string[], groups: GroupOrder = "first"): Outline {
    const key = [by, groups, ...open].join("\n");
    if (held.outline?.key !== key)
      held.outline = { key, outline: new Outline(this.register, by, held.listing.all(), open, groups) };
    return held.outline.outline;
  }

  /** What a query finds in an order; the same for all pages of it, as long as nothing changes. */
  private async held(query: Query, order: Order, t: Seconds): Promise<Held> {
    const { version } = this.at(t);
    const key = `${JSON.stringify(order)} ${printQuery(query.terms)}`;
    // What is in a docket changes while the register stays as it is.
    const isOfDocket = query.terms.some((term) => isLookedUp(fieldOf(term)));
    const known = isOfDocket ? undefined : this.listings.get(key);
    if (known && known.version === version && Math.abs(t - known.at) < LISTING_HOLDS_S) return known;
    const held = {
      listing: new Listing(await this.found(query.terms, t), this.sorts.keys(order)),
      at: t,
      version,
    };
    this.listings.delete(key);
    this.listings.set(key, held);
    if (this.listings.size > LISTINGS_HELD) this.listings.delete(this.listings.keys().next().value!);
    return held;
  }

  /** Slots of the shares that meet some terms, in the order of the slots. */
  private async found(terms: readonly Term[], t: Seconds): Promise<Uint32Array> {
    this.at(t);
    return this.selector.select(terms, t, await this.flagsOf(terms));
  }

  /** Looks up every phrase, and all else that stands in no column, among some terms. */
  private async flagsOf(terms: readonly Term[]): Promise<FlagsOfPhrase> {
    const flags = new Map<string, Uint8Array>();
    for (const term of terms)
      if (term.kind === "words") for (const phrase of term.values) flags.set(phrase, this.look(phrase));
      else if (term.kind === "choice" && isLookedUp(term.field))
        for (const { text } of term.values)
          flags.set(lookUpKey(term.field, text), await this.flagsOfLookedUp(term.field, text));
    return (phrase) => flags.get(phrase)!;
  }

  /** By slot: 1 where something that is looked up by its id is about the share. */
  private async flagsOfLookedUp(field: LookedUp, id: string): Promise<Uint8Array> {
    const flags = new Uint8Array(this.register.length);
    for (const shareId of field === "share" ? [id] : await this.looked[field](id)) {
      const slot = this.estate.shares.find(shareId);
      if (slot !== undefined) flags[slot] = 1;
    }
    return flags;
  }

  private look(phrase: string): Uint8Array {
    const known = this.phrases.get(phrase);
    if (known) return known;
    const flags = flagsOfPhrase(this.register, this.places, phrase, this.words.find(phrase));
    if (this.phrases.size >= PHRASES_HELD) this.phrases.clear();
    this.phrases.set(phrase, flags);
    return flags;
  }
}
