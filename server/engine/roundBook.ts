import { createHash } from "node:crypto";
import { grouped } from "@/core/text/grouped";
import { union } from "@/core/access/ranges";
import type { Change } from "@/core/changes/change";
import type { Estate } from "@/core/estate/estate";
import { Share } from "@/core/estate/share";
import { filesBetween } from "@/core/estate/tree";
import { brokenBy, DEFAULT_RULES } from "@/core/rules/findings";
import type { Moment } from "@/core/rules/judged";
import { judgeShare, momentOf } from "@/core/rules/judging";
import { askedAbout } from "@/core/rounds/askedAbout";
import { changesOf, type Decision, undecidedChanges } from "@/core/rounds/decision";
import { type DeciderKind, type Deciding, deciderOf } from "@/core/rounds/decider";
import { deciderOrder, type Forecast, forecastOf } from "@/core/rounds/forecast";
import { whyNotPassedOn } from "@/core/rounds/line";
import { isOver, lineMade, type LineMade, type LineOutlook, lineOutlook } from "@/core/rounds/outlook";
import type { RoundAsked } from "@/core/rounds/round";
import type { Seconds } from "@/core/time/instant";
import { type DateSettings, dayIn } from "@/core/time/style";
import type { Book } from "./book";
import { inPieces } from "./pieces";

/** Whom a round asks, with people given by their addresses. */
export interface DecidingAsked {
  order: readonly DeciderKind[];
  named: string | null;
  /** Heads of departments. */
  heads: readonly { department: string; person: string }[];
  deputies: readonly { person: string; deputy: string; from: Seconds; until: Seconds }[];
}

/** Who decides about a line. */
export interface LineDecider {
  address: string;
  name: string;
  department: string | null;
  as: DeciderKind;
  /** In whose place; null where they decide for themselves. */
  insteadOf: string | null;
}

/** A line as it is stored, with its decider; null where that is left to the administrators. */
export type LineOpened = LineMade & { decider: LineDecider | null };

/** Answers about rounds: forecasts, lines, and the changes that carry decisions out. */
export class RoundBook {
  /** Raised whenever the estate has changed. */
  private generation = 0;

  constructor(
    private readonly estate: Estate,
    private readonly book: Book,
  ) {}

  /** Learns that the estate has changed. */
  forget() {
    this.generation++;
  }

  /** What a round over a query would be; where the estate changes meanwhile, it is counted again. */
  async forecast(query: string, asked: DecidingAsked, t: Seconds): Promise<Forecast> {
    for (;;) {
      const slots = await this.book.slots(query, t);
      const { generation } = this;
      const steps = forecastOf(this.estate, slots, this.deciding(asked), t);
      const forecast = await inPieces(steps, () => generation === this.generation);
      if (forecast) return forecast;
    }
  }

  /** Ids of all that a query finds, decider by decider, so that lines are stored next to each other where they belong. */
  async ids(query: string, asked: DecidingAsked, t: Seconds): Promise<string[]> {
    for (;;) {
      const slots = await this.book.slots(query, t);
      const { generation } = this;
      const order = await inPieces(
        deciderOrder(this.estate, slots, this.deciding(asked), t),
        () => generation === this.generation,
      );
      if (order) return order.map((slot) => this.estate.shares.idOf(slot));
    }
  }

  /** Lines for some shares; null where one is no longer known. */
  opened(ids: readonly string[], asked: DecidingAsked, t: Seconds): (LineOpened | null)[] {
    const moment = momentOf(this.estate, t);
    const deciding = this.deciding(asked);
    return ids.map((id) => {
      const share = this.estate.share(id);
      return share ? { ...marked(lineMade(share, moment)), decider: this.decider(share, deciding, t) } : null;
    });
  }

  private decider(share: Share, deciding: Deciding, t: Seconds): LineDecider | null {
    const decider = deciderOf(this.estate, share, deciding, t);
    if (!decider) return null;
    const { people } = this.estate;
    const { address, name, department } = people[decider.person];
    const insteadOf = decider.insteadOf === null ? null : people[decider.insteadOf].address;
    return { address, name, department, as: decider.as, insteadOf };
  }

  private deciding({ order, named, heads, deputies }: DecidingAsked): Deciding {
    const { principals } = this.estate;
    const find = (address: string) => principals.findAddress(address) ?? -1;
    const byPerson = grouped(deputies, ({ person }) => find(person));
    return {
      order,
      named: named === null ? null : find(named),
      heads: new Map(heads.map(({ department, person }) => [department, find(person)])),
      deputies: new Map(
        [...byPerson].map(([person, all]) => [
          person,
          all.map(({ deputy, from, until }) => ({ person: find(deputy), from, until })),
        ]),
      ),
    };
  }

  /** What is known of some lines' shares; null where one is no longer known. */
  outlooks(ids: readonly string[], dates: Pick<DateSettings, "zone" | "style">, t: Seconds): (LineOutlook | null)[] {
    const moment = momentOf(this.estate, t, (at) => dayIn(dates, at));
    return ids.map((id) => {
      const share = this.estate.share(id);
      return share ? marked(lineOutlook(share, moment)) : null;
    });
  }

  /** How many different live files some shares reach together, group by group. */
  files(groups: readonly (readonly string[])[]): number[] {
    const { tree } = this.estate;
    return groups.map((ids) => {
      const shares = ids.flatMap((id) => this.estate.share(id) ?? []);
      const ranges = union(shares.flatMap(({ position }) => [position, tree.end[position]]));
      let count = 0;
      for (let i = 0; i < ranges.length; i += 2) count += filesBetween(tree, ranges[i], ranges[i + 1]);
      return count;
    });
  }

  /** What some lines would ask about now; null where a share lets nobody in any more. */
  asked(ids: readonly string[], t: Seconds): (string | null)[] {
    return ids.map((id) => {
      const share = this.estate.share(id);
      return share && !isOver(this.estate, share, t) ? markOf(askedAbout(this.estate, share)) : null;
    });
  }

  /** What carries some decisions out; null where one can't be any more. */
  changes(decided: readonly { shareId: string; decision: Decision }[], t: Seconds): (Change[] | null)[] {
    const moment = momentOf(this.estate, t);
    return decided.map(({ shareId, decision }) => {
      const share = this.estate.share(shareId);
      return share ? changesOf(this.estate, share, this.broken(share, moment), decision, t) : null;
    });
  }

  private broken(share: Share, moment: Moment) {
    const judged = judgeShare(moment, share);
    return judged.outside ? brokenBy(judged, moment, DEFAULT_RULES) : [];
  }

  /** The outcome for shares that nobody decided about. */
  undecided(ids: readonly string[], round: Pick<RoundAsked, "undecided" | "undecidedDays">, t: Seconds): Change[][] {
    return ids.map((id) => {
      const share = this.estate.share(id);
      return share && !isOver(this.estate, share, t) ? undecidedChanges(this.estate, share, round, t) : [];
    });
  }

  /** Why some lines can't be passed on to somebody; null for each that can. */
  whyNotPassedOn(lines: readonly { shareId: string; before: readonly string[] }[], to: string): (string | null)[] {
    const { principals } = this.estate;
    const person = principals.findAddress(to);
    const isActiveInsider = person !== undefined && principals.active[person] === 1 && principals.insider[person] === 1;
    return lines.map(({ shareId, before }) => {
      const indexes = before.map((address) => principals.findAddress(address) ?? -1);
      const audience = new Set(this.estate.share(shareId)?.people ?? []);
      return whyNotPassedOn({ person: person ?? -2, isActiveInsider }, indexes, audience);
    });
  }

  /** Looks people up as rounds know them. */
  insiders(addresses: readonly string[]): InsiderTold[] {
    const { principals, people } = this.estate;
    return addresses.map((address) => {
      const index = principals.findAddress(address);
      if (index === undefined) return { address, name: address, department: null, isActive: false, manager: null };
      const { name, department } = people[index];
      const manager = this.estate.managerOf(index);
      const isActive = principals.active[index] === 1 && principals.insider[index] === 1;
      const canManage = manager >= 0 && principals.active[manager] === 1 && principals.insider[manager] === 1;
      return { address, name, department, isActive, manager: canManage ? people[manager].address : null };
    });
  }

  /** Every department that somebody active is in, by name. */
  departments(): string[] {
    const { people, principals } = this.estate;
    const found = new Set<string>();
    for (const { index, department } of people)
      if (department && principals.active[index] === 1 && principals.insider[index] === 1) found.add(department);
    return [...found].sort();
  }
}

/** Shows whether what somebody was asked about is still the same: SHA-256, in hex. */
const markOf = (asked: string) => createHash("sha256").update(asked).digest("hex");
const marked = <L extends LineMade>(line: L): L => ({ ...line, asked: markOf(line.asked) });

/** Somebody who works here, as rounds know them. */
export interface InsiderTold {
  address: string;
  name: string;
  department: string | null;
  /** Whether they are active insiders. */
  isActive: boolean;
  /** Their manager's address, where that is one as well; else null. */
  manager: string | null;
}
