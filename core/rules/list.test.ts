import { estateOf, file, grant, group, inDays, item, link, named, NOW, party, person, store, T } from "@/tests/records";
import type { EstateRecord } from "../estate/records";
import { RULE_IDS, type RuleId } from "./list";
import { findings, readRules } from "./findings";
import { judge } from "./judging";
import { unknownInScope } from "./scope";

/** Subjects of one rule's findings on a small estate. */
function found(rule: RuleId, records: (EstateRecord | EstateRecord[])[], parameters: object = {}): string[] {
  return findings(judge(estateOf(...records), T), readRules({ [rule]: parameters })).map(({ subject }) => subject);
}

const confidential = item("c", null, { label: "confidential" });
const inC = file("f", "c");
const plain = file("f", null);

/** For each rule: an estate and the subjects it finds there; the boundary cases stand side by side. */
const CASES: [RuleId, string, (EstateRecord | EstateRecord[])[], string[]][] = [
  [
    "open-expiry",
    "no end, or one past 30 days",
    [
      plain,
      link("none", "f"),
      link("at30", "f", { expiresAt: inDays(30) }),
      link("past30", "f", { expiresAt: inDays(30.001) }),
      link("house", "f", { reach: "house" }),
    ],
    ["none", "past30"],
  ],
  [
    "open-password",
    "no password before something internal",
    [
      plain,
      file("p", null, { label: "public" }),
      link("bare", "f"),
      link("keyed", "f", { password: true }),
      link("public", "p"),
    ],
    ["bare"],
  ],
  ["open-edit", "anyone may edit", [plain, link("view", "f"), link("edit", "f", { role: "edit" })], ["edit"]],
  [
    "open-forbidden",
    "restricted things, even deep below",
    [
      item("a", null),
      item("b", "a"),
      file("r", "b", { label: "restricted" }),
      link("top", "a"),
      named("named", "r", ["x@quay.example"]),
    ],
    ["top"],
  ],
  [
    "open-forbidden",
    "not what a cut keeps out of reach",
    [item("a", null), file("r", "a", { label: "restricted", inherits: false }), link("top", "a")],
    [],
  ],
  [
    "outside-download",
    "a block that holds, one that editing undoes, none",
    [
      confidential,
      inC,
      grant("held", "f", "out", { download: false }),
      grant("undone", "f", "out", { download: false, role: "edit" }),
      grant("none", "f", "out"),
      grant("inside", "f", "in"),
    ],
    ["none", "undone"],
  ],
  [
    "outside-expiry",
    "no end, or one past 180 days",
    [
      plain,
      grant("none", "f", "out"),
      grant("at180", "f", "out", { expiresAt: inDays(180) }),
      grant("past", "f", "out", { expiresAt: inDays(181) }),
      link("open", "f"),
      grant("inside", "f", "in"),
    ],
    ["none", "past"],
  ],
  [
    "outside-manage",
    "an outsider may manage",
    [
      plain,
      grant("m", "f", "out", { role: "manage" }),
      grant("e", "f", "out", { role: "edit" }),
      grant("i", "f", "in", { role: "manage" }),
    ],
    ["m"],
  ],
  [
    "party-denied",
    "by organisation, or by whole domain where there is none",
    [
      plain,
      party("rival.example", "denied"),
      party("mail.other.example", "denied"),
      named("org", "f", ["x@sub.rival.example"]),
      named("domain", "f", ["x@mail.other.example"]),
      named("sibling", "f", ["x@web.other.example"]),
    ],
    ["domain", "org"],
  ],
  [
    "personal-mailbox",
    "only where the organisation has that stance",
    [
      plain,
      party("post.example", "personal"),
      party("x.post.example", "trusted"),
      named("l", "f", ["a@x.post.example"]),
      named("m", "f", ["a@quay.example"]),
    ],
    ["l"],
  ],
  [
    "dormant",
    "more than 45 days",
    [
      plain,
      grant("at", "f", "out", { lastUsedAt: inDays(-45) }),
      grant("past", "f", "out", { lastUsedAt: inDays(-45.001) }),
      grant("never", "f", "out", { lastUsedAt: null }),
    ],
    ["past"],
  ],
  [
    "dormant",
    "not where the store doesn't tell",
    [store("st", { lastUse: false }), plain, grant("past", "f", "out", { lastUsedAt: inDays(-400) })],
    [],
  ],
  [
    "never-used",
    "made more than 14 days ago",
    [
      plain,
      grant("at", "f", "out", { lastUsedAt: null, grantedAt: inDays(-14) }),
      grant("past", "f", "out", { lastUsedAt: null, grantedAt: inDays(-15) }),
      grant("used", "f", "out", { grantedAt: inDays(-15) }),
    ],
    ["past"],
  ],
  [
    "sharer-left",
    "its maker, or the item's owner",
    [
      person("l", "l@home.example", { status: "left" }),
      person("s", "s@home.example", { status: "suspended" }),
      plain,
      file("o", null, { ownerId: "l" }),
      grant("maker", "f", "out", { grantedBy: "l" }),
      grant("owner", "o", "out"),
      grant("suspended", "f", "out", { grantedBy: "s" }),
    ],
    ["maker", "owner"],
  ],
  [
    "folder-wide",
    "folders below, or unlike labels",
    [
      item("a", null),
      item("b", "a"),
      item("flat", null),
      file("g", "flat"),
      item("mixed", null),
      file("h", "mixed", { label: "public" }),
      grant("deep", "a", "out"),
      grant("flat1", "flat", "out"),
      grant("labels", "mixed", "out"),
      grant("file", "g", "out"),
    ],
    ["deep", "labels"],
  ],
  [
    "folder-wide",
    "a binned folder below doesn't count",
    [item("a", null), item("b", "a", { state: "binned" }), grant("s", "a", "out")],
    [],
  ],
  [
    "outsider-in-group",
    "an outsider two levels down",
    [
      confidential,
      inC,
      ...[group("g", "sub"), group("sub", "out"), group("house", "in")],
      grant("s", "f", "g"),
      grant("t", "f", "house"),
    ],
    ["s"],
  ],
  [
    "block-bypassed",
    "the item that two shares reach, one blocked and one not",
    [
      confidential,
      inC,
      file("alone", "c", { inherits: false }),
      grant("blocked", "f", "out", { download: false }),
      grant("free", "c", "out"),
    ],
    ["f"],
  ],
  [
    "link-pile",
    "more than five live links",
    [plain, ...Array.from({ length: 6 }, (_, i) => link(`l${i}`, "f", { role: i === 5 ? "deposit" : "view" }))],
    ["f"],
  ],
  [
    "link-pile",
    "five are no pile, nor is a sixth that ended",
    [plain, ...Array.from({ length: 6 }, (_, i) => link(`l${i}`, "f", { expiresAt: i === 0 ? NOW : null }))],
    [],
  ],
  [
    "house-listed",
    "listed, before something confidential",
    [confidential, inC, link("listed", "c", { reach: "house", listed: true }), link("not", "c", { reach: "house" })],
    ["listed"],
  ],
  [
    "intake-password",
    "an intake link without one",
    [item("a", null), link("bare", "a", { role: "deposit" }), link("keyed", "a", { role: "deposit", password: true })],
    ["bare"],
  ],
  [
    "intake-window",
    "no end, or a far one",
    [
      item("a", null),
      link("none", "a", { role: "deposit" }),
      link("near", "a", { role: "deposit", expiresAt: inDays(30) }),
    ],
    ["none"],
  ],
  [
    "intake-mixed",
    "a folder below, even one that doesn't inherit",
    [item("a", null), item("b", "a", { inherits: false }), link("l", "a", { role: "deposit" })],
    ["l"],
  ],
  [
    "intake-mixed",
    "another way in on the same item",
    [
      item("a", null),
      item("b", null),
      link("l", "a", { role: "deposit" }),
      link("house", "a", { reach: "house" }),
      link("m", "b", { role: "deposit" }),
      grant("in", "b", "in"),
    ],
    ["l"],
  ],
  [
    "intake-words",
    "the store's own text; not where nobody tells what visitors read",
    [
      item("a", null),
      link("plain", "a", { role: "deposit", message: null }),
      link("blank", "a", { role: "deposit", message: " " }),
      link("own", "a", { role: "deposit", message: "Ida asks for your riders." }),
      link("untold", "a", { role: "deposit" }),
      link("open", "a", { message: null }),
    ],
    ["blank", "plain"],
  ],
  [
    "broken-target",
    "a link to something binned, not one revoked",
    [
      file("f", null, { state: "binned" }),
      link("l", "f"),
      link("revoked", "f", { revokedAt: NOW }),
      grant("g", "f", "out"),
    ],
    ["l"],
  ],
  [
    "spent-link",
    "past its end, or at its cap",
    [
      plain,
      link("ended", "f", { expiresAt: NOW }),
      link("capped", "f", { maxUses: 2, uses: 2 }),
      link("live", "f", { maxUses: 2, uses: 1 }),
    ],
    ["capped", "ended"],
  ],
  [
    "look-alike",
    "a domain that reads like a partner's, but not the partner's own",
    [
      plain,
      party("quay.example", "trusted"),
      person("spoof", "odo@qυay.example"),
      person("plain", "odo@quays.example"),
      grant("spoofed", "f", "spoof"),
      grant("other", "f", "plain"),
      grant("real", "f", "out"),
    ],
    ["spoofed"],
  ],
  [
    "weak-password",
    "a short one, or a common one; where nothing is told, nothing is said",
    [
      plain,
      link("short", "f", { password: true, passwordLength: 14 }),
      link("long", "f", { password: true, passwordLength: 15 }),
      link("common", "f", { password: true, passwordLength: 20, passwordCommon: true }),
      link("untold", "f", { password: true }),
    ],
    ["common", "short"],
  ],
  [
    "reused-password",
    "two live links with one password",
    [
      plain,
      link("one", "f", { password: true, passwordMark: "0123abcd" }),
      link("two", "f", { password: true, passwordMark: "0123abcd" }),
      link("own", "f", { password: true, passwordMark: "0123abce" }),
      link("gone", "f", { password: true, passwordMark: "0123abce", revokedAt: NOW }),
    ],
    ["one", "two"],
  ],
  [
    "outside-edit-folder",
    "edit or manage on a folder",
    [
      item("a", null),
      file("f", "a"),
      grant("edit", "a", "out", { role: "edit" }),
      grant("view", "a", "out"),
      grant("file", "f", "out", { role: "edit" }),
      grant("inside", "a", "in", { role: "edit" }),
    ],
    ["edit"],
  ],
  [
    "open-many",
    "more files than 50; folders don't count",
    [
      ...["a", "b"].map((id) => item(id, null)),
      ...Array.from({ length: 50 }, (_, i) => [file(`a${i}`, "a"), file(`b${i}`, "b")]),
      item("deep", "a"),
      file("one-more", "b"),
      link("fifty", "a"),
      link("fifty-one", "b"),
    ],
    ["fifty-one"],
  ],
];

test.each(CASES)("%s: %s", (rule, _, records, subjects) => {
  expect(found(rule, records)).toEqual(subjects);
});

test("every rule has a case", () => {
  const apart: RuleId[] = ["engagement-over", "store-abroad", "unconfirmed"];
  expect(RULE_IDS.filter((id) => !apart.includes(id) && !CASES.some(([rule]) => rule === id))).toEqual([]);
});

test("store-abroad: a store that says it is elsewhere, where regions are named", () => {
  const abroad = { ...store(), region: "elsewhere" };
  const records = [plain, abroad, grant("s", "f", "out"), grant("i", "f", "in")];
  expect(found("store-abroad", records)).toEqual([]);
  expect(found("store-abroad", records, { regions: ["home"] })).toEqual(["s"]);
  expect(found("store-abroad", records, { regions: ["home", "elsewhere"] })).toEqual([]);
});

test("unconfirmed: older than the days, with no confirmation whose day is still ahead", () => {
  const old = { grantedAt: inDays(-200) };
  const estate = estateOf(
    plain,
    ...[grant("never", "f", "out", old), grant("ahead", "f", "out", old), grant("over", "f", "out", old)],
    ...[grant("at180", "f", "out", { grantedAt: inDays(-180) }), grant("in", "f", "in", old)],
  );
  estate.shares.takeConfirmations(new Map([["ahead", T + 1]]));
  const now = () => findings(judge(estate, T), readRules({ unconfirmed: {} })).map(({ subject }) => subject);
  expect(now()).toEqual(["never", "over"]);
  estate.shares.takeConfirmations(new Map([["over", T]]));
  expect(now()).toEqual(["ahead", "never", "over"]);
});

describe("a scope", () => {
  const records = [
    store("other"),
    store(),
    item("c", null, { label: "confidential" }),
    file("f", "c", { inherits: false }),
    file("g", null, { storeId: "other" }),
    person("press", "press@home.example", { department: "Press" }),
    link("onC", "c"),
    link("onF", "f"),
    link("onG", "g", { createdBy: "press", role: "edit" }),
  ];
  test.each([
    [{}, ["onC", "onF", "onG"]],
    [{ labels: ["confidential"] }, ["onC", "onF"]],
    [{ stores: ["other"] }, ["onG"]],
    [{ departments: ["Press"] }, ["onG"]],
    [{ items: ["c"] }, ["onC", "onF"]],
    [{ roles: ["edit"] }, ["onG"]],
    [{ items: ["c"], roles: ["edit"] }, []],
    [{ organisations: ["quay.example"] }, []],
  ])("%j", (scope, subjects) => expect(found("open-expiry", records, { scope })).toEqual(subjects));

  test("what it names must be there, and is told where it isn't", () => {
    const estate = estateOf(...records);
    const scope = { stores: ["st", "nowhere"], items: ["x"], departments: ["Choir"], organisations: ["no.example"] };
    expect(unknownInScope(scope, estate)).toEqual([
      "There is no store nowhere.",
      "Nobody is in Choir.",
      "There is no item x.",
      "Nobody outside is of no.example.",
    ]);
    expect(() => readRules({ "link-pile": { scope: { roles: ["edit"] } } })).toThrow("link-pile.scope");
    expect(() => readRules({ "open-expiry": { scope: { labels: ["secret"] } } })).toThrow("open-expiry.scope.labels.0");
  });
});

describe("engagement-over", () => {
  const over = (endsAt: string, organisations: string[]): EstateRecord => ({
    type: "engagement",
    id: "e",
    name: "Tour",
    itemIds: ["a"],
    organisations,
    startsAt: inDays(-100),
    endsAt,
  });
  const below = [
    item("a", null),
    file("f", "a", { inherits: false }),
    grant("ours", "f", "out"),
    named("other", "f", ["x@else.example"]),
    link("open", "f"),
  ];

  test("seven days after the end, for its organisations and for open links, whatever inherits", () => {
    expect(found("engagement-over", [...below, over(inDays(-7), ["Quay.example"])])).toEqual(["open", "ours"]);
    expect(found("engagement-over", [...below, over(inDays(-6.99), ["quay.example"])])).toEqual([]);
    expect(found("engagement-over", [...below, over(inDays(-3), ["quay.example"])], { graceDays: 0 })).toEqual([
      "open",
      "ours",
    ]);
  });
});
