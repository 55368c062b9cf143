import fc from "fast-check";
import { type ItemSaid, ReportItems } from "./reportItems";
import { ReportShares } from "./reportShares";
import type { ShareTold } from "./row";
import { SharesByKey } from "./sharesByKey";

const orNull = <T>(some: fc.Arbitrary<T>) => fc.option(some, { nil: null });
const instant = orNull(fc.integer({ min: -1e9, max: 4e9 }));
const text = orNull(fc.constantFrom("a", "b", "", "Ærø 𝄞"));
const address = fc.constantFrom("ada@quay.example", "odo@quay.example", "ida@home.example");

const audience: fc.Arbitrary<ShareTold["audience"]> = fc.oneof(
  fc.record({ person: address }),
  fc.record({ group: fc.constantFrom("Crew", "people of the pier", "with\nline") }),
  fc.record({ reach: fc.constantFrom("open" as const, "house" as const) }),
  fc.record({ people: fc.uniqueArray(address, { minLength: 1 }) }),
);
const share: fc.Arbitrary<ShareTold> = fc.record({
  ...{ audience, ends: instant, lastUsed: instant, madeOn: instant, madeBy: orNull(address), id: text, url: text },
  role: fc.constantFrom("view" as const, "manage" as const, "deposit" as const),
  ...{ password: fc.boolean(), download: fc.boolean(), inherited: fc.boolean() },
});
const FIELDS = [
  ...(["audience", "role", "password", "download", "ends", "lastUsed", "madeBy", "madeOn"] as const),
  ...(["id", "url", "inherited"] as const),
];

test("shares come out of their columns as they went in, and as they were changed", () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(share, share), { minLength: 1, maxLength: 40 }), (pairs) => {
      const items = new ReportItems();
      const shares = new ReportShares(items);
      const item = items.add({ ...plain("/a"), row: 1 });
      pairs.forEach(([told], i) => shares.add(told, { item, row: i + 5, copy: i + 1 }));
      const out = [...shares.values()];
      expect(out.map((one) => [one.row, one.copy, one.item.id])).toEqual(pairs.map((_, i) => [i + 5, i + 1, "/a"]));
      const fields = (one: ShareTold) => FIELDS.map((field) => one[field]);
      expect(out.map(fields)).toEqual(pairs.map(([told]) => fields(told)));
      for (const [i, [, { audience, role, password, download, ends, lastUsed, madeBy }]] of pairs.entries())
        Object.assign(out[i], { audience, role, password, download, ends, lastUsed, madeBy });
      const changed = pairs.map(([{ madeOn, id, url, inherited }, later]) => ({
        ...later,
        ...{ madeOn, id, url, inherited },
      }));
      expect([...shares.values()].map(fields)).toEqual(changed.map(fields));
    }),
  );
});

function plain(id: string, path: string | null = id): ItemSaid {
  const name = path === null ? `called ${id}` : path.slice(path.lastIndexOf("/") + 1);
  return { id, path, name, kind: null, label: null, owner: null, inherits: true, row: 0 };
}

const said = fc.record({
  id: fc.constantFrom("/a", "/a/b", "/c", "7", "8", "9"),
  path: orNull(fc.constantFrom("/a", "/a/b", "/c")),
  name: fc.constantFrom("a", "b", "another"),
  kind: orNull(fc.constantFrom("space" as const, "folder" as const, "file" as const)),
  label: orNull(fc.constantFrom("public" as const, "restricted" as const)),
  owner: orNull(address),
  inherits: fc.boolean(),
  row: fc.nat(100),
});

test("items are found by their ids, and at a path the first that is there", () => {
  fc.assert(
    fc.property(fc.uniqueArray(said, { selector: ({ id }) => id }), (all) => {
      const items = new ReportItems();
      for (const one of all) items.add(one);
      const told = ({ id, path, name, kind, label, owner, inherits, row }: ItemSaid) => ({
        ...{ id, path, name, kind, label, owner, inherits, row },
      });
      expect([...items.values()].map(told)).toEqual(all);
      for (const { id } of all) expect(items.find(id)!.id).toBe(id);
      for (const path of ["/a", "/a/b", "/c", "/nowhere"])
        expect(items.findAt(path)?.id).toBe(all.find((one) => one.path === path)?.id);
      expect(items.find("nothing")).toBeUndefined();
      expect(Array.from(items.inOrder(), (at) => all[at].id)).toEqual(all.map(({ id }) => id).sort());
    }),
  );
});

test("shares are found by keys that are worked out again, however many there are", () => {
  const keys: string[] = [];
  const found = new SharesByKey((share) => keys[share]);
  for (let i = 0; i < 5_000; i++) {
    const key = `${i % 700} of ${i}`;
    expect(found.find(key)).toBeUndefined();
    keys.push(key);
    found.add(i, key);
  }
  expect(keys.map((key) => found.find(key))).toEqual(keys.map((_, i) => i));
  expect(found.find("none")).toBeUndefined();
});
