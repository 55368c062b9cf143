import { newEnforcer, newModelFromString, StringAdapter } from "casbin";
import fc from "fast-check";
import { estateOf, file, grant, group, head, inDays, item, link, named, NOW, person, store, T } from "@/tests/records";
import { buildEstate, type Estate } from "../estate/estate";
import type { EstateRecord, ItemRecord } from "../estate/records";
import { exposures } from "./exposure";
import { pathsTo } from "./paths";
import { eachReached, reachOf, whoReaches } from "./reach";
import { WaysIn } from "./waysIn";

const at = (estate: Estate, id: string) => estate.tree.position(id)!;
const exposureOf = (estate: Estate, id: string, t = T) => exposures(estate, t).at(at(estate, id));
const reachedBy = (estate: Estate, person: number, waysIn = new WaysIn(estate)) =>
  new Map(eachReached(estate, reachOf(estate, T, person, waysIn)));
const who = (estate: Estate, address: string) => estate.principals.findAddress(address)!;
const reached = (estate: Estate, address: string) =>
  [...reachedBy(estate, who(estate, address)).keys()].map((p) => estate.tree.idAt(p)).sort();

describe("what a share reaches", () => {
  const tree = [
    item("a", null),
    item("b", "a"),
    file("f", "b"),
    item("cut", "a", { inherits: false }),
    file("g", "cut"),
  ];

  test("goes down where items inherit, and stops at a cut", () => {
    expect(reached(estateOf(...tree, grant("s", "a", "out")), "out@quay.example")).toEqual(["a", "b", "f"]);
    expect(reached(estateOf(...tree, grant("s", "cut", "out")), "out@quay.example")).toEqual(["cut", "g"]);
  });

  test("nothing that is binned or lies in something binned, cut or not", () => {
    const binned = tree.map((one) => (one.id === "cut" || one.id === "b" ? { ...one, state: "binned" as const } : one));
    const estate = estateOf(...binned, grant("s", "a", "out"), grant("t", "g", "out"));
    expect(reached(estate, "out@quay.example")).toEqual(["a"]);
    expect(exposureOf(estate, "g")).toBeNull();
  });
});

describe("when a share is live", () => {
  const live = (more: Parameters<typeof link>[2]) =>
    exposureOf(estateOf(file("f", null), link("l", "f", more)), "f")!.open;

  test("ends are half-open: dead at the very instant, alive a second before", () => {
    expect(live({ expiresAt: NOW })).toBe(false);
    expect(live({ expiresAt: "2026-10-05T08:00:01Z" })).toBe(true);
    expect(live({ opensAt: NOW })).toBe(true);
    expect(live({ opensAt: "2026-10-05T08:00:01Z" })).toBe(false);
    expect(live({ revokedAt: NOW })).toBe(false);
    expect(live({ revokedAt: "2026-10-05T08:00:01Z" })).toBe(true);
  });
  test("a cap on uses that is reached ends it", () => {
    expect(live({ maxUses: 3, uses: 2 })).toBe(true);
    expect(live({ maxUses: 3, uses: 3 })).toBe(false);
    expect(live({ maxUses: 0 })).toBe(false);
  });
  test("a deposit link lets nobody read", () => expect(live({ role: "deposit" })).toBe(false));
});

describe("exposure", () => {
  test("counts each person once, by name, whatever the number of ways in", () => {
    const estate = estateOf(
      group("g", "out", "in"),
      file("f", null, { ownerId: "in" }),
      grant("s", "f", "out"),
      grant("t", "f", "g"),
      named("l", "f", ["OUT@Quay.example", "new@post.example"]),
    );
    expect(exposureOf(estate, "f")).toMatchObject({
      insiders: 1,
      outsiders: 2,
      organisations: ["post.example", "quay.example"],
    });
  });

  test("is keyed only where every open link has a password", () => {
    const keyed = link("k", "f", { password: true });
    expect(exposureOf(estateOf(file("f", null), keyed), "f")).toMatchObject({ open: true, openKeyed: true });
    expect(exposureOf(estateOf(file("f", null), keyed, link("l", "f")), "f")).toMatchObject({ openKeyed: false });
  });

  test("outside access adds up: strongest role, any download, latest end", () => {
    const estate = estateOf(
      file("f", null),
      grant("s", "f", "out", { role: "comment", download: false, expiresAt: inDays(10) }),
      link("l", "f", { download: true, expiresAt: inDays(20) }),
      grant("t", "f", "in", { role: "manage" }),
    );
    expect(exposureOf(estate, "f")).toMatchObject({
      outsideRole: "comment",
      outsideDownload: true,
      outsideUntil: T + 20 * 86_400,
    });
  });

  test("whoever has left or is suspended is counted nowhere, and an alias that is active counts", () => {
    const estate = estateOf(
      person("gone", "gone@quay.example", { status: "left" }),
      person("p1", "twice@quay.example", { status: "suspended" }),
      person("p2", "TWICE@quay.example"),
      file("f", null),
      grant("s", "f", "gone"),
      grant("t", "f", "p1"),
    );
    expect(exposureOf(estate, "f")).toMatchObject({ outsiders: 1 });
  });
});

describe("paths", () => {
  test("through groups in groups: the shortest chain, and of equals the first", () => {
    const estate = estateOf(
      group("top", "z-mid", "a-mid", "long"),
      group("z-mid", "leaf"),
      group("a-mid", "leaf"),
      group("long", "z-mid"),
      group("leaf", "out", "top"),
      file("f", null),
      grant("s", "f", "top"),
    );
    const [path] = pathsTo(estate, T, who(estate, "out@quay.example"), at(estate, "f"));
    expect(path).toMatchObject({ share: "s", kind: "grant", at: "f", via: ["top", "a-mid", "leaf"] });
  });

  test("ownership of a folder above, a house link for insiders, an open link for all", () => {
    const estate = estateOf(
      item("a", null, { ownerId: "in" }),
      file("f", "a"),
      link("h", "f", { reach: "house" }),
      link("o", "a"),
    );
    const kinds = (address: string) =>
      pathsTo(estate, T, who(estate, address), at(estate, "f")).map(({ kind }) => kind);
    expect(kinds("in@home.example")).toEqual(["house-link", "open-link", "owner"]);
    expect(kinds("out@quay.example")).toEqual(["open-link"]);
  });
});

/** Small random estates: a tree with cuts and bins, groups with cycles, grants at all sorts of places. */
const smallEstate = fc
  .record({
    parents: fc.array(fc.nat(), { minLength: 1, maxLength: 9 }),
    cuts: fc.array(fc.boolean(), { minLength: 9, maxLength: 9 }),
    binned: fc.array(fc.boolean(), { minLength: 9, maxLength: 9 }),
    members: fc.array(fc.tuple(fc.nat(3), fc.nat(8)), { maxLength: 10 }),
    grants: fc.array(fc.tuple(fc.nat(), fc.nat(8), fc.constantFrom("view", "edit")), { maxLength: 8 }),
  })
  .map(({ parents, cuts, binned, members, grants }) => {
    const people = Array.from({ length: 5 }, (_, i) => person(`p${i}`, `p${i}@${i < 2 ? "home" : "quay"}.example`));
    const groups = Array.from({ length: 4 }, (_, i) => ({ type: "group" as const, id: `g${i}`, name: `G${i}` }));
    const principal = (n: number) => (n < 5 ? `p${n}` : `g${n - 5}`);
    const items = parents.map((n, i) => {
      const parent = i === 0 || n % (i + 1) === i ? null : `i${n % i}`;
      return item(`i${i}`, parent, { inherits: !cuts[i], state: binned[i] && cuts[i] ? "binned" : "live" });
    });
    const rights = grants.map(([on, to, role], i) =>
      grant(`s${i}`, `i${on % items.length}`, principal(to), { role: role as "view" }),
    );
    const memberships = members.map(([g, m]): EstateRecord => ({
      type: "member",
      groupId: `g${g}`,
      memberId: principal(m),
    }));
    return { people, items, records: [head(), store(), ...people, ...groups, ...memberships, ...items, ...rights] };
  });

/** Whether an item and all above it are live: said again here, slowly, for the oracle. */
function isLive(items: ItemRecord[], id: string | null): boolean {
  const one = items.find((candidate) => candidate.id === id);
  return !one || (one.state === "live" && isLive(items, one.parentId));
}

describe("against casbin (resource and role hierarchy)", () => {
  /** g: people and groups in groups; g2: items that inherit in their parents. Chains stay under casbin's depth of ten. */
  const model = `
    [request_definition]
    r = sub, obj
    [policy_definition]
    p = sub, obj
    [role_definition]
    g = _, _
    g2 = _, _
    [policy_effect]
    e = some(where (p.eft == allow))
    [matchers]
    m = g(r.sub, p.sub) && g2(r.obj, p.obj)`;

  test("the same people reach the same items", async () => {
    await fc.assert(
      fc.asyncProperty(smallEstate, async ({ people, items, records }) => {
        const policy = records.flatMap((record) => {
          if (record.type === "grant") return [`p, ${record.toId}, ${record.itemId}`];
          if (record.type === "member") return [`g, ${record.memberId}, ${record.groupId}`];
          if (record.type === "item" && record.parentId && record.inherits)
            return [`g2, ${record.id}, ${record.parentId}`];
          return [];
        });
        const enforcer = await newEnforcer(
          newModelFromString(model),
          new StringAdapter(policy.join("\n") || "p, x, x"),
        );
        const estate = buildEstate(records);
        const waysIn = new WaysIn(estate);
        for (const { id, email } of people) {
          const ours = reachedBy(estate, who(estate, email), waysIn);
          for (const { id: itemId } of items) {
            const theirs = isLive(items, itemId) && (await enforcer.enforce(id, itemId));
            expect([itemId, id, ours.has(at(estate, itemId))]).toEqual([itemId, id, theirs]);
          }
        }
      }),
      { numRuns: 60 },
    );
  });
});

test("exposure, who, reach and paths agree with each other on random estates", () => {
  fc.assert(
    fc.property(smallEstate, ({ records, people, items }) => {
      const estate = buildEstate(records);
      const all = exposures(estate, T);
      const waysIn = new WaysIn(estate);
      for (const { id } of items) {
        const position = at(estate, id);
        const here = whoReaches(estate, T, position);
        const insiders = [...here.keys()].filter((one) => estate.people[one].insider).length;
        expect([all.at(position)?.insiders ?? 0, all.at(position)?.outsiders ?? 0]).toEqual([
          insiders,
          here.size - insiders,
        ]);
        for (const { email } of people) {
          const one = who(estate, email);
          const paths = pathsTo(estate, T, one, position);
          expect(paths.length > 0).toBe(here.has(one));
          expect(reachedBy(estate, one, waysIn).get(position)).toEqual(here.get(one));
        }
      }
    }),
  );
});
