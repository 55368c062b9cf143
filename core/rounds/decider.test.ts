import { DAY } from "../time/instant";
import { estateOf, file, grant, group, item, link, named, person, T } from "@/tests/records";
import { type Decider, deciderOf, type Deciding } from "./decider";

const PEOPLE = [
  person("ada", "ada@home.example", { department: "Touring", managerId: "max" }),
  person("bea", "bea@home.example"),
  person("max", "max@home.example"),
  person("hed", "hed@home.example"),
  person("odo", "odo@home.example"),
  person("gone", "gone@home.example", { status: "left", managerId: "max" }),
];
const ITEMS = [
  item("space", null, { kind: "space", ownerId: "bea" }),
  item("folder", "space", { ownerId: "odo" }),
  file("f", "folder", { ownerId: "ada" }),
];
const ALL = ["owner", "maker", "space-owner", "manager", "head", "named"] as const;

function decides(order: Deciding["order"], records: Parameters<typeof estateOf>, more: { deputyFrom?: number } = {}) {
  const estate = estateOf(...PEOPLE, ...ITEMS, ...records);
  const at = (id: string) => estate.principals.findPerson(id)!;
  const deputy = more.deputyFrom !== undefined && { person: at("odo"), from: more.deputyFrom, until: T + DAY };
  const found = deciderOf(
    estate,
    estate.share("s")!,
    {
      order,
      named: at("odo"),
      heads: new Map([["Touring", at("hed")]]),
      deputies: new Map(deputy ? [[at("ada"), [deputy]]] : []),
    },
    T,
  );
  const id = (index: number) => estate.people[index].id;
  return found && told(found, id);
}
const told = ({ person, as, insteadOf }: Decider, id: (index: number) => string) =>
  insteadOf === null ? `${id(person)} as ${as}` : `${id(person)} instead of ${id(insteadOf)} as ${as}`;

test.each([
  ["owner", "ada as owner"],
  ["maker", "in as maker"],
  ["space-owner", "bea as space-owner"],
  ["manager", "max as manager"],
  ["head", "hed as head"],
  ["named", "odo as named"],
] as const)("%s alone: %s", (as, decider) => {
  expect(decides([as], [link("s", "f")])).toBe(decider);
});

test("nobody confirms their own, by name or by a group; whoever is next in the order decides", () => {
  expect(decides(ALL, [grant("s", "f", "ada")])).toBe("in as maker");
  expect(decides(["owner", "manager"], [named("s", "f", ["ada@home.example", "max@home.example"])])).toBeNull();
  expect(decides(["owner", "head"], [group("g", "ada", "out"), grant("s", "f", "g")])).toBe("hed as head");
});

test("a link for everyone in-house names nobody: its owner may decide", () => {
  expect(decides(ALL, [link("s", "f", { reach: "house" })])).toBe("ada as owner");
});

test("who has left, or is no insider, decides nothing; a leaver's manager can still be asked", () => {
  const lost = [file("x", "folder", { ownerId: "gone" }), link("s", "x", { createdBy: "out" })];
  expect(decides(["owner", "maker"], lost)).toBeNull();
  expect(decides(["owner", "maker", "manager"], lost)).toBe("max as manager");
});

test("a deputy decides on the days that are named, unless the share is for them", () => {
  const own = [link("s", "f")];
  expect(decides(["owner"], own, { deputyFrom: T - DAY })).toBe("odo instead of ada as owner");
  expect(decides(["owner"], own, { deputyFrom: T + 1 })).toBe("ada as owner");
  expect(decides(["owner"], [named("s", "f", ["odo@home.example"])], { deputyFrom: T })).toBe("ada as owner");
});
