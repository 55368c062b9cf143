import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { answerExposure, answerFindings } from "@/bin/answers";
import { LAST_INSTANT, type Seconds } from "@/core/time/instant";
import { readEstateFile } from "@/core/estate/estateFile";
import { file, grant, head, inDays, link, NOW, person, estateOf, store, T } from "./records";
import { listedRows } from "./registerModel";

/** Instants at which numbers of 31 or 32 bits begin anew, and far beyond. */
const FAR = ["2038-01-19T03:14:08Z", "2106-02-07T06:28:16Z", "2120-01-01T00:00:00Z", "9999-12-31T23:59:59Z"];
const LONG_AGO = ["0001-01-01T00:00:00Z", "1969-12-31T23:59:59Z", "1833-01-01T00:00:00Z"];
const restricted = file("f", null, { label: "restricted" });

describe.each(FAR)("%s", (far) => {
  test("an open link that ends then is live, outside, and as risky as one without an end", () => {
    const estate = estateOf(restricted, link("l", "f", { expiresAt: far }));
    const [row] = listedRows(estate, T);
    expect([row.state, row.outside, row.risk, row.expires]).toEqual([
      "live",
      true,
      "very-high",
      Date.parse(far) / 1000,
    ]);
    expect(answerExposure(estate, T)).toMatchObject([{ item: "f", open: true, outsideUntil: far }]);
    expect(answerFindings(estate, T)).toContainEqual({
      rule: "open-expiry",
      subject: "l",
      item: "f",
      risk: "very-high",
    });
  });

  test("one that starts then lets nobody in yet; one that was revoked for then is still there", () => {
    const waiting = estateOf(restricted, link("l", "f", { opensAt: far }));
    expect([listedRows(waiting, T)[0].state, answerExposure(waiting, T)[0].open]).toEqual(["waiting", false]);
    const standing = estateOf(restricted, grant("g", "f", "out", { revokedAt: far }));
    expect([listedRows(standing, T)[0].state, answerExposure(standing, T)[0].outsiders]).toEqual(["live", 1]);
  });
});

describe.each(LONG_AGO)("%s", (then) => {
  test("what started then is open, what ended then is over, what was used then was used", () => {
    const open = estateOf(restricted, link("l", "f", { opensAt: then, createdAt: then, lastUsedAt: then }));
    expect(listedRows(open, T)).toMatchObject([{ state: "live", outside: true, lastUsed: Date.parse(then) / 1000 }]);
    expect(answerFindings(open, T)).toContainEqual(expect.objectContaining({ rule: "dormant", subject: "l" }));
    const over = estateOf(restricted, link("l", "f", { expiresAt: then }));
    expect(listedRows(over, T)).toMatchObject([{ state: "spent", outside: false }]);
  });

  test("at that very instant a share that ends in our days is on", () => {
    const estate = estateOf(restricted, link("l", "f", { expiresAt: inDays(1) }));
    expect(answerExposure(estate, Date.parse(then) / 1000)).toMatchObject([{ open: true, outsideUntil: inDays(1) }]);
  });
});

test("at the last instant there is, what never ends doesn't end soon: the rule finds it, and its risk is as high", () => {
  const estate = estateOf(restricted, link("l", "f", { expiresAt: null }));
  const found = (t: Seconds) => answerFindings(estate, t).find(({ rule }) => rule === "open-expiry");
  expect(found(LAST_INSTANT)).toEqual({ rule: "open-expiry", subject: "l", item: "f", risk: "very-high" });
  expect(found(LAST_INSTANT)).toEqual(found(T));
});

describe("on the command line", () => {
  const latch = join(__dirname, "../bin/latch");
  const written = (...records: object[]) => {
    const path = join(mkdtempSync(join(tmpdir(), "latch-")), "estate.jsonl");
    const all = [head(), store(), person("in", "in@home.example"), restricted, ...records];
    writeFileSync(path, all.map((record) => JSON.stringify(record)).join("\n"));
    return path;
  };

  test.each(FAR)("an end at %s is told as it is", (far) => {
    const path = written(link("l", "f", { expiresAt: far }));
    const out = execFileSync(latch, ["exposure", path, "--at", NOW], { encoding: "utf8" });
    expect(JSON.parse(out)).toMatchObject({ open: true, outsideUntil: far });
  });

  test("the year 0, which no instant of ours has, is refused with its line", () => {
    const { problems } = readEstateFile([
      ...[head(), store(), person("in", "in@home.example"), restricted].map((one) => JSON.stringify(one)),
      JSON.stringify(link("l", "f", { expiresAt: "0000-12-31T23:59:59Z" })),
    ]);
    expect(problems).toEqual([{ line: 5, message: "bad value: expiresAt is before the year 0001" }]);
  });
});
