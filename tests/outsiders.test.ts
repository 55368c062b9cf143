import { entriesBefore } from "@/server/records/ledger/ledger";
import { DAY } from "@/core/time/instant";
import { normaliseDomain } from "@/core/estate/address";
import { standardSetting } from "@/core/rules/setting";
import type { EstateRecord } from "@/core/estate/records";
import { setStance, dropStance } from "@/server/outsiders/stances";
import { leaveNote } from "@/server/outsiders/notes";
import { lookAlikes, organisation } from "@/server/outsiders/outsiders";
import { saySame } from "@/server/outsiders/sameFirms";
import { setRule } from "@/server/rules/settings";
import { exportEstate } from "@/server/records/exportEstate";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, grant, head, item, link, named, party, person, store, T } from "./records";

/** What is said here of organisations: stances, look-alikes that are one firm, and what one still has. */
const ADA = "ada@home.example";
let house: House;

const STACKS: EstateRecord[] = [
  store("stacks"),
  ...PEOPLE,
  person("twin", "tom@quаy.example"),
  item("a", null, { ...inStacks, name: "Touring", label: "confidential" }),
  file("f", "a", { ...inStacks, name: "Rider" }),
  file("g", "a", { ...inStacks, name: "Budget" }),
  grant("s", "f", "out", { grantedBy: "ida" }),
  named("n", "g", ["tom@quаy.example"], { createdBy: "ida" }),
  link("open", "f", { createdBy: "ida" }),
  link("other", "g", { createdBy: "ida" }),
];
const TWIN = normaliseDomain("quаy.example");

beforeEach(async () => {
  const records = { stacks: STACKS, alcoves: [], dock: [] };
  house = await openHouse(records, [head(), party("quay.example", "trusted")]);
});
afterEach(() => house.close());

const refresh = () => house.app.engine.ask("refresh", {});
const at = (seconds: number) => (house.app.clock.standsAt = new Date(seconds * 1_000));
const stanceOn = async (domain: string, past?: number) => {
  const asked = { query: `domain:"${domain}"`, by: "domain" as const, reversed: false };
  const { page } = await house.app.engine.ask("organisations", { ...asked, from: 0, count: 10 }, past);
  return page[0]?.stance;
};
const broken = (rule: string) => house.app.engine.ask("matching", { query: `rule:${rule}` });
const kinds = async () => (await house.db.selectFrom("ledger").select("kind").orderBy("seq").execute()).slice(-2);
const deny = (more = {}) =>
  setStance(house.db, { domain: "quay.example", stance: "denied", reason: "A rival now", until: null, ...more }, ADA);

test("a note on an organisation stays with who left it and when; of before, it isn't told", async () => {
  const one = (past?: number) => organisation(house.app, "quay.example", past);
  await leaveNote(house.db, { domain: "Quay.example", text: "The contract is with Odo" }, ADA);
  expect((await one()).notes).toEqual([{ author: ADA, at: house.app.clock.text(), text: "The contract is with Odo" }]);
  expect((await one(T - 10)).notes).toEqual([]);
  expect((await kinds()).at(-1)).toEqual({ kind: "organisation-note-left" });
});

test("a stance that is set here comes before what a file says, rules follow it at once, and the ledger has it", async () => {
  expect([await stanceOn("quay.example"), await broken("party-denied")]).toEqual(["trusted", []]);
  await deny();
  await refresh();
  expect([await stanceOn("quay.example"), await broken("party-denied")]).toEqual(["denied", ["s"]]);
  const [entry] = await entriesBefore(house.db, Infinity, 1);
  expect([entry.kind, entry.actor, entry.body]).toEqual([
    "stance-set",
    ADA,
    { domain: "quay.example", before: null, stance: "denied", reason: "A rival now", until: null },
  ]);
  const exported = [];
  for await (const record of exportEstate(house.db)) if (record.type === "party") exported.push(record);
  expect(exported).toEqual([{ type: "party", domain: "quay.example", stance: "denied" }]);
});

test("ended by somebody, or on its day, what the file says is so again; of the past each is told as it was", async () => {
  await deny({ until: T + 3 * DAY });
  at(T + DAY);
  await dropStance(house.db, "QUAY.example", ADA);
  await refresh();
  expect(await stanceOn("quay.example")).toBe("trusted");
  await deny({ until: T + 3 * DAY });
  at(T + 2 * DAY);
  await house.tick();
  expect(await stanceOn("quay.example")).toBe("denied");
  at(T + 3 * DAY);
  await house.tick();
  expect([await stanceOn("quay.example"), await kinds()]).toEqual([
    "trusted",
    expect.arrayContaining([{ kind: "stance-ended" }]),
  ]);
  expect(await stanceOn("quay.example", T + DAY / 2)).toBe("denied");
  const told = async (past?: number) => (await organisation(house.app, "quay.example", past)).stances.length;
  expect([await told(), await told(T + DAY / 2)]).toEqual([0, 1]);
  await expect(dropStance(house.db, "quay.example", ADA)).rejects.toThrow("No stance on quay.example was set here.");
});

test.each([
  [{ domain: "home.example" }, "domain: home.example is your own."],
  [{ domain: "files.quay.example" }, "domain: files.quay.example is part of quay.example."],
  [{ until: T }, "until: choose a day in the future."],
])("%o is refused, and nothing is changed", async (more, why) => {
  await expect(deny(more)).rejects.toThrow(why);
  expect(await house.db.selectFrom("stance").selectAll().execute()).toEqual([]);
});

test("two domains that are one firm's are said nowhere any more, neither in the list nor by the rule; until that is unsaid", async () => {
  const pairs = async () =>
    (await lookAlikes(house.app, { from: 0, count: 10 })).pairs.map(({ likeness, sides }) => [
      likeness,
      ...sides.map(({ domain }) => domain),
    ]);
  await setRule(house.db, ADA, "look-alike", { ...standardSetting("look-alike"), isOn: true });
  await refresh();
  expect(await pairs()).toEqual([["looks", "quay.example", TWIN]]);
  expect(await broken("look-alike")).toEqual(["n"]);
  await saySame(house.db, [TWIN, "quay.example"], true, ADA);
  await saySame(house.db, ["quay.example", TWIN], true, ADA);
  await refresh();
  expect([await pairs(), await broken("look-alike")]).toEqual([[], []]);
  expect((await lookAlikes(house.app, { from: 0, count: 10 })).same).toEqual([["quay.example", TWIN]]);
  at(T + DAY);
  await saySame(house.db, ["quay.example", TWIN], false, ADA);
  await refresh();
  expect([await pairs(), await broken("look-alike")]).toEqual([[["looks", "quay.example", TWIN]], ["n"]]);
  expect((await lookAlikes(house.app, { from: 0, count: 10 }, T + DAY / 2)).pairs).toEqual([]);
  await expect(saySame(house.db, ["quay.example", "Quay.example"], true, ADA)).rejects.toThrow(
    "domains: name two different ones.",
  );
});

test("one organisation: its people, what they reach, and the open links that cutting it off by name would leave", async () => {
  const told = await organisation(house.app, "Quay.example");
  expect(told.sheet.people).toEqual([
    { address: "out@quay.example", name: "Person out", status: "active", shares: 1, items: 1 },
  ]);
  expect(told.sheet.items.map(({ id }) => id)).toEqual(["f"]);
  expect(told.sheet.labels).toEqual([0, 0, 1, 0]);
  expect(told.open).toEqual([{ id: "open", item: "Rider", place: ["Touring"], used: false }]);
  await expect(organisation(house.app, "nowhere.example")).rejects.toThrow("Nobody at nowhere.example is known here");
});
