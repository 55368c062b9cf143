import type { Estate, Share } from "../estate/estate";
import { type Role, ROLES } from "../estate/records";
import { NEVER, type Seconds, until } from "../time/instant";
import { isLiveShare } from "./live";

/** What is open on an item. Many items share one of these: it changes only where a share sits. */
export interface Exposure {
  open: boolean;
  /** Open, and every open link that reaches it has a password. */
  openKeyed: boolean;
  house: boolean;
  /** Distinct active people who reach the item by name. */
  insiders: number;
  outsiders: number;
  organisations: string[];
  outsideRole: Role | null;
  outsideDownload: boolean;
  /** The latest end of an outside path; 0 where there is none. */
  outsideUntil: Seconds;
}

/** An exposure for each position of the tree; null where the item isn't live. */
export type Exposures = (Exposure | null)[];

const NOTHING: Exposure = {
  open: false,
  openKeyed: false,
  house: false,
  insiders: 0,
  outsiders: 0,
  organisations: [],
  outsideRole: null,
  outsideDownload: false,
  outsideUntil: 0,
};

interface Frame {
  end: number;
  /** People whom this frame's shares added to the count, to be taken out again when it closes. */
  people: number[];
  before: Exposure;
}

/**
 * What is open on every live item at t, in one sweep over the tree. Frames are pushed where shares sit
 * and undone where their range ends, so items in between cost nothing.
 *
 * @param excluded shares to be left out, for "what if these were gone"
 */
export function exposures(estate: Estate, t: Seconds, excluded: ReadonlySet<string> = new Set()): Exposures {
  const { tree } = estate;
  const result: Exposures = new Array(tree.ids.length).fill(null);
  const people = new PeopleInside(estate);
  const frames: Frame[] = [];
  let current = NOTHING;
  for (let position = 0; position < tree.ids.length; position++) {
    while (frames.length > 0 && frames[frames.length - 1].end <= position) {
      const frame = frames.pop()!;
      people.remove(frame.people);
      current = frame.before;
    }
    if (!tree.live[position]) continue;
    const frame = { end: tree.end[position], people: [] as number[], before: current };
    const next = entered(estate, position, t, excluded, current, people, frame.people);
    if (next !== current) {
      frames.push(frame);
      current = next;
    }
    result[position] = current;
  }
  return result;
}

function entered(
  estate: Estate,
  position: number,
  t: Seconds,
  excluded: ReadonlySet<string>,
  before: Exposure,
  people: PeopleInside,
  added: number[],
): Exposure {
  const owner = activeOwner(estate, position);
  let next = before;
  if (owner >= 0) {
    people.add(owner, added);
    if (!estate.people[owner].insider) next = withOutsidePath(next, "manage", true, NEVER);
  }
  for (let i = estate.sharesFrom[position]; i < estate.sharesFrom[position + 1]; i++) {
    const share = estate.shares[i];
    if (isLiveShare(estate, share, t) && !excluded.has(share.id)) next = withShare(next, share, people, added);
  }
  return added.length > 0 || next !== before ? { ...next, ...people.counts() } : before;
}

function withShare(before: Exposure, share: Share, people: PeopleInside, added: number[]): Exposure {
  const { audience, role, download, expires } = share;
  switch (audience.kind) {
    case "nobody":
      return before;
    case "house":
      return { ...before, house: true };
    case "open": {
      const keyed = share.record.type === "link" && share.record.password && (before.openKeyed || !before.open);
      return { ...withOutsidePath(before, role as Role, download, expires), open: true, openKeyed: keyed };
    }
    case "people":
      for (const person of audience.people) people.add(person, added);
      return share.outsiders.length > 0 ? withOutsidePath(before, role as Role, download, expires) : before;
  }
}

function withOutsidePath(before: Exposure, role: Role, download: boolean, expires: Seconds): Exposure {
  return {
    ...before,
    outsideRole: strongerRole(before.outsideRole, role),
    outsideDownload: before.outsideDownload || download,
    outsideUntil: Math.max(before.outsideUntil, expires),
  };
}

export function strongerRole(a: Role | null, b: Role): Role {
  return a !== null && ROLES.indexOf(a) >= ROLES.indexOf(b) ? a : b;
}

/** The owner's person index where there is one and they are active, else -1. */
export function activeOwner(estate: Estate, position: number): number {
  const owner = estate.tree.owner[position];
  return owner >= 0 && estate.people[owner].status === "active" ? owner : -1;
}

/** Counts distinct people while frames open and close. */
class PeopleInside {
  private readonly times: Int32Array;
  private readonly organisations = new Map<string, number>();
  /** The organisations in order, until one comes or goes. */
  private sorted: string[] | undefined;
  private insiders = 0;
  private outsiders = 0;

  constructor(private readonly estate: Estate) {
    this.times = new Int32Array(estate.people.length);
  }

  add(index: number, added: number[]) {
    added.push(index);
    if (this.times[index]++ === 0) this.count(index, 1);
  }

  remove(indexes: number[]) {
    for (const index of indexes) if (--this.times[index] === 0) this.count(index, -1);
  }

  private count(index: number, by: 1 | -1) {
    const person = this.estate.people[index];
    if (person.insider) {
      this.insiders += by;
      return;
    }
    this.outsiders += by;
    const left = (this.organisations.get(person.organisation) ?? 0) + by;
    if (left === 0 || left === by) this.sorted = undefined;
    if (left === 0) this.organisations.delete(person.organisation);
    else this.organisations.set(person.organisation, left);
  }

  counts(): Pick<Exposure, "insiders" | "outsiders" | "organisations"> {
    this.sorted ??= [...this.organisations.keys()].sort();
    return { insiders: this.insiders, outsiders: this.outsiders, organisations: this.sorted };
  }
}

/** One live item's answer as `bin/latch exposure` gives it: keys in this order. */
export function exposureLine(item: string, exposure: Exposure) {
  return { item, ...exposure, outsideUntil: until(exposure.outsideUntil) };
}
