import type { Estate } from "../estate/estate";
import { grown } from "../estate/grow";
import { type Role, ROLES } from "../estate/records";
import { inheritedFrom } from "../estate/tree";
import { ALWAYS, type Instants, type Seconds, until } from "../time/instant";
import {
  DOWNLOAD,
  ENTRY_INSTANTS,
  ENTRY_WORDS,
  EXPIRES,
  FROM,
  INSIDERS_FROM,
  KEYED,
  OUTSIDE,
  Plan,
  ROLE_SHIFT,
  type Scope,
  TO,
  TO_ANYONE,
  TO_HOUSE,
  TRAITS,
} from "./plan";
import { Presence } from "./presence";

/** What is open on an item. */
export interface Exposure {
  open: boolean;
  /** Open, and every open link that reaches it has a password. */
  openKeyed: boolean;
  /** Told, like `insiders`, only where everyone was counted. */
  house: boolean;
  /** Distinct active people who reach the item by name. */
  insiders: number;
  outsiders: number;
  organisations: string[];
  outsideRole: Role | null;
  outsideDownload: boolean;
  /** The latest end of an outside path; ALWAYS where there is none. */
  outsideUntil: Seconds;
}

/** The state of what nobody reaches. */
const NOTHING = 0;

/**
 * What is open on every live item at one instant. Many items share one state: it changes only where a
 * share sits or an owner is named, so a sweep over those tells of all. Frames are pushed where they sit
 * and undone where their range ends; items in between cost nothing but the writing down.
 */
export class Exposures {
  /** The instant that the states are true of. */
  t: Seconds = 0;
  /** When the next share opens or ends; ALWAYS before anything was worked out. */
  private trueUntil: Seconds = ALWAYS;
  /** The state of the item at each position; of one that isn't live it says nothing. */
  stateAt = new Int32Array(0);
  private plan: Plan;
  private presence: Presence;
  private states = 1;
  // Of each state.
  private links = new Uint8Array(1_024);
  private role = new Uint8Array(1_024);
  private download = new Uint8Array(1_024);
  private until: Instants = new Float64Array(1_024).fill(ALWAYS);
  private insiders = new Int32Array(1_024);
  private outsiders = new Int32Array(1_024);
  // How many links of each kind, and how many different people, reach the place where the sweep is.
  private open = 0;
  private unkeyed = 0;
  private houses = 0;
  private insidersHere = 0;
  private outsidersHere = 0;
  /** Entries of the plan that are in force where the sweep is, to be undone when their frame closes. */
  private log = new Int32Array(1_024);
  private logLength = 0;

  constructor(
    private readonly estate: Estate,
    private readonly scope: Scope,
  ) {
    this.plan = new Plan(estate, scope);
    this.presence = new Presence(estate);
  }

  /** Forgets what was worked out, because positions or people have changed; to be evaluated again. */
  renew() {
    this.plan = new Plan(this.estate, this.scope);
    this.presence.grow();
    this.trueUntil = ALWAYS;
  }

  /** Whether what was worked out is true at another instant too: no share has opened or ended meanwhile. */
  isTrueAt(t: Seconds): boolean {
    return t >= this.t && t < this.trueUntil;
  }

  /** Works out the states for an instant. */
  evaluate(t: Seconds): this {
    this.t = t;
    this.trueUntil = this.plan.nextChangeAfter(t);
    this.states = 1;
    const { length } = this.estate.tree;
    if (this.stateAt.length !== length) this.stateAt = new Int32Array(length);
    this.sweep(0, length, NOTHING);
    return this;
  }

  /**
   * Takes in what has become of some shares, at the same instant: each is put into the plan, and what it
   * reaches is swept again, below what comes from above. Where that would be much of the whole, or has
   * left too many states behind that nothing has any more, everything is worked out anew.
   */
  update(slots: readonly number[]) {
    const { shares, tree } = this.estate;
    this.presence.grow();
    const changed = slots.filter((slot) => shares.position[slot] >= 0);
    for (const slot of changed) this.plan.update(slot);
    // Nothing has been worked out yet, so there is nothing to update.
    if (this.trueUntil === ALWAYS) return;
    if (changed.length * 3 > this.plan.length || this.states > 4 * this.plan.length + 1_024) this.evaluate(this.t);
    else
      for (const slot of changed) {
        this.trueUntil = Math.min(this.trueUntil, this.changeOf(slot));
        this.sweepAgain(shares.position[slot], tree.end[shares.position[slot]]);
      }
  }

  /** When after the instant of the states a share opens or ends. */
  private changeOf(slot: number): Seconds {
    const { opens, expires, revoked } = this.estate.shares;
    return Math.min(...[opens[slot], expires[slot], revoked[slot]].filter((at) => at > this.t));
  }

  private sweepAgain(from: number, to: number) {
    const { tree } = this.estate;
    const above: number[] = [];
    for (let at = from; tree.inheritsAt(at); at = tree.parent[at]) above.push(tree.parent[at]);
    const { plan } = this;
    for (const position of above.reverse())
      for (let i = plan.firstFrom(position); i < plan.length && plan.positions[i] === position; i++) this.enter(i);
    this.sweep(from, to, above.length > 0 ? this.stateAt[above[above.length - 1]] : NOTHING);
    this.undo(0);
  }

  /** Writes the states of a range, in which the state before its first entry is `base`. */
  private sweep(from: number, to: number, base: number) {
    const { plan, stateAt } = this;
    const { end } = this.estate.tree;
    const { positions } = plan;
    const frameEnds: number[] = [];
    const frameLogs: number[] = [];
    const frameStates: number[] = [];
    let state = base;
    let written = from;
    let i = plan.firstFrom(from);
    const behind = plan.firstFrom(to);
    for (;;) {
      const position = i < behind ? positions[i] : to;
      while (frameEnds.length > 0 && frameEnds[frameEnds.length - 1] <= position) {
        const frameEnd = frameEnds.pop()!;
        fill(stateAt, state, written, frameEnd);
        written = frameEnd;
        this.undo(frameLogs.pop()!);
        state = frameStates.pop()!;
      }
      fill(stateAt, state, written, position);
      written = position;
      if (i >= behind) return;
      const logged = this.logLength;
      const above = state;
      for (; i < behind && positions[i] === position; i++) this.enter(i);
      if (this.logLength === logged) continue;
      frameEnds.push(end[position]);
      frameLogs.push(logged);
      frameStates.push(above);
      state = this.stateBelow(above, logged);
    }
  }

  /** Takes an entry of the plan into force, where it is live. */
  private enter(entry: number) {
    const { plan, presence } = this;
    if (!plan.isInForce(entry, this.t)) return;
    if (this.logLength === this.log.length) this.log = grown(this.log, this.logLength + 1);
    this.log[this.logLength++] = entry;
    const { words } = plan;
    const at = entry * ENTRY_WORDS;
    this.countLinks(words[at + TRAITS], 1);
    this.outsidersHere += presence.enter(words[at + FROM], words[at + INSIDERS_FROM]);
    if (this.scope === "everyone") this.insidersHere += presence.enter(words[at + INSIDERS_FROM], words[at + TO]);
  }

  /** Takes out of force what was logged behind a mark. */
  private undo(mark: number) {
    const { presence } = this;
    const { words } = this.plan;
    while (this.logLength > mark) {
      const at = this.log[--this.logLength] * ENTRY_WORDS;
      this.countLinks(words[at + TRAITS], -1);
      this.outsidersHere -= presence.leave(words[at + FROM], words[at + INSIDERS_FROM]);
      if (this.scope === "everyone") this.insidersHere -= presence.leave(words[at + INSIDERS_FROM], words[at + TO]);
    }
  }

  private countLinks(traits: number, by: 1 | -1) {
    if ((traits & TO_ANYONE) !== 0) {
      this.open += by;
      if ((traits & KEYED) === 0) this.unkeyed += by;
    } else if ((traits & TO_HOUSE) !== 0) this.houses += by;
  }

  /** A state for what is in force now, in a frame within one of state `above`. */
  private stateBelow(above: number, mark: number): number {
    const { words, instants } = this.plan;
    const state = this.newState();
    let role = this.role[above];
    let download = this.download[above];
    let end = this.until[above];
    for (let i = mark; i < this.logLength; i++) {
      const traits = words[this.log[i] * ENTRY_WORDS + TRAITS];
      if ((traits & OUTSIDE) === 0) continue;
      role = Math.max(role, (traits >> ROLE_SHIFT) + 1);
      if ((traits & DOWNLOAD) !== 0) download = 1;
      end = Math.max(end, instants[this.log[i] * ENTRY_INSTANTS + EXPIRES]);
    }
    this.role[state] = role;
    this.download[state] = download;
    this.until[state] = end;
    this.links[state] =
      (this.open > 0 ? 1 : 0) | (this.open > 0 && this.unkeyed === 0 ? 2 : 0) | (this.houses > 0 ? 4 : 0);
    this.insiders[state] = this.insidersHere;
    this.outsiders[state] = this.outsidersHere;
    return state;
  }

  private newState(): number {
    const state = this.states++;
    if (state >= this.links.length) {
      this.links = grown(this.links, state + 1);
      this.role = grown(this.role, state + 1);
      this.download = grown(this.download, state + 1);
      this.until = grown(this.until, state + 1);
      this.insiders = grown(this.insiders, state + 1);
      this.outsiders = grown(this.outsiders, state + 1);
    }
    return state;
  }

  /** What is open on the item at a position; null where it isn't live. */
  at(position: number): Exposure | null {
    if (this.estate.tree.live[position] === 0) return null;
    const state = this.stateAt[position];
    return {
      open: (this.links[state] & 1) !== 0,
      openKeyed: (this.links[state] & 2) !== 0,
      house: (this.links[state] & 4) !== 0,
      insiders: this.insiders[state],
      outsiders: this.outsiders[state],
      organisations: this.organisationsAt(position),
      outsideRole: this.role[state] === 0 ? null : ROLES[this.role[state] - 1],
      outsideDownload: this.download[state] === 1,
      outsideUntil: this.until[state],
    };
  }

  /**
   * Of the outsiders who reach the item at a position by name. It is looked up where it is asked for: keeping the set of
   * each state would take half of a sweep.
   */
  private organisationsAt(position: number): string[] {
    const { plan } = this;
    const { tree, principals } = this.estate;
    const found = new Set<number>();
    for (const holder of inheritedFrom(tree, position))
      for (let i = plan.firstFrom(holder); i < plan.length && plan.positions[i] === holder; i++) {
        if (!plan.isInForce(i, this.t)) continue;
        const [from, to] = [plan.words[i * ENTRY_WORDS + FROM], plan.words[i * ENTRY_WORDS + INSIDERS_FROM]];
        for (let member = from; member < to; member++) found.add(principals.organisationOf[principals.pool[member]]);
      }
    return Array.from(found, (one) => principals.organisations[one]).sort();
  }
}

/** Most ranges are short, and calling the built-in takes longer than writing them. */
function fill(column: Int32Array, value: number, from: number, to: number) {
  if (to - from > 64) column.fill(value, from, to);
  else for (let i = from; i < to; i++) column[i] = value;
}

/** What is open on every live item at t, insiders and house links counted too. */
export function exposures(estate: Estate, t: Seconds): Exposures {
  return new Exposures(estate, "everyone").evaluate(t);
}

/** One live item's answer as `bin/latch exposure` gives it: keys in this order. */
export function exposureLine(item: string, exposure: Exposure) {
  return { item, ...exposure, outsideUntil: until(exposure.outsideUntil) };
}
