import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { buildEstate } from "../core/estate/estate";
import { DEFAULT_RULES, standardOf } from "../core/rules/findings";
import { RULE_IDS } from "../core/rules/list";
import { WaysIn } from "../core/access/waysIn";
import { WAYS } from "../core/register/wayAndState";
import { DAY } from "../core/time/instant";
import { readingInSql } from "./registerQueries";
import { Book } from "../server/engine/book";
import { RuleBook } from "../server/engine/ruleBook";
import { generateEstate } from "./generate";
import type { Report } from "./report";
import { timed } from "./timing";

const ITEMS = 1_000_000;
const TURNS = 200;
const REDRAWN_MS = 150;

/** A slot of a rule that is turned again and again: the picture beside it, the shares, owners and organisations that fall. */
export async function measureRules(report: Report, shares: number) {
  const folder = mkdtempSync(join(tmpdir(), "latch-rules-"));
  const estate = buildEstate(generateEstate(ITEMS, 1, shares));
  const t = estate.asOf;
  const path = join(folder, "reading");
  const book = new Book(estate);
  const register = await book.at(t);
  const rules = new RuleBook(estate, () => DEFAULT_RULES);
  const wanted = shares > 250_000 ? null : REDRAWN_MS;
  const add = (what: string, value: number, unit: "ms", wanted: number | null = null) =>
    report.add({ size: shares, what, value, unit, wanted, isAsked: true });

  const began = performance.now();
  rules.try(register, "open-expiry", { maxDays: 30 }, t);
  add("rules: the first look at one, which judges every share", performance.now() - began, "ms");
  const turned = (run: number) => rules.try(register, "open-expiry", { maxDays: (run % 90) + 1 }, t);
  const slot = await timed(TURNS, turned, 10);
  add("rules: a slot turned, median", slot.median, "ms");
  add("rules: a slot turned, p95", slot.p95, "ms", wanted);
  const each = await timed(
    RULE_IDS.length * 5,
    (run) => {
      const rule = RULE_IDS[Math.abs(run) % RULE_IDS.length];
      return rules.try(register, rule, standardOf(rule), t);
    },
    RULE_IDS.length,
  );
  add("rules: any rule, p95", each.p95, "ms", wanted);
  const preview = await timed(5, () => rules.preview(register, "open-expiry", { maxDays: 14 }, waysIn(), t));
  add("rules: the preview of a stricter mode", preview.median, "ms");

  const sql = readingInSql(path, register);
  const bare = await timed(20, (run) => {
    const cut = t + ((run % 90) + 1) * DAY;
    const rows = sql
      .prepare(
        `select min(max((expires - ?) / ?, 0), 30) as bar, count(*) as count, sum(expires > ?) as falls from shown
         where way = ? and state = 'live' group by 1`,
      )
      .all(t, 3 * DAY, cut, WAYS[0]) as { falls: number }[];
    const falls = rows.reduce((sum, row) => sum + row.falls, 0);
    // A baseline that finds something else is none.
    if (falls !== turned(run).shares) throw new Error(`bare SQL finds ${falls} open links past ${cut}, and we don't`);
  });
  add("rules: the same bars as bare SQL, with ours once more", bare.median, "ms");
  sql.close();
  rmSync(folder, { recursive: true });

  function waysIn() {
    return new WaysIn(estate);
  }
}
