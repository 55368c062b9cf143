import { DAY, NEVER, rfc3339 } from "../time/instant";
import { momentIn, UTC_DATES } from "../time/style";
import { dayBegins, dayNumber, isZone } from "../time/zoned";
import { link, T } from "@/tests/records";
import type { TrailEvent, Spoken } from "./event";
import { nothingSentIn, notOpened } from "./notYet";
import { Rollup } from "./rollup";
import { NOTHING_ASKED } from "./search";
import { eventWords, cautions, likeWords } from "./sentence";
import { verbTitle, verbWords } from "./verbs";
import { alertsFrom, Watching } from "./watching";
import { watchSchema } from "./watch";

const search = { ...NOTHING_ASKED, from: null, to: null };
const person = (name: string, organisation?: string): Spoken => ({
  kind: "person",
  key: `${name}@quay.example`,
  name,
  detail: "",
  people: [`${name}@quay.example`],
  ...(organisation && { organisations: [organisation] }),
});
const item: Spoken = { kind: "item", key: "f", name: "Rider", detail: "Touring" };
const share: Spoken = { kind: "share", key: "l", name: "Open link", detail: "" };
const event = (at: number, more: Partial<TrailEvent> = {}): TrailEvent => ({
  seq: 1,
  at,
  source: "st",
  verb: "downloaded",
  who: person("bea"),
  item,
  share,
  whom: null,
  remarks: [],
  ...more,
});
const raises = (watching: Watching, one: TrailEvent) => watching.look(one)?.raises ?? false;

test("each event that meets the search raises; one alert is for a share and a person", () => {
  const watching = new Watching({ search: { ...search, verbs: ["downloaded"] }, many: null });
  expect(watching.look(event(T))).toEqual({ key: "l\nbea@quay.example", raises: true });
  expect(watching.look(event(T, { share: null, who: null }))).toEqual({ key: "f\n", raises: true });
  expect(watching.look(event(T, { verb: "opened" }))).toBeUndefined();
});

test("more than so many in a window: the one beyond raises, whatever lies outside the window doesn't count", () => {
  const many = { moreThan: 3, seconds: 3_600, by: "person" as const };
  const watching = new Watching({ search, many });
  const times = [0, 600, 1_200, 1_800, 3_599, 7_200];
  expect(times.map((time) => raises(watching, event(T + time)))).toEqual([false, false, false, true, true, false]);
  expect(raises(watching, event(T + 7_201, { who: null }))).toBe(false);
});

test.each([
  ["share", { share: { ...share, key: "other" } }],
  ["item", { item: { ...item, key: "other" } }],
  ["person", { who: person("cy") }],
  ["organisation", { who: person("cy", "post.example") }],
] as const)("many are counted by %s, each by itself", (by, other) => {
  const watching = new Watching({ search, many: { moreThan: 1, seconds: 60, by } });
  const own = by === "organisation" ? { who: person("bea", "quay.example") } : {};
  expect([own, other, own].map((more, i) => raises(watching, event(T + i, more)))).toEqual([false, false, true]);
});

test("tried on the past, like events of a day are one alert, and begin another after it", () => {
  const days = [0, 0.5, 0.99, 1, 1.5, 2.1];
  const events = days.map((day) => event(T + day * DAY));
  expect(alertsFrom({ search, many: null }, events)).toBe(3);
  expect(alertsFrom({ search: { ...search, verbs: ["opened"] }, many: null }, events)).toBe(0);
});

test("a watch that is kept is checked: no span of time, a zone that there is, whole numbers", () => {
  const telling = { severity: "high", mail: [], webhook: false, syslog: false, mostADay: 20, quiet: null, zone: "UTC" };
  const watch = { kind: "events", search, many: null, ...telling };
  expect(watchSchema.safeParse(watch).success).toBe(true);
  for (const wrong of [
    { zone: "Mars/Base" },
    { search: { ...search, from: T } },
    { mostADay: 1.5 },
    { mail: ["nobody"] },
    { quiet: { from: "25:00", to: "07:00" } },
    { many: { moreThan: 0, seconds: 60, by: "person" } },
  ])
    expect(watchSchema.safeParse({ ...watch, ...wrong }).success).toBe(false);
});

test("a recipient who has not opened is told after the days, while the link holds", () => {
  const made = rfc3339(T - 15 * DAY);
  const opened = { email: "in@quay.example", firstOpenedAt: made };
  const named = link("l", "f", {
    reach: "named",
    createdAt: made,
    recipients: [{ email: "Out@quay.example" }, opened],
  });
  expect(notOpened(named, "Rider", 14, T)).toEqual([
    {
      key: "l\nout@quay.example",
      at: T - DAY,
      person: "out@quay.example",
      words: "out@quay.example hasn’t opened Rider in 14 days",
    },
  ]);
  expect(notOpened(named, "Rider", 16, T)).toEqual([]);
  expect(notOpened({ ...named, revokedAt: made }, "Rider", 14, T)).toEqual([]);
  expect(notOpened({ ...named, expiresAt: rfc3339(T) }, "Rider", 14, T)).toEqual([]);
  expect(notOpened({ ...named, opensAt: rfc3339(T - DAY) }, "Rider", 14, T)).toEqual([]);
  expect(notOpened({ ...named, reach: "open" }, "Rider", 14, T)).toEqual([]);
});

test("an intake link that ended without anything sent in is told; one that was used, or goes on, is not", () => {
  const intake = link("l", "f", { role: "deposit", expiresAt: rfc3339(T - DAY), uses: 0, lastUsedAt: null });
  expect(nothingSentIn(intake, "Applications", T).map(({ at, words }) => [at, words])).toEqual([
    [T - DAY, "Nothing was sent in to Applications before its link ended"],
  ]);
  expect(nothingSentIn({ ...intake, uses: 1 }, "Applications", T)).toEqual([]);
  expect(nothingSentIn({ ...intake, expiresAt: rfc3339(T + 1) }, "Applications", T)).toEqual([]);
  expect(nothingSentIn({ ...intake, expiresAt: null }, "Applications", T)).toEqual([]);
  expect(nothingSentIn({ ...intake, role: "view" }, "Applications", T)).toEqual([]);
});

test("events in words, with what has to be said besides", () => {
  expect(eventWords(event(T))).toBe("bea downloaded Rider");
  expect(eventWords(event(T, { who: null, verb: "waved-at", whom: person("cy") }))).toBe(
    "Somebody with the link did “waved-at” to Rider, cy",
  );
  expect([verbWords("shared-open"), verbTitle("shared-open")]).toEqual(["made an open link to", "Shared open"]);
  expect([1, 2, 1_214].map((count) => likeWords("Opened", count, count === 1 ? 0 : 3))).toEqual([
    "Opened once",
    "Opened twice by 3 people",
    "Opened 1,214 times by 3 people",
  ]);
  const taken = "A copy is outside and can’t be recalled.";
  expect(cautions(event(T))).toEqual([]);
  expect(cautions(event(T, { who: person("cy", "post.example"), remarks: ["late"] }))).toEqual([
    taken,
    "It arrived after later events",
  ]);
  expect([cautions(event(T, { verb: "copy-sent" })), cautions(event(T, { who: null }))]).toEqual([[taken], [taken]]);
});

test("the rollup counts by kind what stands before any row, also after rows have changed", () => {
  const length = 5_000;
  const trail = { kind: Uint16Array.from({ length }, (_, i) => i % 3), kinds: [{}, {}, {}] as never, length };
  const rollup = new Rollup(trail);
  const counted = (row: number) =>
    [0, 1, 2].map((kind) => trail.kind.subarray(0, row).filter((one) => one === kind).length);
  for (const row of [0, 1, 1_023, 1_024, 1_025, 4_999, 5_000]) expect([...rollup.before(row)]).toEqual(counted(row));
  trail.kind.fill(2, 1_500);
  rollup.changedFrom(1_500);
  for (const row of [1_500, 1_600, 4_096, 5_000]) expect([...rollup.before(row)]).toEqual(counted(row));
});

// Offsets and transitions as the tz database has them; values from memory.
test("moments by the clocks of a zone", () => {
  const at = Date.parse("2026-07-01T22:30:00Z") / 1000;
  expect([momentIn({ ...UTC_DATES, zone: "Asia/Kathmandu" }, at), momentIn(UTC_DATES, at)]).toEqual([
    "2 Jul 2026, 04:15",
    "1 Jul 2026, 22:30",
  ]);
  const day = dayNumber(at, "Asia/Kathmandu");
  expect(rfc3339(dayBegins(day, "Asia/Kathmandu"))).toBe("2026-07-01T18:15:00Z");
  const spring = dayNumber(Date.parse("2026-03-29T12:00:00Z") / 1000, "Europe/Lisbon");
  expect(dayBegins(spring + 1, "Europe/Lisbon") - dayBegins(spring, "Europe/Lisbon")).toBe(23 * 3_600);
  expect([isZone("Europe/Lisbon"), isZone("Europe/Lisbon"), isZone("Nowhere"), NEVER > at]).toEqual([
    true,
    true,
    false,
    true,
  ]);
});
