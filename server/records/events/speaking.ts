import { byBelief, type Sourced } from "@/core/estate/believed";
import { shownRecord } from "@/core/estate/shownRecord";
import { sql } from "kysely";
import { domainOf, isHomeDomain, normaliseAddress, normaliseDomain, organisationOf } from "@/core/estate/address";
import type {
  EstateRecord,
  EventRecord,
  Label,
  RecordOf,
  RecordType,
  ShareRecord,
  Stance,
} from "@/core/estate/records";
import { LABELS } from "@/core/estate/records";
import type { Party, Spoken, SpokenParts } from "@/core/trail/event";
import { countWords } from "@/core/text/words";
import type { Reads } from "../../platform/db/open";
import { beliefIn } from "../belief";

/** What an event refers to, and whether any of it was never seen. */
export interface SpokenOf {
  parts: SpokenParts;
  isUnknown: boolean;
}

interface Version<R> {
  record: R;
  from: string;
}

const MOST_PEOPLE = 50;
const SOME_NAMES = 3;

/**
 * Finds what events speak of, as it was when they happened, from the facts with their periods. What was looked up once
 * is held until facts change: ask anew for a `Speaking` whenever they may have.
 */
export class Speaking {
  private readonly held = new Map<string, Promise<Version<EstateRecord>[]>>();
  /** `versions` says of which time it holds; nothing where it and all above it were never otherwise. */
  private readonly spokenItems = new Map<string, { spoken: Spoken; versions: string | null }>();
  private readonly spokenPeople = new Map<RecordOf<"person">, Spoken>();
  private readonly spokenLinks = new Map<ShareRecord, Spoken>();
  private readonly peopleByAddress = new Map<string, string>();
  private homeDomains: string[] = [];
  private readonly stances = new Map<string, Stance>();

  private constructor(private db: Reads) {}

  static async about(db: Reads): Promise<Speaking> {
    const speaking = new Speaking(db);
    const rows = await db
      .selectFrom("fact")
      .select(["source", "body"])
      .where("type", "in", ["estate", "person", "party"])
      .where("to", "is", null)
      .execute();
    const told = rows.map(({ source, body }): Sourced => ({ ...shownRecord(JSON.parse(body)), source }));
    // The most trusted sources come last, so that their word stands.
    for (const one of told.sort(byBelief(await beliefIn(db))).reverse()) speaking.note(one);
    return speaking;
  }

  /** The same, but reading within a transaction from now on. */
  within(db: Reads): this {
    this.db = db;
    return this;
  }

  async of(
    record: Pick<EventRecord, "at" | "actorId" | "actorEmail" | "itemId" | "shareId" | "target">,
  ): Promise<SpokenOf> {
    const { at } = record;
    const share = record.shareId ? await this.shareAt(record.shareId, at) : null;
    const who = record.actorId ? await this.personAt(record.actorId, at) : this.someone(record.actorEmail ?? null, at);
    const itemId = record.itemId ?? share?.itemId;
    const item = itemId ? await this.itemAt(itemId, at) : null;
    const whom = record.target ? await this.targetAt(record.target, at) : null;
    return {
      parts: { who: await who, item: item?.spoken ?? null, share: share?.spoken ?? null, whom },
      isUnknown: [item, share].some((one) => one !== null && !one.isKnown) || (await this.isStranger(record)),
    };
  }

  private note(record: EstateRecord) {
    if (record.type === "estate") this.homeDomains = record.homeDomains.map(normaliseDomain);
    if (record.type === "party") this.stances.set(normaliseDomain(record.domain), record.stance);
    if (record.type === "person") this.peopleByAddress.set(normaliseAddress(record.email), record.id);
  }

  private async isStranger({ actorId }: Pick<EventRecord, "actorId">): Promise<boolean> {
    return actorId !== null && (await this.versions("person", actorId)).length === 0;
  }

  private async personAt(id: string, at: string): Promise<Spoken> {
    const person = as(await this.versions<RecordOf<"person">>("person", id), at);
    if (!person) return { kind: "person", key: id, name: id, detail: "" };
    let spoken = this.spokenPeople.get(person);
    if (!spoken) this.spokenPeople.set(person, (spoken = this.person(person.email, person.name)));
    return spoken;
  }

  /** Somebody known only by an address. */
  private async someone(email: string | null, at: string): Promise<Spoken | null> {
    if (email === null) return null;
    const id = this.peopleByAddress.get(normaliseAddress(email));
    return id === undefined ? this.person(email, email) : this.personAt(id, at);
  }

  private person(email: string, name: string): Spoken {
    const address = normaliseAddress(email);
    return { kind: "person", key: address, name, detail: address, people: [address], ...this.outsiders([address]) };
  }

  private outsiders(addresses: readonly string[]): Pick<Spoken, "organisations" | "parties"> {
    const domains = addresses.map(domainOf).filter((domain) => !isHomeDomain(domain, this.homeDomains));
    // While no home domains are set, nobody is outside.
    if (domains.length === 0 || this.homeDomains.length === 0) return {};
    const parties = domains.map(
      (one): Party => this.stances.get(organisationOf(one)) ?? this.stances.get(one) ?? "other",
    );
    return { organisations: [...new Set(domains.map(organisationOf))].sort(), parties: [...new Set(parties)].sort() };
  }

  private async itemAt(id: string, at: string): Promise<{ spoken: Spoken; isKnown: boolean }> {
    const held = this.spokenItems.get(id);
    if (held?.versions === null) return { spoken: held.spoken, isKnown: true };
    const chain: RecordOf<"item">[] = [];
    let versions = "";
    let isFixed = true;
    for (let next: string | null = id; next !== null && !chain.some((one) => one.id === next);) {
      const known: Version<RecordOf<"item">>[] = await this.versions<RecordOf<"item">>("item", next);
      const record = as(known, at);
      if (!record) break;
      versions += `${known.findIndex((one) => one.record === record)} `;
      isFixed &&= known.length === 1;
      chain.push(record);
      next = record.parentId;
    }
    if (chain.length === 0)
      return { spoken: { kind: "item", key: id, name: id, detail: "", path: [id] }, isKnown: false };
    if (held?.versions === versions) return { spoken: held.spoken, isKnown: true };
    const spoken = itemFrom(chain);
    this.spokenItems.set(id, { spoken, versions: isFixed ? null : versions });
    return { spoken, isKnown: true };
  }

  private async shareAt(id: string, at: string) {
    const versions = await this.shareVersions(id);
    const record = as(versions, at);
    if (!record) return { spoken: { kind: "share", key: id, name: id, detail: "" } satisfies Spoken, isKnown: false };
    const held = this.spokenLinks.get(record);
    if (held) return { spoken: held, isKnown: true, itemId: record.itemId };
    const addresses = await this.addressesOf(record, at);
    const spoken: Spoken = {
      kind: "share",
      key: id,
      name: shareName(record),
      detail: addresses.length > SOME_NAMES ? countWords(addresses.length, "person", "people") : addresses.join(", "),
      ...(addresses.length > 0 && { people: addresses.slice(0, MOST_PEOPLE) }),
      ...this.outsiders(addresses),
    };
    // The recipient of a grant may be renamed later; a link itself says whom it is for.
    if (record.type === "link") this.spokenLinks.set(record, spoken);
    return { spoken, isKnown: true, itemId: record.itemId };
  }

  private async shareVersions(id: string): Promise<Version<ShareRecord>[]> {
    const links = await this.versions<RecordOf<"link">>("link", id);
    return links.length > 0 ? links : this.versions<RecordOf<"grant">>("grant", id);
  }

  private async addressesOf(share: ShareRecord, at: string): Promise<string[]> {
    if (share.type === "link") return share.recipients.map(({ email }) => normaliseAddress(email)).sort();
    const person = as(await this.versions<RecordOf<"person">>("person", share.toId), at);
    return person ? [normaliseAddress(person.email)] : [];
  }

  private async targetAt(target: string, at: string): Promise<Spoken> {
    if (target.includes("@")) return (await this.someone(target, at))!;
    const person = as(await this.versions<RecordOf<"person">>("person", target), at);
    if (person) return this.person(person.email, person.name);
    const group = as(await this.versions<RecordOf<"group">>("group", target), at);
    if (group) return { kind: "other", key: target, name: group.name, detail: "" };
    return { kind: "other", key: target, name: target, detail: "" };
  }

  /** All versions of a record, the oldest first. */
  private versions<R extends EstateRecord>(type: RecordType, key: string): Promise<Version<R>[]> {
    const name = `${type}\n${key}`;
    let held = this.held.get(name);
    if (!held) this.held.set(name, (held = this.look(type, key)));
    return held as Promise<Version<R>[]>;
  }

  private async look(type: RecordType, key: string): Promise<Version<EstateRecord>[]> {
    const { rows } = await sql<{ body: string; from: string | null }>`
      select body, "from" from fact where type = ${type} and key = ${key} order by id`.execute(this.db);
    return rows.map(({ body, from }) => ({ record: shownRecord(JSON.parse(body)), from: from ?? "" }));
  }
}

/** What held at an instant; for a time before we knew of it, the first that we knew. */
function as<R>(versions: readonly Version<R>[], at: string): R | undefined {
  return (versions.findLast(({ from }) => from <= at) ?? versions[0])?.record;
}

/** @param chain the item, and all above it */
function itemFrom(chain: readonly RecordOf<"item">[]): Spoken {
  const label: Label = chain.find((one) => one.label !== null)?.label ?? LABELS[1];
  return {
    kind: "item",
    key: chain[0].id,
    name: chain[0].name,
    detail: chain
      .slice(1)
      .map(({ name }) => name)
      .reverse()
      .join(" / "),
    label,
    path: chain.map(({ id }) => id).reverse(),
  };
}

function shareName(share: ShareRecord): string {
  if (share.type === "grant") return "Grant";
  if (share.role === "deposit") return "Intake link";
  return { open: "Open link", house: "House link", named: "Named link" }[share.reach];
}
