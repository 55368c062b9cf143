import fc from "fast-check";
import { exposures } from "@/core/access/exposure";
import { pathsTo } from "@/core/access/paths";
import { type Change, subjectOf, takesPlaceOf } from "@/core/changes/change";
import { planOf } from "@/core/changes/plan";
import { previewOf } from "@/core/preview/preview";
import { inOrderOfUndoing, type Undo, undoOf } from "@/core/changes/undo";
import { verdictOn } from "@/core/changes/verdict";
import { buildEstate, type Estate } from "@/core/estate/estate";
import type { EstateRecord, LinkRecord, ShareRecord } from "@/core/estate/records";
import { applyOnce, changeSchema } from "@/standins/store/changes";
import { StoreDatabase } from "@/standins/store/database";
import { estates } from "./randomEstates";
import { inDays, NOW, T } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(120_000);

type Intent = (records: readonly EstateRecord[], n: number) => Change[];
const onShare = (make: (shareId: string) => Change): Intent => {
  return (records, n) => {
    const shares = records.filter((one) => one.type === "link" || one.type === "grant");
    return shares.length === 0 ? [] : [make((shares[n % shares.length] as ShareRecord).id)];
  };
};
const intent = fc.constantFrom<Intent[]>(
  onShare((shareId) => ({ action: "revoke", shareId })),
  onShare((shareId) => ({ action: "set-expiry", shareId, expiresAt: inDays(3) })),
  onShare((shareId) => ({ action: "set-role", shareId, role: "view" })),
  onShare((shareId) => ({ action: "block-download", shareId })),
  onShare((shareId) => ({ action: "narrow", shareId, addresses: ["odo@quay.example"] })),
  onShare((shareId) => ({ action: "make-link", shareId, addresses: ["odo@quay.example"] })),
  onShare((shareId) => ({ action: "drop-recipient", shareId, address: "odo@quay.example" })),
  (_, n) => [{ action: "leave-group", groupId: `g${n % 4}`, address: n % 2 ? "ada@home.example" : "odo@quay.example" }],
  (_, n) => [{ action: "stop-inheriting", itemId: `i${n % 8}` }],
  (_, n) => [{ action: "hand-over", itemId: `i${n % 8}`, address: "bea@sub.home.example", links: [] }],
);
const intents = fc.array(fc.tuple(intent, fc.nat(99)), { minLength: 1, maxLength: 4 });
/** Also such as let somebody in again: an undo ends those by revoking, so that no store is left just as it was. */
const intentsOfAllKinds = fc.array(
  fc.tuple(
    fc.oneof(
      { weight: 5, arbitrary: intent },
      fc.constant(onShare((shareId) => ({ action: "set-expiry", shareId, expiresAt: inDays(3), reopen: true }))),
    ),
    fc.nat(99),
  ),
  { minLength: 1, maxLength: 4 },
);
/** Without passwords, whose hashes take long: those are asked about by name below. */
const worlds = estates.map((records) =>
  records.map((one) => (one.type === "link" ? { ...one, password: false } : one)),
);

/** One store with all of an estate in it, and all its changes under keys of their own. */
class Shelf {
  private readonly db = new StoreDatabase(":memory:");
  private sent = 0;
  private readonly store;

  constructor(records: readonly EstateRecord[]) {
    this.store = records.find((one) => one.type === "store")!;
    this.db.transaction(() => records.forEach((one) => this.db.put(one, NOW)));
  }

  get records(): EstateRecord[] {
    return this.db.after(0, 10_000).flatMap(({ gone, record }) => (gone ? [] : [record]));
  }

  get estate(): Estate {
    return buildEstate(this.records);
  }

  /** Carries out a change that the core says can be done, and what takes it back; null where it can't. */
  carryOut(change: Change): Undo | null {
    const { estate } = this;
    if (!verdictOn(estate, change, T).can) return null;
    const before = "shareId" in change ? this.share(change.shareId) : null;
    const owner = change.action === "hand-over" ? estate.ownerAt(estate.tree.position(change.itemId)!) : -1;
    const told = changeSchema.shape.change.parse({ ...change, password: "six plain words" });
    const { status, body } = applyOnce(this.db, this.store, `key number ${++this.sent}`, told);
    if (status !== 200) throw new Error(`${JSON.stringify(change)}: ${body.error}`);
    return undoOf({
      change,
      before,
      answered: body.entries!.map(({ record }) => record),
      now: null,
      ownerBefore: owner < 0 ? null : estate.people[owner].address,
    });
  }

  share(id: string): ShareRecord | null {
    return this.records.find((one): one is ShareRecord => "itemId" in one && "id" in one && one.id === id) ?? null;
  }
}

/** What a docket would hold of some intents about an estate: what makes another change pointless takes its place. */
function staged(estate: Estate, records: readonly EstateRecord[], asked: readonly (readonly [Intent, number])[]) {
  const docket = new Map<string, Change>();
  for (const change of asked.flatMap(([make, n]) => make(records, n))) {
    const plan = planOf(estate, change).filter((one, _, all) => verdictOn(estate, one, T, all).can);
    for (const one of plan)
      for (const [subject, earlier] of docket)
        if (takesPlaceOf(one, earlier) && !plan.includes(earlier)) docket.delete(subject);
    for (const one of plan) docket.set(subjectOf(one), one);
  }
  return [...docket.values()];
}

const sorted = ({ recipients }: LinkRecord) => recipients.map(({ email }) => email).sort();

/** All records in order, without what a link that was made anew can't have again. */
function comparable(records: readonly EstateRecord[]): string[] {
  const inForce = records.filter((one) => !(one.type === "link" && one.revokedAt));
  return inForce
    .map((one) =>
      one.type === "link"
        ? { ...one, id: "", address: "", createdAt: "", lastUsedAt: null, uses: 0, recipients: sorted(one) }
        : { ...one },
    )
    .map((one) =>
      JSON.stringify(
        Object.entries(one)
          .filter(([, value]) => value !== null)
          .sort(),
      ),
    )
    .sort();
}

test("what was planned and done, and then taken back, leaves the store as it was but for addresses", () => {
  let links = 0;
  fc.assert(
    fc.property(worlds, intents, (records, asked) => {
      const shelf = new Shelf(records);
      const before = shelf.records;
      const undone = staged(shelf.estate, records, asked)
        .map((change) => shelf.carryOut(change))
        .filter((one) => one !== null);
      // A link that was over could only be made anew as one that is over: that is refused, and told.
      // Nor does anything go back to an owner who has left.
      const mayBeLost = (change: Change) =>
        change.action === "remake-link" || change.action === "hand-over" || isPast(change);
      const lost = inOrderOfUndoing(undone).filter((one) => mayBeLost(one) && !verdictOn(shelf.estate, one, T).can);
      fc.pre(lost.length === 0 && undone.every((one) => "changes" in one));
      for (const change of inOrderOfUndoing(undone)) {
        const verdict = verdictOn(shelf.estate, change, T);
        expect([change, verdict.can || verdict.why]).toEqual([change, true]);
        shelf.carryOut(change);
      }
      links += shelf.records.length - before.length;
      expect(comparable(shelf.records)).toEqual(comparable(before));
    }),
    { numRuns: 250 },
  );
  expect(links).toBeGreaterThan(0);
});

const isPast = (change: Change) =>
  change.action === "put-back" && typeof change.was.expiresAt === "string" && change.was.expiresAt <= NOW;

/** Ids of the items that each person reaches by name, or at all. */
function reached(estate: Estate, byName: boolean): Map<string, Set<string>> {
  return new Map(
    estate.people.map(({ address, index }) => {
      const ids = [...estate.items.ids].filter((id) => {
        const position = estate.tree.position(id);
        if (position === undefined) return false;
        const paths = pathsTo(estate, T, index, position);
        return paths.some(({ kind }) => !byName || !(kind === "open-link" || kind === "house-link"));
      });
      return [address, new Set(ids)];
    }),
  );
}

/** By person: how many items are reached by name in one estate, and not at all in another. */
function missing(inOne: Estate, inOther: Estate): Record<string, number> {
  const [byName, atAll] = [reached(inOne, true), reached(inOther, false)];
  const counts = [...byName].map(([address, ids]): [string, number] => {
    return [address, [...ids].filter((id) => !atAll.get(address)?.has(id)).length];
  });
  return Object.fromEntries(counts.filter(([, count]) => count > 0));
}

/** Ids of the items that an open link, or a link for the house, leads to. */
function openTo(crowd: "open" | "house", estate: Estate): string[] {
  const all = exposures(estate, T);
  return [...estate.items.ids].filter((id) => {
    const position = estate.tree.position(id);
    return position !== undefined && (all.at(position)?.[crowd] ?? false);
  });
}

const told = (people: ReturnType<typeof previewOf>["people"], what: "loses" | "gains") =>
  Object.fromEntries(people.filter((one) => one[what].count > 0).map((one) => [one.address, one[what].count]));

test("a preview's losses and gains are what is found afterwards, forth and back", () => {
  let lost = 0;
  let gained = 0;
  const check = (shelf: Shelf, changes: readonly Change[]) => {
    const before = shelf.estate;
    const { people, organisations, items, anyone, house } = previewOf(before, changes, T);
    for (const change of changes) shelf.carryOut(change);
    const after = shelf.estate;
    expect(told(people, "loses")).toEqual(missing(before, after));
    const losers = people.filter(({ loses }) => loses.count > 0);
    expect(organisations.reduce((sum, one) => sum + one.people, 0)).toBe(losers.length);
    expect(items.reduce((sum, one) => sum + one.people, 0)).toBe(
      losers.reduce((sum, { loses }) => sum + loses.count, 0),
    );
    expect([changes, told(people, "gains")]).toEqual([changes, missing(after, before)]);
    for (const [crowd, effect] of [
      ["open", anyone],
      ["house", house],
    ] as const) {
      const [was, is] = [openTo(crowd, before), openTo(crowd, after)];
      expect([changes, crowd, effect.loses.count]).toEqual([
        changes,
        crowd,
        was.filter((id) => !is.includes(id)).length,
      ]);
      expect([changes, crowd, effect.gains.count]).toEqual([
        changes,
        crowd,
        is.filter((id) => !was.includes(id)).length,
      ]);
    }
    lost += people.filter(({ loses }) => loses.count > 0).length;
    gained += people.filter(({ gains }) => gains.count > 0).length;
  };
  fc.assert(
    fc.property(worlds, intentsOfAllKinds, (records, asked) => {
      const shelf = new Shelf(records);
      const { estate } = shelf;
      const changes = staged(estate, records, asked);
      const trial = new Shelf(records);
      const undone = changes.map((change) => trial.carryOut(change)).filter((one) => one !== null);
      check(shelf, changes);
      check(trial, inOrderOfUndoing(undone));
    }),
    { numRuns: 250 },
  );
  expect([lost > 0, gained > 0]).toEqual([true, true]);
});
