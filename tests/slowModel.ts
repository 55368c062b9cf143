import { domainToASCII } from "node:url";
import type { EstateRecord, GrantRecord, ItemRecord, LinkRecord, PersonRecord, RecordOf } from "@/core/estate/records";

/**
 * The model of who reaches what, said again as slowly and plainly as it can be said: no order of items, no
 * columns, nothing kept. It shares no code with the core, so that the two can be held against each other.
 * Domains end in `.example`, where the registrable domain is always the last two labels.
 */
export class SlowModel {
  private readonly people: { ids: string[]; address: string; active: boolean }[] = [];
  private readonly items: ItemRecord[];
  private readonly members: RecordOf<"member">[];
  private readonly grants: GrantRecord[];
  private readonly links: LinkRecord[];
  private readonly home: string[];

  constructor(records: readonly EstateRecord[]) {
    const of = <T extends EstateRecord["type"]>(type: T) => records.filter((one) => one.type === type) as RecordOf<T>[];
    this.items = of("item");
    this.members = of("member");
    this.grants = of("grant");
    this.links = of("link");
    this.home = of("estate")[0].homeDomains.map((domain) => domainToASCII(domain));
    for (const person of of("person") as PersonRecord[])
      this.meet(plain(person.email), person.id, person.status === "active");
    for (const link of this.links)
      for (const { email } of link.recipients)
        if (!this.people.some(({ address }) => address === plain(email))) this.meet(plain(email), "", true);
  }

  private meet(address: string, id: string, active: boolean) {
    const known = this.people.find((one) => one.address === address);
    if (known) known.ids.push(id);
    if (known) known.active ||= active;
    else this.people.push({ ids: [id], address, active });
  }

  get addresses(): string[] {
    return this.people.map(({ address }) => address);
  }

  isInsider(address: string): boolean {
    const domain = address.split("@")[1];
    return this.home.some((home) => domain === home || domain.endsWith("." + home));
  }

  private item(id: string | null): ItemRecord | undefined {
    return this.items.find((one) => one.id === id);
  }

  isLive(id: string): boolean {
    const item = this.item(id)!;
    return item.state === "live" && (item.parentId === null || this.isLive(item.parentId));
  }

  /** The items whose shares reach an item. */
  private reachedFrom(id: string): string[] {
    const item = this.item(id)!;
    return item.inherits && item.parentId !== null ? [id, ...this.reachedFrom(item.parentId)] : [id];
  }

  private isOn(share: GrantRecord | LinkRecord, t: number): boolean {
    const at = (text: string | null | undefined) => (text ? Date.parse(text) / 1000 : null);
    const [end, revoked] = [at(share.expiresAt), at(share.revokedAt)];
    if ((end !== null && end <= t) || (revoked !== null && revoked <= t)) return false;
    if (share.type === "grant") return true;
    const opens = at(share.opensAt);
    return (opens === null || opens <= t) && (share.maxUses === null || share.uses < share.maxUses);
  }

  /** Whether an id is a person's, or a group's that holds them, directly or by groups however nested. */
  private means(id: string, personIds: string[], seen: string[] = []): boolean {
    if (personIds.includes(id)) return true;
    if (seen.includes(id)) return false;
    return this.members.some((one) => one.groupId === id && this.means(one.memberId, personIds, [...seen, id]));
  }

  /** Ids of the shares (and ownerships) by which somebody reaches an item. `byName`: without open and house links. */
  ways(address: string, itemId: string, t: number, byName = true): string[] {
    const person = this.people.find((one) => one.address === address)!;
    if (!this.isLive(itemId)) return [];
    const ways: string[] = [];
    for (const id of this.reachedFrom(itemId)) {
      const owner = this.item(id)!.ownerId;
      if (owner !== null && person.active && person.ids.includes(owner)) ways.push(`owner:${id}`);
      for (const grant of this.grants)
        if (grant.itemId === id && this.isOn(grant, t) && person.active && this.means(grant.toId, person.ids))
          ways.push(grant.id);
      for (const link of this.links)
        if (link.itemId === id && this.isOn(link, t) && this.lets(link, person, byName)) ways.push(link.id);
    }
    return ways.sort();
  }

  private lets(link: LinkRecord, person: { address: string; active: boolean }, byName: boolean): boolean {
    if (link.role === "deposit") return false;
    if (link.reach === "named")
      return person.active && link.recipients.some(({ email }) => plain(email) === person.address);
    return !byName && (link.reach === "open" || (person.active && this.isInsider(person.address)));
  }

  /** How many insiders and outsiders reach an item by name, of which organisations, and whether it is open to anyone or to the house. */
  exposure(itemId: string, t: number) {
    if (!this.isLive(itemId)) return null;
    const here = this.addresses.filter((address) => this.ways(address, itemId, t).length > 0);
    const outsiders = here.filter((address) => !this.isInsider(address));
    const reaching = this.links.filter(
      (link) => this.reachedFrom(itemId).includes(link.itemId) && link.role !== "deposit" && this.isOn(link, t),
    );
    const open = reaching.filter(({ reach }) => reach === "open");
    const organisations = outsiders.map((address) => address.split("@")[1].split(".").slice(-2).join("."));
    return {
      open: open.length > 0,
      openKeyed: open.length > 0 && open.every((link) => link.password),
      house: reaching.some(({ reach }) => reach === "house"),
      insiders: here.length - outsiders.length,
      outsiders: outsiders.length,
      organisations: [...new Set(organisations)].sort(),
    };
  }
}

function plain(address: string): string {
  const [mailbox, domain] = address.trim().toLowerCase().split("@");
  return `${mailbox}@${domainToASCII(domain)}`;
}
