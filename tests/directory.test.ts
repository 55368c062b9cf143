import { setTimeout as wait } from "node:timers/promises";
import { readEstateFile, recordLine } from "@/core/estate/estateFile";
import { DAY, rfc3339 } from "@/core/time/instant";
import { setLeftAfterDays } from "@/server/directory/leftAfter";
import { type ListGiven, listOutlook, prepared } from "@/server/directory/lists";
import { takeList } from "@/server/directory/take";
import { setBelief } from "@/server/records/belief";
import { keepFacts } from "@/server/records/facts";
import { writing } from "@/server/platform/db/open";
import { exportEstate } from "@/server/records/exportEstate";
import { entriesBefore } from "@/server/records/ledger/ledger";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, grant, group, item, person, store, T } from "./records";

const ADA = "ada@home.example";
let house: House;

const STACKS = [
  store("stacks"),
  ...PEOPLE,
  person("bo", "bo@home.example", { department: "Percussion", managerId: "ida" }),
  item("a", null, { ...inStacks, name: "Tour" }),
  file("f", "a", { ...inStacks, name: "Rider" }),
  { type: "group" as const, id: "tour", name: "Tour", storeId: "stacks", sameAs: "tour@home.example" },
  ...group("crew", "bo"),
  grant("g", "f", "tour", { grantedBy: "ida" }),
];

beforeEach(async () => {
  house = await openHouse({ stacks: STACKS, alcoves: [], dock: [] });
});
afterEach(() => house.close());

const list = (text: string, more: Partial<ListGiven> = {}): ListGiven => ({
  ...{ directory: "personnel", kind: "people", file: "people.csv", text },
  ...more,
});
const whatever = { digest: null, inactive: null };
async function read(text: string, more: Partial<ListGiven> = {}) {
  await takeList(house.db, list(text, more), whatever, ADA);
  await house.app.engine.ask("refresh", {});
}
const told = (address: string) => house.app.engine.ask("personTold", { address });
const insiders = async () => {
  const asked = { query: "", by: "address" as const, reversed: false, from: 0, count: 500 };
  return (await house.app.engine.ask("insiderPage", asked)).page;
};

test("a directory is believed before a store, for each thing that it tells; the page says who says what", async () => {
  await read("address,name,department\nbo@home.example,Bo Drum,Timpani\nida@home.example,,\n");
  const bo = (await told("bo@home.example"))!;
  expect(bo).toMatchObject({ name: "Bo Drum", department: "Timpani", manager: { address: "ida@home.example" } });
  expect(bo.said.map(({ source, believed }) => [source, believed])).toEqual([
    ["personnel", ["name", "status", "department"]],
    ["stacks", ["managerId"]],
  ]);
  // A name that the directory leaves empty is the store's still.
  expect(await told("ida@home.example")).toMatchObject({ name: "Person ida" });
  await setBelief(house.db, ["stacks", "personnel", ...(await others())], ADA);
  await house.app.engine.ask("refresh", {});
  expect(await told("bo@home.example")).toMatchObject({ name: "Person bo", department: "Percussion" });
});

async function others(): Promise<string[]> {
  const { knownSources } = await import("@/server/records/belief");
  return (await knownSources(house.db))
    .map(({ name }) => name)
    .filter((name) => !["stacks", "personnel"].includes(name));
}

test("an order that lacks a source, or has one twice, is refused and nothing is set", async () => {
  await expect(setBelief(house.db, ["stacks"], ADA)).rejects.toThrow(
    "Another source has been read since. Check the order again, then save it.",
  );
  expect((await entriesBefore(house.db, Infinity, 20)).map(({ kind }) => kind)).not.toContain("belief-set");
});

test("whoever a directory no longer tells of has left, and counts among the leavers", async () => {
  await read("address,name\nbo@home.example,Bo\nida@home.example,Ida\n");
  expect((await insiders()).find(({ address }) => address === "bo@home.example")?.status).toBe("active");
  await house.later(1);
  await read("address,name\nida@home.example,Ida\n");
  expect(await told("bo@home.example")).toMatchObject({ status: "left", lastDay: T + DAY });
  const leavers = await house.app.engine.ask("leavers", {});
  expect(leavers).toMatchObject([{ address: "bo@home.example", status: "left", since: T + DAY, groups: 1 }]);
  // The past is told as it was.
  const before = await house.app.engine.ask("personTold", { address: "bo@home.example" }, T + 100);
  expect(before?.status).toBe("active");
});

test("what is read is what was shown: where the directory has changed since, nothing is", async () => {
  const given = list("address\nida@home.example\n");
  const { digest } = await listOutlook(house.db, given);
  await read("address\nida@home.example\nbo@home.example\n");
  const late = takeList(house.db, given, { digest, inactive: null }, ADA);
  await expect(late).rejects.toThrow("has changed since this was shown");
  expect((await told("bo@home.example"))?.status).toBe("active");
});

test("in a thread of its own a list is read as it was shown; where its directory has changed since, nothing is", async () => {
  const { lists } = house.app;
  const given = list("address,groups\nida@home.example,Tour\nbo@home.example,Tour\n");
  const take = (digest: string) =>
    lists.ask({ task: "take", given, said: { digest, inactive: null }, actor: ADA }, ADA);
  const first = await lists.ask({ task: "look", given }, ADA);
  expect(first).toMatchObject({ counts: { joins: 2 }, joined: 2 });
  await read("address,groups\nida@home.example,Tour\n");
  await expect(take(first.digest)).rejects.toThrow("has changed since this was shown");
  const second = await lists.ask({ task: "look", given }, ADA);
  expect(second).toMatchObject({ counts: { joins: 1, same: 1 }, joined: 1 });
  // A membership that is over is no new fact, and changes what a list does all the same.
  await read("address,groups\nida@home.example,\n");
  await expect(take(second.digest)).rejects.toThrow("has changed since this was shown");
  const third = await lists.ask({ task: "look", given }, ADA);
  expect(await take(third.digest)).toEqual(third);
  await house.app.engine.ask("refresh", {});
  expect((await told("bo@home.example"))?.groups.map(({ name }) => name)).toContain("Tour");
  await expect(lists.ask({ task: "look", given: { ...given, directory: "stacks" } }, ADA)).rejects.toThrow(
    "is the name of another source",
  );
});

test("comparing a list can be stopped, and so can reading it: what was written stays", async () => {
  const { lists } = house.app;
  const given = list(`address\n${many(25_000)}\n`);
  const looking = lists.ask({ task: "look", given }, ADA);
  while (lists.stepOf(ADA)?.words !== "Reading the list") await wait(5);
  expect(lists.stepOf("another@home.example")).toBeNull();
  await lists.stop("another@home.example");
  await lists.stop(ADA);
  await expect(looking).rejects.toThrow("Stopped. Nothing was changed.");
  expect(lists.stepOf(ADA)).toBeNull();

  const { digest } = await lists.ask({ task: "look", given }, ADA);
  const taking = lists.ask({ task: "take", given, said: { digest, inactive: null }, actor: ADA }, ADA);
  const steps = new Set<number>();
  const isWriting = () => lists.stepOf(ADA)?.words === "Writing the changes";
  while (steps.size < 2) {
    if (isWriting()) steps.add(lists.stepOf(ADA)!.done);
    await wait(2);
  }
  await lists.stop(ADA);
  await expect(taking).rejects.toThrow("What was written stays. Preview the list again to read the rest.");
  const { joins, same } = (await lists.ask({ task: "look", given }, ADA)).counts;
  expect([joins! + same!, same! >= Math.max(...steps), joins! > 0]).toEqual([25_000, true, true]);
});

test("what was worked out is read without working it out again, as long as nothing has changed", async () => {
  await read("address\nida@home.example\nbo@home.example\n");
  const given = list("address\nida@home.example\n");
  const shown = await prepared(house.db, given);
  house.app.clock.standsAt = new Date((T + 2 * DAY) * 1_000);
  await takeList(house.db, given, whatever, ADA, { shown });
  await house.app.engine.ask("refresh", {});
  // Bo has left when that was shown, and not when it was confirmed.
  const left = await house.app.engine.ask("leavers", {});
  expect(left).toMatchObject([{ address: "bo@home.example", since: T }]);
});

test("a list with bad lines is refused whole, and says each", async () => {
  const given = list("address,status\nida@home.example,active\nbo@home.example,gone\n");
  expect((await listOutlook(house.db, given)).problems).toEqual([
    { line: 3, message: expect.stringMatching(/status "gone"/) },
  ]);
  await expect(takeList(house.db, given, whatever, ADA)).rejects.toThrow(/people.csv can’t be read: line 3: status/);
  expect((await told("ida@home.example"))?.said.map(({ source }) => source)).toEqual(["stacks"]);
});

test("a name that a store has already is refused", async () => {
  await expect(listOutlook(house.db, list("address\na@home.example\n", { directory: "stacks" }))).rejects.toThrow(
    "is the name of another source",
  );
});

const many = (count: number, from = 0) =>
  Array.from({ length: count }, (_, i) => `p${from + i}@home.example`).join("\n");

test("a long list is read a piece at a time, and told once; where another comes in between, that is said", async () => {
  const given = list(`address\n${many(6_000)}\n`);
  const shown = await prepared(house.db, given);
  const reading = takeList(house.db, given, whatever, ADA, { shown });
  const between = writing(house.db, (tx) => {
    const record = person("p0@home.example", "p0@home.example", { name: "Somebody else" });
    return keepFacts(tx, "personnel", [{ record, at: rfc3339(T), since: null }]);
  });
  await expect(reading).rejects.toThrow("only a part of this list was read");
  await between;
  await takeList(house.db, given, whatever, ADA);
  await house.app.engine.ask("refresh", {});
  expect((await told("p0@home.example"))?.name).toBe("Somebody else");
  expect((await told("p5999@home.example"))?.status).toBe("active");
  const entries = (await entriesBefore(house.db, Infinity, 20)).filter(({ kind }) => kind === "directory-read");
  expect(entries.map(({ body }) => (body as { joins: number }).joins)).toEqual([1_000, 6_000]);
});

test("a reading that leaves many inactive at once waits for somebody's word, with the number", async () => {
  await read(`address\n${many(200)}\n`);
  const half = list(`address\n${many(100)}\n`);
  const { brake, digest } = await listOutlook(house.db, half);
  // The store's three insiders are active too.
  expect(brake).toEqual({ inactive: 100, active: 203 });
  const held = takeList(house.db, half, { digest, inactive: null }, ADA);
  await expect(held).rejects.toThrow(/Nothing was changed: 100 of the 203/);
  expect((await entriesBefore(house.db, Infinity, 20))[0]).toMatchObject({
    kind: "directory-held",
    body: { inactive: 100, active: 203 },
  });
  expect((await told("p150@home.example"))?.status).toBe("active");
  await takeList(house.db, half, { digest, inactive: 100 }, ADA);
  await house.app.engine.ask("refresh", {});
  expect((await told("p150@home.example"))?.status).toBe("left");
});

test.each([
  [19, 100, false],
  [20, 100, true],
  [20, 203, false],
  [21, 203, true],
])("%i who leave of about %i: is it held?", async (leaving, all, isHeld) => {
  await read(`address\n${many(all - 3)}\n`);
  const { brake } = await listOutlook(house.db, list(`address\n${many(all - 3 - leaving)}\n`));
  expect(brake !== null).toBe(isHeld);
});

test("a store's group is the directory's group where the store says so: then its members count", async () => {
  const reach = async () => (await house.app.engine.ask("waysIn", { person: "bo@home.example" })) as { count: number };
  expect((await reach()).count).toBe(0);
  // The directory names the group in its list; its address is told by a file of its own.
  await read("address,groups\nbo@home.example,tour@home.example\n");
  expect((await reach()).count).toBe(1);
  await read("address,groups\nbo@home.example,\n");
  expect((await reach()).count).toBe(0);
});

test("suspended for longer than the days set is left, as soon as the hour is over; with more days, suspended again", async () => {
  await read("address,status\nida@home.example,\nbo@home.example,suspended\n");
  const status = async () => (await told("bo@home.example"))?.status;
  expect(await status()).toBe("suspended");
  await house.later(15);
  await house.tick();
  expect(await status()).toBe("left");
  await setLeftAfterDays(house.db, 30, ADA);
  await house.app.engine.ask("refresh", {});
  expect(await status()).toBe("suspended");
});

test("a last day in a list that is over makes somebody a leaver without another reading", async () => {
  await read(`address,last_day\nbo@home.example,${rfc3339(T + 2 * DAY).slice(0, 10)}\n`, { kind: "leavers" });
  expect(await told("bo@home.example")).toMatchObject({ status: "active" });
  await house.later(4);
  await house.tick();
  expect(await told("bo@home.example")).toMatchObject({ status: "left" });
});

test("an export holds what is believed, and passes its own check", async () => {
  await read(
    "address,name,department,manager\nbo@home.example,Bo Drum,Timpani,ivo@home.example\nida@home.example,Ida,,nobody@home.example\n",
  );
  const lines: string[] = [];
  for await (const record of exportEstate(house.db)) lines.push(recordLine(record, { withAddresses: false }));
  const { records, problems } = readEstateFile(lines);
  expect(problems).toEqual([]);
  const people = records.filter((one) => one.type === "person");
  expect(people.find(({ email }) => email === "bo@home.example")).toMatchObject({
    ...{ name: "Bo Drum", department: "Timpani", managerId: "ivo" },
  });
  expect(people.filter(({ email }) => email === "bo@home.example")).toHaveLength(1);
  expect(people.find(({ email }) => email === "ida@home.example")?.managerId).toBeNull();
});
