import { estateOf, file, grant, group, inDays, item, link, named, NOW, party, person, store, T } from "@/tests/records";
import { ALWAYS, NEVER, seconds } from "../time/instant";
import type { ShareRecord } from "../estate/records";
import { remediesFor } from "../rules/remedies";
import { historyOf } from "./history";
import { answersFor } from "./publicList";

/** Records one after the other, each from a day of October on. */
function history(...records: ShareRecord[]) {
  const day = (n: number) => seconds(`2026-10-0${n}T00:00:00Z`);
  const held = records.map((record, n) => ({
    record,
    from: n === 0 ? ALWAYS : day(n),
    to: n === records.length - 1 ? NEVER : day(n + 1),
  }));
  return historyOf(held).map(({ words }) => words);
}

describe("what has happened to a share", () => {
  const base = named("l", "f", ["a@x.example"], { lastUsedAt: null });
  test.each<[string[], ShareRecord[]]>([
    [["Made"], [base]],
    [["Used", "Made"], [{ ...base, lastUsedAt: NOW }]],
    [
      ["Used", "Made"],
      [base, { ...base, lastUsedAt: NOW }],
    ],
    [
      ["Its end date was set to 7 Oct 2026", "Made"],
      [base, { ...base, expiresAt: inDays(2) }],
    ],
    [
      ["Its end date was removed", "Made"],
      [{ ...base, expiresAt: inDays(2) }, base],
    ],
    [
      ["A password was set", "Made"],
      [base, { ...base, password: true }],
    ],
    [
      ["Lets people edit instead of view", "Downloads were blocked", "Made"],
      [base, { ...base, role: "edit", download: false }],
    ],
    [
      ["b@x.example added", "a@x.example removed", "Made"],
      [base, { ...base, recipients: [{ email: "b@x.example" }] }],
    ],
    [
      ["Open to open instead of named", "a@x.example removed", "Made"],
      [base, { ...base, reach: "open", recipients: [] }],
    ],
    [
      ["Revoked", "Made"],
      [base, { ...base, revokedAt: NOW }],
    ],
    [
      ["Something else about it changed", "Made"],
      [base, { ...base, uses: 3 }],
    ],
  ])("%j", (words, records) => expect(history(...records)).toEqual(words));

  test("the newest comes first, and a first reading that we saw is told", () => {
    const events = historyOf([{ record: { ...base, createdAt: inDays(-9) }, from: T, to: NEVER }]);
    expect(events).toEqual([
      { at: T, words: "First read from its store" },
      { at: T - 9 * 86_400, words: "Made" },
    ]);
  });
});

describe("remedies", () => {
  const shares = [
    link("open", "f"),
    named("mail", "f", ["p@post.example", "out@quay.example"]),
    grant("crew", "f", "g"),
  ];
  const estate = estateOf(
    store("st", { linkExpiry: ["named"] }),
    item("a", null),
    file("f", "a"),
    person("p", "p@post.example"),
    group("g", "p"),
    party("post.example", "personal"),
    shares,
  );
  const remedies = (rule: Parameters<typeof remediesFor>[0], id: string) =>
    remediesFor(rule, estate, estate.share(id)!, T).map(({ words, changes, why }) => [
      words,
      changes.map(({ action }) => action).join(),
      why === null,
    ]);

  test("come the mildest first, and say what the store can't do", () => {
    expect(remedies("open-expiry", "open")).toEqual([
      ["Have it revoked on a day", "order-revoke", true],
      ["Revoke the link", "revoke", true],
    ]);
    expect(remedies("outside-expiry", "mail")[0]).toEqual(["Give it an end date", "set-expiry", true]);
    expect(remedies("personal-mailbox", "mail")).toEqual([
      ["Remove p@post.example from it", "drop-recipient", true],
      ["Revoke the link", "revoke", true],
    ]);
    expect(remedies("personal-mailbox", "crew").map(([words]) => words)).toEqual([
      "Remove p@post.example from the group Group g",
      "Revoke the grant",
    ]);
  });
});

test("who answers for a share: the nearest active owner, else its maker, else nobody", () => {
  const answers = (ownerId: string | null, makerStatus: "active" | "left") => {
    const estate = estateOf(
      person("boss", "boss@home.example"),
      person("gone", "gone@home.example", { status: "left" }),
      person("made", "made@home.example", { status: makerStatus }),
      item("a", null, { ownerId }),
      file("f", "a", { ownerId: "gone" }),
      link("l", "f", { createdBy: "made" }),
    );
    return answersFor(estate, estate.share("l")!);
  };
  expect(answers("boss", "left")).toEqual({ name: "Person boss", as: "owner" });
  expect(answers(null, "active")).toEqual({ name: "Person made", as: "maker" });
  expect(answers("gone", "left")).toBeNull();
});
