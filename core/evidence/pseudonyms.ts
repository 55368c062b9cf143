import { domainOf, isHomeDomain, normaliseAddress, normaliseDomain, organisationOf } from "../estate/address";
import { withIds } from "../estate/naming";
import type { EstateRecord, PersonRecord } from "../estate/records";
import type { RegisterRow } from "../register/columns";
import type { Spoken, TrailEvent } from "../trail/event";

/** Shows who an outsider is, or replaces their name. */
export interface Naming {
  /** Of a mail address. */
  address(address: string): string;
  /** For words such as those of a share's audience: `Odile Carrowmede, quay.example`. */
  audience(words: string): string;
  /** For texts of ours or of a store's that can contain addresses. */
  text(text: string): string;
  /** For texts that somebody wrote. */
  written(text: string | null): string | null;
  row(row: RegisterRow): RegisterRow;
  event(event: TrailEvent): TrailEvent;
  record(record: EstateRecord): EstateRecord;
}

/** Everybody by their name. */
export const BY_NAME: Naming = {
  address: (address) => address,
  audience: (words) => words,
  text: (text) => text,
  written: (text) => text,
  row: (row) => row,
  event: (event) => event,
  record: (record) => record,
};

/** A keyed hash of a text, in hex: without the key nobody finds out whose pseudonym one is by trying names. */
export type Hmac = (text: string) => string;

const LEFT_OUT = "(left out)";
/** Enough hex digits for a million people: two have the same once in 37 million packs. */
const DIGITS = 16;
const ADDRESS = /[^\s<>"'(),:;]+@[^\s<>"'(),:;]+[^\s<>"'(),:;.]/g;
/** As in `3 at quay.example, 1 in-house`. */
const AT_DOMAIN = /(?<=\bat )[^\s,]+/g;

/**
 * Outsiders by pseudonyms: the same person has the same one everywhere in a pack, people of one organisation have the
 * same domain, which ends in `.invalid` (RFC 2606, section 2), and insiders stay who they are. What somebody wrote in words of their own is left
 * out, since it can name anybody; names of items, folders and groups stay.
 */
export class Pseudonyms implements Naming {
  /** Names that outsiders have, met so far, with their pseudonyms. */
  private readonly names = new Map<string, string>();

  constructor(
    private readonly hmac: Hmac,
    private readonly homeDomains: readonly string[],
  ) {}

  address(address: string): string {
    const plain = normaliseAddress(address);
    const domain = domainOf(plain);
    if (isHomeDomain(domain, this.homeDomains)) return address;
    return `p-${this.short(`address ${plain}`)}@${this.domain(domain)}`;
  }

  /** Of an organisation, or of a domain of one. */
  domain(domain: string): string {
    const plain = normaliseDomain(domain);
    if (isHomeDomain(plain, this.homeDomains)) return domain;
    return `o-${this.short(`organisation ${organisationOf(plain)}`)}.invalid`;
  }

  private short(text: string): string {
    return this.hmac(text).slice(0, DIGITS);
  }

  text(text: string): string {
    return text.replace(ADDRESS, (address) => this.address(address));
  }

  written(text: string | null): string | null {
    return text === null || text === "" ? text : LEFT_OUT;
  }

  audience(words: string): string {
    const comma = words.lastIndexOf(", ");
    const [name, domain] = [words.slice(0, comma), words.slice(comma + 2)];
    // One person, with their organisation; other words count people by where they are.
    if (comma > 0 && /^[^\s@]+\.[^\s@]+$/.test(domain)) return `${this.name(name)}, ${this.domain(domain)}`;
    return this.text(words).replace(AT_DOMAIN, (one) => this.domain(one));
  }

  /** For a name alone: the pseudonym, if its owner was met with an address before; otherwise just that it was a name. */
  private name(name: string): string {
    return this.names.get(name) ?? `p-${this.short(`name ${name}`)}`;
  }

  row(row: RegisterRow): RegisterRow {
    return {
      ...row,
      audience: this.audience(row.audience),
      organisations: row.organisations.map((one) => this.domain(one)),
      maker: this.names.get(row.maker) ?? row.maker,
      endedBy: row.endedBy && this.text(this.names.get(row.endedBy) ?? row.endedBy),
    };
  }

  event(event: TrailEvent): TrailEvent {
    const { who, share, whom } = event;
    return { ...event, who: this.spoken(who), share: this.spoken(share), whom: this.spoken(whom) };
  }

  private spoken(spoken: Spoken | null): Spoken | null {
    if (!spoken || spoken.kind === "item") return spoken;
    const people = spoken.people?.map((one) => this.address(one));
    if (spoken.kind === "share") return { ...spoken, name: this.audience(spoken.name), people };
    const isOutside = people !== undefined && people[0] !== spoken.people![0];
    return {
      ...spoken,
      name: isOutside ? people[0] : this.text(spoken.name),
      detail: this.text(spoken.detail),
      people,
    };
  }

  record(record: EstateRecord): EstateRecord {
    const plain = withIds(record, (_, id) => this.text(id));
    switch (plain.type) {
      case "person":
        return this.person(plain);
      case "group":
        return plain.email ? { ...plain, email: this.address(plain.email) } : plain;
      case "link":
        return { ...plain, recipients: plain.recipients.map((one) => ({ ...one, email: this.address(one.email) })) };
      case "party":
        return { ...plain, domain: this.domain(plain.domain) };
      case "engagement":
        return { ...plain, name: LEFT_OUT, organisations: plain.organisations.map((one) => this.domain(one)) };
      default:
        return plain;
    }
  }

  /** Learns a person’s name: whoever has it appears by their pseudonym where only the name stands. */
  meet({ name, email }: Pick<PersonRecord, "name" | "email">) {
    const pseudonym = this.address(email);
    if (pseudonym !== email) this.names.set(name, pseudonym);
  }

  private person(person: PersonRecord): EstateRecord {
    const email = this.address(person.email);
    if (email === person.email) return person;
    this.meet(person);
    return { ...person, email, name: email, department: null, managerId: null };
  }
}
