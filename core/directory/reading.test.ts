import { DAY, rfc3339, seconds } from "../time/instant";
import { readPeopleList } from "./list";
import { agedTo, readingOf, type ToldPerson } from "./reading";

const T = seconds("2026-11-30T09:00:00Z");
const told = (email: string, more: Partial<ToldPerson> = {}): [string, ToldPerson] => [
  email,
  { email, name: email, status: "active", department: null, managerId: null, leftAt: null, suspendedAt: null, ...more },
];
const read = (file: string, before: [string, ToldPerson][], kind: "people" | "leavers" = "people") =>
  readingOf(readPeopleList(file), new Map(before), { kind, t: T, leftAfterDays: 14 });
const states = ({ people }: ReturnType<typeof read>) =>
  Object.fromEntries(people.map(({ email, status, leftAt }) => [email, [status, leftAt ?? null]]));

const [A, B, C] = ["a@home.example", "b@home.example", "c@home.example"];

test("whoever isn't in a list of people any more has left now; whoever comes back is active again", () => {
  const found = read(`address\n${A}\n${C}\n`, [
    told(A),
    told(B),
    told(C, { status: "left", leftAt: rfc3339(T - DAY) }),
  ]);
  expect(states(found)).toEqual({ [A]: ["active", null], [B]: ["left", rfc3339(T)], [C]: ["active", null] });
  expect(found.turns.map(({ address, outcome }) => [address, outcome])).toEqual([
    [C, "returns"],
    [B, "leaves"],
  ]);
  expect(found.counts).toMatchObject({ same: 1, returns: 1, leaves: 1, joins: 0 });
  expect(found.inactive).toEqual([B]);
});

test("a list of leavers speaks of nobody else; without a day they have left now", () => {
  const found = read(`address,last_day\n${A},2026-11-20\n${B},2026-12-05\n`, [told(A), told(B), told(C)], "leavers");
  expect(states(found)).toEqual({
    [A]: ["left", "2026-11-20T23:59:59Z"],
    [B]: ["active", "2026-12-05T23:59:59Z"],
  });
  expect(found.turns.map(({ address, outcome, words }) => [address, outcome, words])).toEqual([
    [A, "leaves", ""],
    [B, "last-day", "last day 2026-12-05"],
  ]);
  expect(states(read(`address\n${A}\n`, [told(A)], "leavers"))).toEqual({ [A]: ["left", rfc3339(T)] });
});

test("a last day that lies ahead is remembered by a list that has no such column, and dropped by an empty cell", () => {
  const before = [told(A, { leftAt: rfc3339(T + DAY) })];
  expect(states(read(`address\n${A}\n`, before))).toEqual({ [A]: ["active", rfc3339(T + DAY)] });
  expect(states(read(`address,last_day\n${A},\n`, before))).toEqual({ [A]: ["active", null] });
});

test("whoever has been suspended for longer than the days there are has left, since then", () => {
  const file = `address,status,suspended_on\n${A},suspended,2026-11-16\n${B},suspended,2026-11-17\n${C},suspended,\n`;
  const found = read(file, [told(A), told(B), told(C, { status: "suspended", suspendedAt: rfc3339(T - 2 * DAY) })]);
  expect(found.people.map(({ status, suspendedAt }) => [status, suspendedAt])).toEqual([
    ["left", "2026-11-16T00:00:00Z"],
    ["suspended", "2026-11-17T00:00:00Z"],
    ["suspended", rfc3339(T - 2 * DAY)],
  ]);
});

test("as time goes on a last day is over and a suspension too long; with more days, it no longer is", () => {
  const [, leaving] = told(A, { leftAt: rfc3339(T + DAY) });
  const [, suspended] = told(A, { status: "suspended", suspendedAt: rfc3339(T - 10 * DAY) });
  expect(agedTo(T, leaving, 14).status).toBe("active");
  expect(agedTo(T + DAY, leaving, 14).status).toBe("left");
  expect(agedTo(T, suspended, 14).status).toBe("suspended");
  const left = agedTo(T + 4 * DAY, suspended, 14);
  expect([left.status, left.leftAt]).toEqual(["left", null]);
  expect(agedTo(T + 4 * DAY, left, 30).status).toBe("suspended");
});

test("reading the same again changes nothing", () => {
  const file = `address,name,status,department,manager,last_day,groups\n${A},Ada,active,Strings,${B},2026-12-24,Tour\n${B},Bo,,,,,\n`;
  const first = read(file, []);
  const before = first.people.map(({ email, type: _, id: __, ...rest }): [string, ToldPerson] => [
    email,
    { email, ...rest },
  ]);
  const again = read(file, before);
  expect(again.people).toEqual(first.people);
  expect([again.turns, again.counts.same]).toEqual([[], 2]);
});

test("what changes is told in words", () => {
  const file = `address,name,department,manager\n${A},Ada,Brass,${B}\n${B},b,,\n`;
  const [turn] = read(file, [told(A, { department: "Strings" }), told(B, { name: "b" })]).turns;
  expect(turn).toMatchObject({ outcome: "changes" });
  expect(turn.words).toBe(`name: ${A} → Ada; department: Strings → Brass; manager: none → ${B}`);
});

test("groups are those of a list of people; a list without the column says nothing of them", () => {
  const { groups } = read(`address,groups\n${A},Strings|Tour\n${B},Strings\n`, []);
  expect(groups!.groups.map(({ name }) => name)).toEqual(["Strings", "Tour"]);
  expect(groups!.members).toHaveLength(3);
  expect(read(`address\n${A}\n`, []).groups).toBeNull();
});

test("circles of managers, and managers of whom nobody tells, are told once and kept", () => {
  const found = read(`address,manager\n${A},${B}\n${B},${A}\n${C},far@home.example\n`, []);
  expect(found.remarks).toEqual([
    { line: 2, message: `managers go round in a circle: ${A} → ${B} → ${A}` },
    { line: 4, message: `nothing is known about far@home.example, the manager of ${C}` },
  ]);
  expect(found.people.map(({ managerId }) => managerId)).toEqual([
    `mailto:${B}`,
    `mailto:${A}`,
    "mailto:far@home.example",
  ]);
});
