import { exposures } from "@/core/access/exposure";
import { eachReached, reachOf } from "@/core/access/reach";
import { WaysIn } from "@/core/access/waysIn";
import type { Action } from "@/core/changes/change";
import type { EffectWords, Preview } from "@/core/preview/preview";
import type { Intent } from "@/core/changes/intent";
import { type Estate, buildEstate } from "@/core/estate/estate";
import { ROLES } from "@/core/estate/records";
import { makeDemo } from "@/demo/scenario";
import { Random } from "@/demo/random";
import { seedOf } from "@/demo/seeds";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { stage, trayOf } from "@/server/dockets/tray";
import { prepareUndo } from "@/server/dockets/undo";
import { currentRecords } from "@/server/records/facts";
import { readStores } from "@/server/stores/read";
import { type House, openHouse } from "./house";
import { inDays, NOW, T } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(1_800_000);

/** Some as part of the tests; `npm run soak` does many. */
const DOCKETS = process.env.LATCH_SOAK ? 40 : 4;
const SIZE: [least: number, most: number] = process.env.LATCH_SOAK ? [30, 300] : [30, 60];
const ADMIN = "imre.varga@wrenmoor.example";
const random = new Random(Number(process.env.LATCH_SEED ?? 20_261_128));
let house: House;

beforeAll(async () => {
  const demo = makeDemo(new Date(NOW));
  const of = (store: string) => seedOf(demo, store).map(({ since: _, ...record }) => record) as never[];
  house = await openHouse(
    { stacks: of("stacks"), alcoves: of("alcoves"), dock: of("dock") },
    demo.house,
    "wrenmoor.example",
  );
});
afterAll(() => house.close());

async function estateNow(): Promise<Estate> {
  const records = [];
  for (const record of currentRecords(house.db)) records.push(record);
  return buildEstate(records);
}

type Reached = Map<string, Set<string>>;
/** Ids of the items that are open to a crowd, and that each person reaches by name. */
interface Reach {
  open: Set<string>;
  house: Set<string>;
  byName: Reached;
  insiders: Set<string>;
}

function reachIn(estate: Estate): Reach {
  const all = exposures(estate, T);
  const positions = Array.from({ length: estate.tree.length }, (_, at) => at);
  const idsOf = (test: (at: number) => boolean | undefined) =>
    new Set(positions.filter(test).map((at) => estate.tree.idAt(at)));
  const ways = new WaysIn(estate);
  const byName = estate.people.map(({ address, index }) => {
    const reached = [...eachReached(estate, reachOf(estate, T, index, ways))];
    return [address, new Set(reached.map(([at]) => estate.tree.idAt(at)))] as const;
  });
  return {
    open: idsOf((at) => all.at(at)?.open),
    house: idsOf((at) => all.at(at)?.house),
    byName: new Map(byName),
    insiders: new Set(estate.people.filter(({ insider }) => insider).map(({ address }) => address)),
  };
}

/** What each person reached by name in one, and reaches in no way in the other. */
function missing(inOne: Reach, inOther: Reach): Reached {
  const found: Reached = new Map();
  for (const [address, ids] of inOne.byName) {
    const isReached = (id: string) =>
      inOther.open.has(id) ||
      (inOther.insiders.has(address) && inOther.house.has(id)) ||
      inOther.byName.get(address)?.has(id);
    const gone = [...ids].filter((id) => !isReached(id));
    if (gone.length > 0) found.set(address, new Set(gone));
  }
  return found;
}

const counts = (reached: Reached) => Object.fromEntries([...reached].map(([address, ids]) => [address, ids.size]));
const told = (preview: Preview, what: "loses" | "gains") =>
  Object.fromEntries(preview.people.filter((one) => one[what].count > 0).map((one) => [one.address, one[what].count]));
const less = (one: Set<string>, other: Set<string>) => [...one].filter((id) => !other.has(id)).length;

/** What a preview said must be what is found afterwards: person by person, item by item, and of both crowds. */
function compare(preview: Preview, before: Reach, after: Reach) {
  const lost = missing(before, after);
  expect(told(preview, "loses")).toEqual(counts(lost));
  expect(told(preview, "gains")).toEqual(counts(missing(after, before)));
  for (const [crowd, effect] of [
    ["open", preview.anyone],
    ["house", preview.house],
  ] as ["open" | "house", EffectWords][]) {
    expect([crowd, effect.loses.count]).toEqual([crowd, less(before[crowd], after[crowd])]);
    expect([crowd, effect.gains.count]).toEqual([crowd, less(after[crowd], before[crowd])]);
  }
  for (const { id, people, anyone } of preview.items) {
    const losers = [...lost.values()].filter((ids) => ids.has(id)).length;
    expect([id, people, anyone]).toEqual([id, losers, before.open.has(id) && !after.open.has(id)]);
  }
}

/** Something that can be wished of the estate as it stands, of any kind; null where this one has nothing to be wished of. */
function intentOf(action: string, estate: Estate): Intent | null {
  const { shares, tree, people, principals } = estate;
  const shareWhere = (test: (slot: number) => boolean) => {
    for (let tries = 0; tries < 200; tries++) {
      const slot = random.between(0, shares.count - 1);
      if (shares.position[slot] >= 0 && test(slot)) return slot;
    }
    return null;
  };
  const isActive = (index: number) => principals.active[index] === 1;
  const somebody = (test: (index: number) => boolean = isActive) => {
    for (;;) {
      const { index, address } = random.pick(people);
      if (test(index)) return address;
    }
  };
  const isStanding = (slot: number) => shares.revoked[slot] > T;
  const onShare = (make: (shareId: string) => Intent, test = isStanding) => {
    const slot = shareWhere(test);
    return slot === null ? null : make(shares.idOf(slot));
  };
  const isOver = (slot: number) => isStanding(slot) && shares.expires[slot] <= T;
  const anItem = (test: (at: number) => boolean) => {
    for (;;) {
      const at = random.between(0, tree.length - 1);
      if (tree.live[at] === 1 && test(at)) return tree.idAt(at);
    }
  };
  const worksHere = (index: number) => isActive(index) && principals.insider[index] === 1;
  const addresses = () => [somebody(), "someone.new@quay-hall.example"];
  switch (action) {
    case "set-password":
      return onShare((shareId) => ({ action, shareId, replace: true }));
    case "revoke":
    case "block-download":
      return onShare((shareId) => ({ action, shareId }));
    case "set-expiry":
      return onShare((shareId) => ({ action, shareId, expiresAt: inDays(random.between(2, 400)), later: true }));
    case "reopen":
      return onShare(
        (shareId) => ({
          action: "set-expiry",
          shareId,
          expiresAt: inDays(random.between(2, 400)),
          later: true,
          reopen: true,
        }),
        isOver,
      );
    case "order-revoke":
      return onShare((shareId) => ({ action, shareId, on: inDays(random.between(2, 400)), later: true }));
    case "set-role":
      return onShare((shareId) => ({ action, shareId, role: random.pick(ROLES.slice(0, 3)) }));
    case "narrow":
    case "make-link":
      return onShare(
        (shareId) => ({ action, shareId, addresses: addresses() }),
        (slot) => isStanding(slot) && shares.isLink(slot),
      );
    case "drop-recipient": {
      const slot = shareWhere((one) => isStanding(one) && shares.recipientsTo[one] > shares.recipientsFrom[one]);
      if (slot === null) return null;
      const who = random.between(shares.recipientsFrom[slot], shares.recipientsTo[slot] - 1);
      return { action, shareId: shares.idOf(slot), address: people[shares.recipients[who]].address };
    }
    case "leave-group": {
      const group = random.between(0, principals.groups.length - 1);
      const members = [...principals.directPeople(group)];
      if (members.length === 0) return null;
      return { action, groupId: principals.groups[group].id, address: people[random.pick(members)].address };
    }
    case "stop-inheriting":
      return { action, itemId: anItem((at) => tree.inheritsAt(at)) };
    case "hand-over":
      // Nothing goes back to an owner who has left: that is told by the undo, and no matter of this test.
      return { action, itemId: anItem((at) => estate.activeOwnerAt(at) >= 0), address: somebody(worksHere), links: [] };
    case "seal":
      return { action, itemId: anItem(() => true), below: random.chance(0.3) };
    case "cut-off":
      return { action, address: somebody() };
    case "cut-off-organisation":
      return {
        action,
        organisation:
          people[estate.principals.findAddress(somebody((one) => principals.insider[one] === 0))!].organisation,
      };
    case "clear":
      return { action };
    default:
      throw new Error(`nobody knows how to intent for ${action}`);
  }
}

/** Each kind of change, the large intents less often. */
const KINDS = [
  ...["revoke", "set-expiry", "reopen", "order-revoke", "set-role", "block-download", "narrow", "make-link"],
  ...["drop-recipient", "leave-group", "stop-inheriting", "hand-over", "set-password"],
];
const LARGE = ["seal", "cut-off", "cut-off-organisation", "clear"];

async function applied(docketId: string, preview: Preview) {
  await applyDocket(house.app, docketId, ADMIN, { reopened: preview.reopened.length });
  await allCarriedOut(house.app);
  // What was done is known already: no reading finds anything new.
  expect(
    (await readStores(house.app, () => {}, { withEvents: false })).map(({ changed, error }) => [changed, error]),
  ).toEqual(Array(3).fill([0, undefined]));
}

const done = new Set<Action | "reopen">();

test.each(Array.from({ length: DOCKETS }, (_, n) => n + 1))(
  "docket %i of every action does what its preview says in every store, and its undo brings all back",
  async () => {
    const estate = await estateNow();
    const before = reachIn(estate);
    const size = random.between(...SIZE);
    const intents: Intent[] = [];
    for (let n = 0; n < size; n++) {
      const intent = intentOf(random.chance(0.03) ? random.pick(LARGE) : KINDS[n % KINDS.length], estate);
      if (intent) intents.push(intent);
    }
    expect((await stage(house.app, ADMIN, intents)).unknown).toEqual([]);
    const { docketId, preview, changes } = await trayOf(house.app, ADMIN);
    await applied(docketId!, preview!);
    // What can't be done is known beforehand, and nothing else is left undone.
    const left = await house.undone(docketId!);
    expect(left).toEqual(preview!.impossible.map(({ subject }) => subject).sort());
    const after = reachIn(await estateNow());
    compare(preview!, before, after);
    for (const { change } of changes) done.add("reopen" in change ? "reopen" : change.action);

    const { docketId: undoId } = await prepareUndo(house.app, docketId!, null, ADMIN);
    const waiting = await house.preview(undoId);
    await applied(undoId, waiting);
    const back = reachIn(await estateNow());
    compare(waiting, after, back);
    expect(counts(missing(before, back))).toEqual({});
    expect(counts(missing(back, before))).toEqual({});
    expect([less(before.open, back.open), less(back.open, before.open)]).toEqual([0, 0]);
    expect([less(before.house, back.house), less(back.house, before.house)]).toEqual([0, 0]);
  },
);

test("every action was among them", () => {
  expect(KINDS.filter((kind) => !done.has(kind as Action))).toEqual([]);
});
