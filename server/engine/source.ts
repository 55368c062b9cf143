import type { Held } from "@/core/access/history";
import { type Patch, Standing } from "@/core/access/standing";
import { Estate } from "@/core/estate/estate";
import type { Belief, Sourced } from "@/core/estate/believed";
import type { LabelRule } from "@/core/estate/labels";
import type { ShareRecord } from "@/core/estate/records";
import type { RuleSet } from "@/core/rules/findings";
import type { Waiver } from "@/core/rules/waivers";
import { rfc3339, type Seconds } from "@/core/time/instant";
import type { Db } from "../platform/db/open";
import { beliefIn } from "../records/belief";
import { lastUsesUpTo } from "../records/events/events";
import { currentRecords, patchBetween, recordText, shareHistory } from "../records/facts";
import { lastMark, type Mark } from "../records/marks";
import { otherwiseAt } from "../records/undo";
import { type Begun, withRegister } from "./begun";
import type { LookingUp } from "./book";
import { type Keeping, readSnapshot, writeSnapshot } from "./snapshot";

/** What the house has decided about shares and rules: now, or as it was decided at an instant. */
export interface Decided {
  /** Which shares may break which rules. */
  waivers(at: string | null): Promise<Waiver[]>;
  /** The rules that run. */
  rules(at: string | null): Promise<RuleSet>;
  /** By id of the share: when we end it ourselves. */
  orders(at: string | null): Promise<Map<string, Seconds>>;
  /** By id of the share: until when somebody has confirmed that it may stay. */
  confirmations(at: string | null): Promise<Map<string, Seconds>>;
  /** Pairs of domains that are one firm's, each in the order of its letters. */
  sameFirms(at: string | null): Promise<[string, string][]>;
  /** By address: the last day of those who leave, where somebody has said it here. */
  lastDays(at: string | null): Promise<Map<string, Seconds>>;
  /** By which rules of ours items are labelled. */
  labelRules(at: string | null): Promise<LabelRule[]>;
  /** Ids of the shares that a docket, or a round, is about. */
  lookedUp: LookingUp;
}

/** Where an engine has its estate from. */
export interface Source {
  /** The whole estate, settled, with what its register is known to be. */
  begin(): Promise<Begun>;
  /** What has changed since the last time that it was asked for the estate or for changes. */
  changes(): Promise<Patch>;
  /** How many facts have come since then. */
  behind(): Promise<number>;
  /** Which shares may break which rules. */
  waivers(): Promise<Waiver[]>;
  /** The rules that run. */
  rules(): Promise<RuleSet>;
  /** By id of the share: when we end it ourselves. */
  orders(): Promise<Map<string, Seconds>>;
  /** By id of the share: until when somebody has confirmed that it may stay. */
  confirmations(): Promise<Map<string, Seconds>>;
  /** Pairs of domains that are one firm's, each in the order of its letters. */
  sameFirms(): Promise<[string, string][]>;
  /** By address: the last day of those who leave, where somebody has said it here. */
  lastDays(): Promise<Map<string, Seconds>>;
  /** By which rules of ours items are labelled. */
  labelRules(): Promise<LabelRule[]>;
  /** Whom to believe first. */
  belief(): Promise<Belief>;
  /** Ids of the shares that a docket, or a round, is about. */
  lookedUp: LookingUp;
  /** Keeps the estate for the next start, if enough has changed. */
  keep(begun: Begun): Promise<void>;
  /** All that a share's record has been, in the order of time. */
  history(id: string): Promise<Held[]>;
  /** A share's own record, with its address and its recipients' use. */
  record(id: string): Promise<ShareRecord | null>;
}

/** After this many new facts the columns are written again, so that the next start has few to catch up with. */
const FACTS_A_SNAPSHOT = 20_000;

/** The estate as it is now: from the columns kept on disk where there are such, else from all facts. */
export function currentSource(db: Db, keeping: Keeping, decided: Decided): Source {
  let taken: Mark = { fact: 0, removal: 0 };
  let kept: Mark = taken;
  return {
    async begin() {
      const snapshot = await readSnapshot(db, keeping, await beliefIn(db));
      if (snapshot) {
        taken = snapshot.mark;
        if (snapshot.register === null) return withRegister(snapshot.estate);
        kept = taken;
        return { estate: snapshot.estate, register: snapshot.register };
      }
      taken = await lastMark(db);
      return withRegister(estateFrom(currentRecords(db, taken.fact), await beliefIn(db)));
    },
    async behind() {
      return (await lastMark(db)).fact - taken.fact;
    },
    async changes() {
      const end = await lastMark(db);
      const patch = await patchBetween(db, taken, end);
      taken = end;
      return patch;
    },
    async keep(begun) {
      if (taken.fact - kept.fact < FACTS_A_SNAPSHOT) return;
      await writeSnapshot(db, keeping, taken, begun);
      kept = taken;
    },
    ...decisions(decided, null),
    belief: () => beliefIn(db),
    history: (id) => shareHistory(db, id, null),
    record: (id) => recordText(db, id, null).then(parsed),
  };
}

/** What of a source the house decides: as it is now, or as it was at an instant. */
export function decisions(decided: Decided, at: string | null): Pick<Source, keyof Decided> {
  return {
    waivers: () => decided.waivers(at),
    rules: () => decided.rules(at),
    orders: () => decided.orders(at),
    confirmations: () => decided.confirmations(at),
    sameFirms: () => decided.sameFirms(at),
    lastDays: () => decided.lastDays(at),
    labelRules: () => decided.labelRules(at),
    lookedUp: decided.lookedUp,
  };
}

/**
 * The estate as it was at an instant.
 * @param later what an engine of now, or of a later instant, knows, set to this instant: what has changed since is undone
 * in it
 */
export function pastSource(db: Db, decided: Decided, later: Begun): Source {
  const at = rfc3339(later.estate.asAt);
  const begun = undone(db, at, later);
  return {
    begin: () => begun,
    behind: async () => 0,
    changes: async () => ({ put: [], removed: [] }),
    keep: async () => {},
    ...decisions(decided, at),
    belief: () => beliefIn(db),
    history: (id) => shareHistory(db, id, at),
    record: (id) => recordText(db, id, at).then(parsed),
  };
}

function parsed(body: string | null): ShareRecord | null {
  return body === null ? null : JSON.parse(body);
}

async function undone(db: Db, at: string, later: Begun): Promise<Begun> {
  const { estate, register } = later;
  const settled = new Standing(estate).apply(await otherwiseAt(db, at));
  const retold = tellUses(db, estate);
  register.take({ ...settled, shares: settled.shares.concat(retold) });
  return later;
}

function estateFrom(records: Iterable<Sourced>, belief: Belief): Estate {
  const estate = new Estate();
  estate.principals.belief = belief;
  for (const record of records) estate.put(record);
  estate.pack();
  estate.settle();
  return estate;
}

/**
 * A record tells only the latest use; the trail may know of one before the instant asked about.
 * @returns slots of the shares of which that is so
 */
function tellUses(db: Db, { shares, asAt }: Estate): number[] {
  const later: number[] = [];
  for (let slot = 0; slot < shares.count; slot++) if (shares.lastUsed[slot] > asAt) later.push(slot);
  if (later.length === 0) return later;
  for (const { id, at } of lastUsesUpTo(db, asAt)) {
    const slot = shares.find(id);
    if (slot !== undefined && shares.lastUsed[slot] > asAt) shares.tellUse(slot, at);
  }
  return later;
}
