import { estateOf, file, grant, group, inDays, item, link, named, person, store, T } from "@/tests/records";
import type { Estate } from "../estate/estate";
import { NAMES } from "@/tests/scripts";
import { findSubjects, waysToItem, reachOfOrganisation, pathsBetween, reachOfPerson } from "./ways";

const estate = estateOf(
  person("two", "two@mail.quay.example", { name: "Two" }),
  person("gone", "gone@quay.example", { status: "left" }),
  ...[group("crew", "out"), group("makers", "crew", "in")].flat(),
  item("a", null, { name: "Opera", ownerId: "in" }),
  item("b", "a", { name: "Stage plots" }),
  file("f", "b", { name: "Plot.pdf", label: "confidential" }),
  file("cut", "b", { name: "Fees.xlsx", inherits: false }),
  grant("group", "a", "makers", { role: "edit", expiresAt: inDays(5) }),
  grant("right", "b", "out", { download: false }),
  named("link", "f", ["two@mail.quay.example"]),
  link("open", "b"),
  link("house", "f", { reach: "house" }),
);
const at = (id: string, on: Estate = estate) => on.tree.position(id)!;
const who = (address: string) => estate.principals.findAddress(address)!;

test("from an item: everybody by name, outsiders first, and the links for whoever comes", () => {
  const ways = waysToItem(estate, T, at("f"));
  expect(ways.item).toEqual({
    id: "f",
    name: "Plot.pdf",
    kind: "file",
    label: "confidential",
    place: ["Store st", "Opera", "Stage plots"],
  });
  expect(ways.people.map(({ address, role, download }) => [address, role, download])).toEqual([
    ["out@quay.example", "edit", true],
    ["two@mail.quay.example", "view", true],
    ["in@home.example", "manage", true],
  ]);
  expect(ways.crowd.map(({ share, words }) => [share, words])).toEqual([
    ["house", "All our own people, by a link on Plot.pdf"],
    ["open", "Whoever has the address, by a link on Stage plots"],
  ]);
});

test("from a person: all that they reach, the most sensitive first", () => {
  const ways = reachOfPerson(estate, T, who("out@quay.example"));
  expect(ways.count).toBe(3);
  expect(ways.items.map(({ id }) => id)).toEqual(["f", "a", "b"]);
});

test("from an organisation: what its people reach together, leavers left out", () => {
  const ways = reachOfOrganisation(estate, T, "quay.example");
  expect("people" in ways.who && ways.who.people.map(({ address }) => address)).toEqual([
    "out@quay.example",
    "two@mail.quay.example",
  ]);
  expect(ways.items.map(({ id, role }) => [id, role])).toEqual([
    ["f", "edit"],
    ["a", "edit"],
    ["b", "edit"],
  ]);
  expect(reachOfOrganisation(estate, T, "nobody.example").count).toBe(0);
});

test("from both: every way as a chain, from the person by groups and folders to the item", () => {
  const { paths } = pathsBetween(estate, T, who("out@quay.example"), at("f"));
  expect(
    paths.map(({ share, steps }) => [
      share,
      steps.flatMap(({ cut, end }) => [cut, end].flatMap((one) => (one ? [one.action] : []))),
      steps.map((step) => `${step.kind} ${step.words}`).join(", "),
    ]),
  ).toEqual([
    [
      "group",
      ["leave-group", "revoke", "stop-inheriting", "stop-inheriting"],
      "person Person out, group Group crew, group Group makers, share Right to edit, folder Opera, folder Stage plots, item Plot.pdf",
    ],
    [
      "open",
      ["revoke", "stop-inheriting"],
      "person Person out, share Open link to view, folder Stage plots, item Plot.pdf",
    ],
    [
      "right",
      ["revoke", "stop-inheriting"],
      "person Person out, share Right to view, folder Stage plots, item Plot.pdf",
    ],
  ]);
  const [owner] = pathsBetween(estate, T, who("in@home.example"), at("b")).paths.filter((path) =>
    path.steps.every(({ end }) => end === null),
  );
  expect(owner).toMatchObject({ share: "owner:a", role: "manage" });
});

test("at a later instant a way that has ended is gone", () => {
  const shares = pathsBetween(estate, T + 5 * 86_400, who("out@quay.example"), at("f")).paths.map(({ share }) => share);
  expect(shares).toEqual(["open", "right"]);
});

test("nothing passes a cut", () => {
  expect(waysToItem(estate, T, at("cut"))).toMatchObject({ people: [], crowd: [] });
});

describe("finding what words mean", () => {
  test.each(NAMES)("%s: an item and a person called %s are found however that is typed", (_, name, ...asked) => {
    const named = estateOf(file("f", null, { name }), person("p", "p@home.example", { name }));
    for (const text of asked) {
      const { items, people } = findSubjects(named, text);
      expect([text, items.length, people.length]).toEqual([text, 1, 1]);
    }
  });

  test("items, people and organisations, those first that begin so", () => {
    expect(findSubjects(estate, "PLOT").items.map(({ id }) => id)).toEqual(["f", "b"]);
    expect(findSubjects(estate, "quay").organisations).toEqual(["quay.example"]);
    expect(findSubjects(estate, "two").people.map(({ address }) => address)).toEqual(["two@mail.quay.example"]);
  });
  test("an organisation is found though all its people have left", () => {
    const left = estateOf(store("st"), person("gone", "bo@hull.example", { status: "left" }));
    expect(findSubjects(left, "hull").organisations).toEqual(["hull.example"]);
  });
  test("leavers are found and said to be such, but are offered to own nothing; nor are outsiders", () => {
    expect(findSubjects(estate, "gone").people).toMatchObject([{ address: "gone@quay.example", status: "left" }]);
    const both = estateOf(
      person("old", "ada.old@home.example", { status: "left" }),
      person("now", "ada.now@home.example"),
      person("out", "ada@quay.example"),
    );
    const found = (owners: boolean) => findSubjects(both, "ada", owners).people.map(({ address }) => address);
    expect(found(false)).toEqual(["ada.now@home.example", "ada@quay.example", "ada.old@home.example"]);
    expect(found(true)).toEqual(["ada.now@home.example"]);
  });
  test("empty words find nothing", () => {
    expect(findSubjects(estate, "  ")).toEqual({ people: [], organisations: [], items: [] });
  });
});

test("of a named link the person can be dropped; nobody can be taken out of a group within a group by leaving the outer", () => {
  const [link] = pathsBetween(estate, T, who("two@mail.quay.example"), at("f")).paths.filter(
    ({ share }) => share === "link",
  );
  expect(link.steps.find(({ kind }) => kind === "share")).toMatchObject({
    cut: { action: "drop-recipient", shareId: "link", address: "two@mail.quay.example" },
    end: { action: "revoke", shareId: "link" },
  });
  const [group] = pathsBetween(estate, T, who("out@quay.example"), at("f")).paths;
  expect(group.steps.filter(({ kind }) => kind === "group").map(({ id, cut }) => [id, cut?.action])).toEqual([
    ["crew", "leave-group"],
    ["makers", undefined],
  ]);
});

test("an item and an organisation: its people alone, and what is open to the outside there", () => {
  const ways = waysToItem(estate, T, at("f"), undefined, "quay.example");
  expect(ways.people.map(({ address }) => address)).toEqual(["out@quay.example", "two@mail.quay.example"]);
  expect(ways.outside).toMatchObject({ open: true, outsiders: 2, organisations: ["quay.example"] });
});
