import fc from "fast-check";
import { believed, type Sourced } from "@/core/estate/believed";
import { personTold } from "@/core/directory/person";
import { buildEstate, Estate } from "@/core/estate/estate";
import type { EstateRecord, PersonRecord } from "@/core/estate/records";
import { head, person } from "./records";

const ADDRESS = "ida@home.example";
const SOURCES = ["alcoves", "personnel", "stacks"];

const days = fc.constantFrom(undefined, null, "2026-11-01T00:00:00Z", "2026-12-01T00:00:00Z");
const record = fc.record({
  source: fc.constantFrom(...SOURCES),
  status: fc.constantFrom<PersonRecord["status"]>("active", "suspended", "left"),
  name: fc.constantFrom("", "Ida", "I. Dahl"),
  department: fc.constantFrom(undefined, null, "Strings", "Brass"),
  managerId: fc.constantFrom(undefined, null, "m1", "m2"),
  leftAt: days,
});
const records = fc
  .array(record, { minLength: 1, maxLength: 6 })
  .map((all) =>
    all.map(({ source, ...more }, i): Sourced<PersonRecord> => ({ ...person(`p${i}`, ADDRESS, more), source })),
  );
const belief = fc.shuffledSubarray(SOURCES);

/** The sources in their order, and of each thing the first that tells it: written down from the words alone. */
function plainly(all: readonly Sourced<PersonRecord>[], order: readonly string[]) {
  const names = [...order, ...SOURCES.filter((one) => !order.includes(one)).sort()];
  const inOrder = names.flatMap((name) => all.filter(({ source }) => source === name));
  const first = inOrder.filter(({ source }) => source === inOrder[0].source);
  const told = <K extends keyof PersonRecord>(key: K) => inOrder.map((one) => one[key]).find((value) => value != null);
  return {
    name: inOrder.map(({ name }) => name).find((name) => name !== "") ?? ADDRESS,
    status: first.some(({ status }) => status === "active") ? "active" : first[0].status,
    department: told("department") ?? null,
    managerId: told("managerId") ?? null,
    leftAt: told("leftAt") ? Date.parse(told("leftAt")!) / 1000 : null,
  };
}

const shown = ({ first: _, from: __, suspendedAt: ___, ...rest }: ReturnType<typeof believed>) => rest;
const stable = (all: readonly Sourced<PersonRecord>[]) =>
  SOURCES.flatMap((source) => all.filter((one) => one.source === source));

function idaIn(all: readonly EstateRecord[], order: readonly string[]) {
  const estate = new Estate();
  estate.takeBelief(order);
  for (const one of [head(), ...all]) estate.put(one);
  estate.settle();
  return estate.people[estate.principals.findAddress(ADDRESS)!];
}

test("what is believed follows from what sources say and from their order alone, never from who spoke first", () => {
  fc.assert(
    fc.property(records, belief, (all, order) => {
      const expected = plainly(stable(all), order);
      expect(shown(believed(stable(all), order))).toEqual(expected);
      // Sources speak in another order; what one source says stays in its own.
      const sources = [...SOURCES].reverse();
      const other = sources.flatMap((source) => all.filter((one) => one.source === source));
      expect(shown(believed(other, order))).toEqual(expected);
      expect(idaIn(other, order)).toMatchObject(expected);
    }),
    { numRuns: 500 },
  );
});

test("a person keeps their id, whoever is believed", () => {
  fc.assert(
    fc.property(records, belief, belief, (all, one, other) => {
      expect(believed(all, one).first.id).toBe(believed(all, other).first.id);
    }),
  );
});

test("what a source took back is the other's again", () => {
  fc.assert(
    fc.property(records, belief, fc.constantFrom("department", "managerId", "leftAt"), (all, order, key) => {
      const { from } = believed(stable(all), order);
      const source = from[key as "department"]?.source;
      if (source === undefined) return;
      const without = stable(all).map((one) => (one.source === source ? { ...one, [key]: null } : one));
      const rest = stable(all).filter((one) => one.source !== source);
      const [now, others] = [shown(believed(without, order)), rest.length > 0 && shown(believed(rest, order))];
      expect(now[key as "department"]).toEqual(others ? others[key as "department"] : null);
    }),
    { numRuns: 500 },
  );
});

test("an estate that learns another order is as one that was built in it", () => {
  fc.assert(
    fc.property(records, belief, belief, (all, first, then) => {
      const estate = buildEstate([head(), ...all]);
      for (const order of [first, then]) {
        estate.takeBelief(order);
        estate.settle();
        expect(estate.people[estate.principals.findAddress(ADDRESS)!]).toEqual(idaIn(all, order));
      }
      const restored = Estate.restore(structuredClone(estate.columns()), then);
      expect(restored.people[restored.principals.findAddress(ADDRESS)!]).toEqual(idaIn(all, then));
    }),
  );
});

test("a person's page tells every record once, and marks of each thing the one that is believed", () => {
  fc.assert(
    fc.property(records, belief, (all, order) => {
      const estate = buildEstate([head(), ...all]);
      estate.takeBelief(order);
      estate.settle();
      const told = personTold(estate, estate.principals.findAddress(ADDRESS)!);
      expect(told.said).toHaveLength(all.length);
      const marked = told.said.flatMap((one) => one.believed.map((key) => [key, one] as const));
      expect(new Set(marked.map(([key]) => key)).size).toBe(marked.length);
      for (const [key, one] of marked)
        if (key === "department") expect(told.department).toBe(one.department);
        else if (key === "status" && told.status === "active") expect(one.status).toBe("active");
    }),
  );
});
