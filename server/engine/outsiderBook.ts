import type { WaysIn } from "@/core/access/waysIn";
import { normaliseDomain, organisationOf } from "@/core/estate/address";
import type { Estate } from "@/core/estate/estate";
import { ORGANISATION_ASKABLE } from "@/core/outsiders/asking";
import { organisationSheet } from "@/core/outsiders/organisation";
import {
  type Organisation,
  type OrganisationOrder,
  organisationsOf,
  sortedOrganisations,
} from "@/core/outsiders/organisations";
import { type LookAlikePair, Pairs } from "@/core/outsiders/pairs";
import { type ListAsked, listPage } from "@/core/query/listed";
import type { Seconds } from "@/core/time/instant";
import type { Book } from "./book";
import { inPieces } from "./pieces";

/** A page of look-alikes. */
export interface PairsAsked {
  /** Pairs that are one firm's, each in the order of its letters: they are left out. */
  same: [string, string][];
  from: number;
  count: number;
}
export interface PairsFound {
  found: number;
  pairs: LookAlikePair[];
}

/** What is known of all organisations, as long as nothing changes. */
interface Held {
  version: number;
  at: Seconds;
  organisations: Organisation[];
  /** The same in the orders that were asked for. */
  sorted: Map<string, Organisation[]>;
}

/** Work that is over by now still counts for so long: nothing else of organisations turns by itself. */
const HOLDS_S = 600;

/** Answers about organisations outside. All of them are worked out together, and held until something changes. */
export class OutsiderBook {
  private held: Held | undefined;
  private readonly pairs = new Pairs();

  constructor(
    private readonly estate: Estate,
    private readonly book: Book,
    private readonly waysIn: () => WaysIn,
  ) {}

  /** Learns that the estate has changed. */
  forget() {
    this.held = undefined;
  }

  async organisations(asked: ListAsked & OrganisationOrder, t: Seconds) {
    const held = await this.all(t);
    const key = `${asked.by} ${asked.reversed}`;
    const sorted = held.sorted.get(key) ?? sortedOrganisations(held.organisations, asked);
    held.sorted.set(key, sorted);
    return listPage(sorted, asked, ORGANISATION_ASKABLE, t);
  }

  /** Null where nobody is known of it and nothing said. */
  async organisation(domain: string, t: Seconds) {
    const plain = normaliseDomain(domain);
    const organisation = (await this.all(t)).organisations.find((one) => one.domain === plain);
    return organisation ? { organisation, sheet: organisationSheet(this.estate, t, plain, this.waysIn()) } : null;
  }

  async lookAlikes({ same, from, count }: PairsAsked, t: Seconds): Promise<PairsFound> {
    const { organisations: all } = await this.all(t);
    const { principals, homeDomains, stances } = this.estate;
    this.pairs.take(homeDomains.map(organisationOf));
    this.pairs.take(all.flatMap(({ domain }) => domain || []));
    this.pairs.take(principals.organisations.filter((domain) => stances.get(domain) === "personal"));
    const told = this.pairs.told(this.estate, new Map(all.map((one) => [one.domain, one])), same);
    return { found: told.length, pairs: told.slice(from, from + count) };
  }

  private async all(t: Seconds): Promise<Held> {
    for (;;) {
      const register = await this.book.at(t);
      const { version } = register;
      const { held } = this;
      if (held && held.version === version && Math.abs(t - held.at) < HOLDS_S) return held;
      const isStill = () => register.version === version;
      const found = await inPieces(organisationsOf(register, t), isStill);
      if (found) {
        return (this.held = { version, at: t, organisations: found, sorted: new Map() });
      }
    }
  }
}
