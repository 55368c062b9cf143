import { estateOf, file, grant, group, inDays, item, link, named, NOW, person, T } from "@/tests/records";
import { RULE_IDS } from "../rules/list";
import { NEVER, seconds } from "../time/instant";
import { shareDetail } from "../preview/shareDetail";
import { listedRows } from "@/tests/registerModel";
import { audienceWords, shareSentence } from "../estate/shareWords";
import { countWords, dayWords, lastDayWords } from "../text/words";

const folder = [item("a", null, { name: "Tour" }), file("f", "a"), file("g", "a", { state: "binned" }), file("h", "a")];
const sentence = (...records: Parameters<typeof estateOf>) => {
  const estate = estateOf(...records);
  return shareSentence(estate, [...estate.allShares()][0]);
};

describe("the sentence", () => {
  test.each([
    [
      link("l", "a"),
      "Anyone who holds this link can look at 2 files and download them, without a password and with no end date.",
    ],
    [
      link("l", "f", { password: true, expiresAt: "2026-11-12T00:00:00Z", download: false }),
      "Anyone who holds this link can look at this file but not download it, with a password, until 12 Nov 2026.",
    ],
    [
      link("l", "a", { role: "deposit" }),
      "Anyone who holds this link can send files into this folder, without a password and with no end date.",
    ],
    [
      link("l", "f", { reach: "house", role: "edit" }),
      "All our own people who sign in can look at and change this file and download it, with no end date.",
    ],
    [
      grant("s", "f", "out", { role: "manage" }),
      "Person out can change and share onward this file and download it, with no end date.",
    ],
    [
      named("n", "f", ["a@x.example", "b@x.example"]),
      "2 named people can look at this file and download it, with no end date.",
    ],
  ])("%#", (share, words) => expect(sentence(folder, share)).toBe(words));

  test("of a group", () => {
    expect(sentence(folder, group("crew", "out"), grant("s", "f", "crew", { role: "comment" }))).toBe(
      "Everyone in the group Group crew can look at and comment on this file and download it, with no end date.",
    );
  });
});

test("for whom, in a few words", () => {
  const words = (share: Parameters<typeof estateOf>[0]) => {
    const estate = estateOf(
      folder,
      group("crew", "out", "in"),
      group("house", "in"),
      person("gone", "g@quay.example", { status: "left" }),
      share,
    );
    return audienceWords(estate, [...estate.allShares()][0]);
  };
  expect(words(grant("s", "f", "crew"))).toBe("Group Group crew (1 outsider)");
  expect(words(grant("s", "f", "house"))).toBe("Group Group house (1 insider)");
  expect(words(grant("s", "f", "gone"))).toBe("Nobody");
  expect(words(grant("s", "f", "out"))).toBe("Person out, quay.example");
  expect(words(named("n", "f", ["a@quay.example", "b@quay.example", "in@home.example"]))).toBe(
    "2 at quay.example, 1 in-house",
  );
});

test("counts and days in words", () => {
  expect([countWords(1, "file"), countWords(1_032, "file"), countWords(2, "person", "people")]).toEqual([
    "1 file",
    "1,032 files",
    "2 people",
  ]);
  expect(dayWords(seconds("2026-03-03T23:59:59Z"))).toBe("3 Mar 2026");
  expect(["2026-03-03T23:59:59Z", "2026-03-04T04:59:59Z"].map((at) => lastDayWords(seconds(at)))).toEqual([
    ...["3 Mar 2026", "4 Mar 2026, 04:59 UTC"],
  ]);
});

describe("a row", () => {
  const rows = listedRows(
    estateOf(
      folder,
      item("r", "a", { label: "restricted", name: "Scans" }),
      link("top", "a", { createdBy: "in" }),
      link("broken", "g"),
      link("ended", "f", { expiresAt: NOW }),
      link("waits", "f", { opensAt: inDays(1) }),
      link("revoked", "f", { revokedAt: NOW }),
      link("drop", "r", { role: "deposit" }),
    ),
    T,
  );
  const row = (id: string) => rows.find((one) => one.id === id)!;

  test("is there for every share that hasn't been revoked", () => {
    expect(rows.map(({ id, state }) => [id, state]).sort()).toEqual([
      ["broken", "broken"],
      ["drop", "live"],
      ["ended", "spent"],
      ["top", "live"],
      ["waits", "waiting"],
    ]);
  });
  test("tells the worst that it reaches, and where it lies", () => {
    expect(row("top")).toMatchObject({
      label: "restricted",
      risk: "very-high",
      place: [],
      maker: "Person in",
      expires: NEVER,
      outside: true,
    });
    expect(row("drop")).toMatchObject({ way: "intake", place: ["Tour"], risk: null, outside: false });
  });
});

test("the inspector tells findings with their figures, other ways in, and why no end can be set", () => {
  const estate = estateOf(
    folder,
    link("l", "f", { lastUsedAt: inDays(-60) }),
    grant("s", "a", "out", { role: "edit" }),
    link("dead", "f", { expiresAt: NOW }),
  );
  const row = listedRows(estate, T).find((one) => one.id === "l")!;
  const detail = shareDetail(estate, estate.share("l")!, link("l", "f"), row, T, []);
  expect(detail.findings.map(({ rule, title, reason }) => ({ rule, title, reason }))).toEqual([
    { rule: "open-expiry", title: "Open link without a near end", reason: "No end date; 30 days are allowed." },
    {
      rule: "open-password",
      title: "Open link without a password",
      reason: "It reaches internal items, and the address alone opens it.",
    },
    { rule: "dormant", title: "Unused for a long time", reason: "Last used 60 days ago; 45 days are allowed." },
  ]);
  expect(detail.others).toEqual([{ id: "s", words: "right to edit: Person out, quay.example", at: "from Tour" }]);
  expect(detail.controls).toEqual({
    expiry: { words: "Set an end date", why: null },
    password: { words: "Give it a password", why: null },
    download: { words: "Block downloads", why: null },
    named: { words: "Make a new link for named people", why: null },
  });
});

test("the rules that a share breaks fit into one number, a bit each", () => expect(RULE_IDS.length).toBeLessThan(33));
