import fc from "fast-check";
import { estateOf, file, grant, group, inDays, item, link, named, NOW, person, store, T } from "@/tests/records";
import { pathsTo } from "../access/paths";
import { WaysIn } from "../access/waysIn";
import { alteredBy } from "../changes/altered";
import { effectsOf } from "./effects";
import type { Estate } from "../estate/estate";
import type { EstateRecord } from "../estate/records";
import type { Change } from "../changes/change";
import { previewOf } from "./preview";
import { previewWords } from "./previewWords";
import { verdictOn } from "../changes/verdict";

const revoke = (...ids: string[]): Change[] => ids.map((shareId) => ({ action: "revoke", shareId }));
const tree = [item("a", null, { name: "Tour" }), file("f", "a", { name: "Plan" }), file("g", "a", { name: "List" })];

describe("who loses what", () => {
  test("somebody with one way in loses all that it reached", () => {
    const preview = previewOf(estateOf(tree, grant("s", "a", "out")), revoke("s"), T);
    expect(preview.people).toMatchObject([
      { address: "out@quay.example", loses: { count: 3, names: ["Tour", "Plan", "List"] }, keeps: { count: 0 } },
    ]);
    expect([preview.itemsLostOutside, preview.addressesStopping]).toEqual([3, 0]);
    expect(previewWords(preview)).toBe("1 change. 1 outsider loses access.");
  });

  test("a way in through a group, or by another link, is kept and named", () => {
    const estate = estateOf(
      tree,
      group("crew", "out"),
      grant("s", "a", "out"),
      grant("t", "f", "crew"),
      link("o", "g"),
    );
    const [effect] = previewOf(estate, revoke("s"), T).people;
    expect(effect).toMatchObject({
      loses: { count: 1, names: ["Tour"] },
      keeps: { count: 2, names: ["Plan", "List"] },
    });
    expect(effect.ways).toEqual([
      { share: "t", words: "group Group crew on Plan" },
      { share: "o", words: "open link on List" },
    ]);
  });

  test("an owner keeps what they own", () => {
    const estate = estateOf([item("a", null, { ownerId: "in", name: "Tour" }), file("f", "a")], grant("s", "f", "in"));
    const [effect] = previewOf(estate, revoke("s"), T).people;
    expect(effect).toMatchObject({
      insider: true,
      loses: { count: 0 },
      ways: [{ share: "owner:a", words: "owns Tour" }],
    });
  });

  test("revoking both ways in at once leaves none", () => {
    const estate = estateOf(tree, grant("s", "a", "out"), named("n", "f", ["OUT@quay.example"]));
    const preview = previewOf(estate, revoke("s", "n"), T);
    expect(preview.people).toMatchObject([{ loses: { count: 3 }, keeps: { count: 0 } }]);
    expect(preview.addressesStopping).toBe(1);
  });

  test("what is no longer open to anyone, and what another open link leaves open", () => {
    const estate = estateOf(tree, link("o", "a"), link("p", "f"));
    const { anyone } = previewOf(estate, revoke("o"), T);
    expect(anyone).toMatchObject({
      loses: { names: ["Tour", "List"] },
      keeps: { names: ["Plan"] },
      ways: [{ share: "p" }],
    });
  });

  test("the house loses what no other house link gives", () => {
    const { house, anyone } = previewOf(estateOf(tree, link("h", "f", { reach: "house" })), revoke("h"), T);
    expect([house.loses.count, anyone.loses.count]).toEqual([1, 0]);
  });

  test("a share that is dead already takes nothing from anybody, but its address counts", () => {
    const preview = previewOf(estateOf(tree, link("o", "a", { expiresAt: NOW })), revoke("o"), T);
    expect([preview.anyone.loses.count, preview.addressesStopping, preview.counts.revoke]).toEqual([0, 1, 1]);
  });

  test("an end date takes nothing now, and says when it will", () => {
    const changes: Change[] = [{ action: "set-expiry", shareId: "s", expiresAt: inDays(9) }];
    const preview = previewOf(estateOf(tree, grant("s", "a", "out")), changes, T);
    expect(preview).toMatchObject({
      counts: { "set-expiry": 1 },
      people: [],
      later: [{ shareId: "s", itemName: "Tour", on: "14 Oct 2026, 08:00 UTC" }],
    });
  });
});

describe("a link that is made for named people", () => {
  const estate = estateOf(tree, person("odo", "odo@post.example"), link("o", "a"), grant("s", "g", "odo"));
  const made: Change = { action: "make-link", shareId: "o", addresses: ["out@quay.example", "new@sail.example"] };

  test("by another in its place: anyone loses it, the people named keep it, and have to be sent the address", () => {
    const preview = previewOf(estate, [made, ...revoke("o")], T);
    expect(preview.anyone.loses).toMatchObject({ count: 3 });
    expect(preview.people).toMatchObject([{ address: "out@quay.example", loses: { count: 0 }, gains: { count: 0 } }]);
    expect(preview.newAddresses).toEqual([{ shareId: "o", itemName: "Tour", addresses: made.addresses }]);
    expect([preview.addressesStopping, preview.impossible]).toEqual([1, []]);
    expect(previewWords(preview)).toBe("2 changes. 3 items no longer open to anyone. 1 new address to be sent.");
  });

  test("beside one that stays, since its revoke was taken out: anyone gets in as before, the people named too", () => {
    const preview = previewOf(estate, [made], T);
    expect([preview.anyone.loses.count, preview.people.filter(({ loses }) => loses.count > 0)]).toEqual([0, []]);
    expect([preview.addressesStopping, preview.newAddresses]).toMatchObject([0, [{ shareId: "o" }]]);
    const own = estateOf(tree, person("odo", "odo@post.example"), named("n", "a", ["odo@post.example"]));
    const alone: Change = { action: "make-link", shareId: "n", addresses: ["out@quay.example"] };
    const effects = effectsOf(own, new WaysIn(own), alteredBy(own, [alone]), T);
    const who = (address: string) => effects.people.get(own.principals.findAddress(address)!);
    expect([who("odo@post.example"), who("out@quay.example")!.gains]).toEqual([undefined, [0, 3]]);
  });

  test("and revoked all the same lets nobody in", () => {
    const narrowing = estateOf(store("st", { changeReach: true }), tree, link("o", "a"));
    const narrow: Change = { action: "narrow", shareId: "o", addresses: ["out@quay.example"] };
    expect(previewOf(narrowing, [narrow], T).people).toMatchObject([{ loses: { count: 0 } }]);
    const both = effectsOf(narrowing, new WaysIn(narrowing), alteredBy(narrowing, [narrow, ...revoke("o")]), T);
    expect(both.anyone.waysLeft).toEqual([]);
    expect(both.people.get(narrowing.principals.findAddress("out@quay.example")!)?.keeps ?? []).toEqual([]);
  });
});

describe("a share that is over", () => {
  const over = grant("s", "a", "out", { expiresAt: inDays(-2) });
  const estate = estateOf(
    tree,
    over,
    link("o", "f", { expiresAt: inDays(-3) }),
    link("used", "f", { maxUses: 1, uses: 1 }),
  );
  const ends = (shareId: string, reopen?: true): Change => ({
    ...{ action: "set-expiry", shareId, expiresAt: inDays(9) },
    ...(reopen && { reopen }),
  });

  test("is not opened again by a new end that was meant for many", () => {
    const { impossible, later, people, anyone } = previewOf(estate, [ends("s"), ends("o")], T);
    expect(impossible.map(({ subject, why }) => `${subject}: ${why}`)).toEqual([
      "s expiry: It ended on 3 Oct 2026: a new end date would open it again.",
      "o expiry: It ended on 2 Oct 2026: a new end date would open it again.",
    ]);
    expect([later, people, anyone.gains.count]).toEqual([[], [], 0]);
  });

  test("opens again where that is said, as what it is: a gain", () => {
    const preview = previewOf(estate, [ends("s", true), ends("o", true)], T);
    expect(preview.reopened).toEqual([
      { shareId: "s", itemName: "Tour", until: "14 Oct 2026, 08:00 UTC" },
      { shareId: "o", itemName: "Plan", until: "14 Oct 2026, 08:00 UTC" },
    ]);
    expect([preview.later, preview.tighter, preview.impossible]).toEqual([[], [], []]);
    expect(preview.people).toMatchObject([{ address: "out@quay.example", gains: { count: 3 } }]);
    expect(preview.anyone.gains.count).toBe(1);
    expect(previewWords(preview)).toBe(
      "2 changes. 1 person gains access; 1 item open to anyone again. 2 ended shares open again.",
    );
  });

  test("is replaced by no new link, where it was used up", () => {
    const made: Change = { action: "make-link", shareId: "used", addresses: ["out@quay.example"] };
    const { impossible, people } = previewOf(estate, [made], T);
    expect([impossible[0].why, people]).toEqual([
      "It was used up: a new link in its place would let people in again.",
      [],
    ]);
  });
});

describe("handing over", () => {
  const handing: Change = { action: "hand-over", itemId: "a", address: "ivo@home.example", links: [] };
  const world = (source: string, isRead: boolean) =>
    estateOf(
      { ...store(), source: "st", isRead } as EstateRecord,
      { ...person("ivo", "ivo@home.example"), source } as EstateRecord,
      tree,
    );

  test("a store that doesn't know the person says so beforehand; one of which only a file tells may", () => {
    expect(verdictOn(world("else", true), handing, T)).toEqual({
      can: false,
      why: "Store st doesn’t know ivo@home.example.",
      instead: "Choose somebody who has an account there.",
    });
    expect(verdictOn(world("st", true), handing, T)).toEqual({ can: true });
    expect(verdictOn(world("else", false), handing, T)).toEqual({ can: true });
  });
});

describe("what can't be done", () => {
  const limited = store("st", { linkExpiry: ["open"], grantExpiry: ["view"], minExpiryLeadHours: 24 });
  const estate = estateOf(
    limited,
    tree,
    link("o", "f"),
    named("n", "f", ["out@quay.example"]),
    grant("e", "f", "out", { role: "edit" }),
    link("dead", "g", { revokedAt: NOW }),
  );
  const end = (shareId: string, days: number) =>
    verdictOn(estate, { action: "set-expiry", shareId, expiresAt: inDays(days) }, T);

  test.each([
    ["o", 2, null],
    ["o", 1, null],
    ["o", 0.9, "Store st needs at least 24 hours’ notice for an end date."],
    ["o", 0, "The end date is in the past."],
    ["o", -3, "The end date is in the past."],
    ["n", 30, "Store st can’t keep an end date on named links."],
    ["e", 30, "Store st can’t keep an end date on grants to edit."],
    ["dead", 30, "It has already been revoked."],
    ["nothing", 30, "This share is no longer in the estate."],
  ])("an end for %s in %s days", (shareId, days, why) => {
    const verdict = end(shareId, days);
    expect(verdict.can ? null : verdict.why).toBe(why);
  });

  test("is told in the preview with what can be done instead, and left out of the effects", () => {
    const preview = previewOf(
      estate,
      [...revoke("dead"), { action: "set-expiry", shareId: "n", expiresAt: inDays(30) }],
      T,
    );
    expect(preview.impossible.map(({ subject, instead }) => [subject, instead])).toEqual([
      ["dead", "Remove the change."],
      ["n expiry", "Give it a standing order, or revoke it."],
    ]);
    expect(previewWords(preview)).toBe("2 changes. 2 can't be done.");
  });
});

test("losses are told by organisation and by item: what anyone loses first, then what most people do", () => {
  const estate = estateOf(
    tree,
    person("una", "una@quay.example"),
    person("gus", "gus@post.example"),
    grant("s", "a", "out"),
    grant("u", "f", "una"),
    grant("g", "f", "gus"),
    link("o", "g"),
  );
  const { organisations, items } = previewOf(estate, revoke("s", "u", "g", "o"), T);
  expect(organisations).toEqual([
    { organisation: "quay.example", insider: false, people: 2, items: 3 },
    { organisation: "post.example", insider: false, people: 1, items: 1 },
  ]);
  expect(items).toEqual([
    { id: "g", name: "List", people: 1, anyone: true },
    { id: "f", name: "Plan", people: 3, anyone: false },
    { id: "a", name: "Tour", people: 1, anyone: false },
  ]);
});

test("an old password that another takes the place of is lost, and said to be", () => {
  const estate = estateOf(tree, link("o", "a", { password: true }), link("p", "a"));
  const changes = ["o", "p"].map((shareId): Change => ({ action: "set-password", shareId, replace: true }));
  const preview = previewOf(estate, changes, T);
  expect(preview.passwordsReplaced).toBe(1);
  expect(previewWords(preview)).toContain("1 password is replaced.");
  // It may have got one since the change was staged.
  expect(previewOf(estate, [{ action: "set-password", shareId: "o" }], T).impossible).toMatchObject([
    { name: "Tour", why: "It already has a password." },
  ]);
});

test("the line says each kind of loss", () => {
  const estate = estateOf(
    tree,
    person("in2", "in2@home.example"),
    grant("s", "a", "out"),
    grant("i", "a", "in2"),
    grant("k", "f", "out"),
    link("o", "a"),
    link("h", "g", { reach: "house" }),
  );
  expect(previewWords(previewOf(estate, revoke("s", "i", "o", "h"), T))).toBe(
    "4 changes. 1 outsider loses access; 3 items no longer open to anyone; 1 insider loses access; 1 item no longer open to all our own people; 1 keeps another way in.",
  );
});

/** Ids of the shares by which somebody comes to an item. */
function waysTo(estate: Estate, address: string, id: string): string[] {
  const position = estate.tree.position(id)!;
  return pathsTo(estate, T, estate.principals.findAddress(address)!, position).map((path) => path.share);
}

test("before and after equal asking twice, on random estates", () => {
  const place = fc.constantFrom("a", "f", "g", "b", "h");
  const share = fc.tuple(place, fc.constantFrom("out", "in", "crew", "named", "open", "house"), fc.boolean());
  fc.assert(
    fc.property(fc.array(share, { minLength: 1, maxLength: 7 }), (shares) => {
      const records: EstateRecord[] = [
        ...tree,
        item("b", "a", { inherits: false }),
        file("h", "b"),
        ...group("crew", "out", "in"),
      ];
      const made = shares.map(([on, to], i): EstateRecord => {
        if (to === "named") return named(`s${i}`, on, ["out@quay.example"]);
        return to === "open" || to === "house" ? link(`s${i}`, on, { reach: to }) : grant(`s${i}`, on, to);
      });
      const gone = shares.flatMap(([, , revoked], i) => (revoked ? [`s${i}`] : []));
      const before = estateOf(records, made);
      const after = estateOf(
        records,
        made.filter((one) => !gone.includes((one as { id: string }).id)),
      );
      for (const { address, loses, keeps } of previewOf(before, revoke(...gone), T).people) {
        const byName = (way: string) => gone.includes(way) && before.share(way)!.audience === "people";
        const touched = [...before.items.ids].filter((id) => waysTo(before, address, id).some(byName));
        const lost = touched.filter((id) => waysTo(after, address, id).length === 0);
        expect([loses.count, keeps.count]).toEqual([lost.length, touched.length - lost.length]);
      }
    }),
  );
});
