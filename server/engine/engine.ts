import { previewOf } from "@/core/dockets/preview";
import { verdictOn } from "@/core/dockets/verdict";
import { inheritedFrom } from "@/core/access/paths";
import { isLiveShare } from "@/core/access/live";
import { buildEstate, type Estate, sharesOn, storeAt } from "@/core/estate/estate";
import type { EstateRecord } from "@/core/estate/records";
import { matches, sortRows } from "@/core/query/match";
import { parseQuery } from "@/core/query/parse";
import { type RegisterRow, registerRows } from "@/core/register/row";
import { audienceWords, shareSentence } from "@/core/register/words";
import { RULES } from "@/core/rules/catalogue";
import { findings } from "@/core/rules/findings";
import { judge } from "@/core/rules/judging";
import { reasonFor } from "@/core/rules/reasons";
import { DAY, rfc3339, type Seconds } from "@/core/time/instant";
import type { Answered, Asked, QuestionName, ShareDetail } from "./questions";

type Answers = { [Q in QuestionName]: (asked: Asked<Q>, t: Seconds) => Answered<Q> | Promise<Answered<Q>> };

/** How long rows hold: ages and ends are told in days and hours, so a minute changes nothing that is read. */
const ROWS_HOLD_S = 60;

/** Holds the estate and answers about it. Nothing here touches the world: `load` brings the records. */
export class Engine implements Answers {
  private estate: Estate = buildEstate([]);
  private kept: { at: Seconds; rows: Map<string, RegisterRow> } | undefined;

  constructor(private readonly load: () => Promise<EstateRecord[]>) {}

  async refresh() {
    this.estate = buildEstate(await this.load());
    this.kept = undefined;
    return { shares: this.estate.shares.length, dangling: this.estate.dangling.length };
  }

  register({ query: text, sort, reversed, from, count }: Asked<"register">, t: Seconds) {
    const query = parseQuery(text);
    const rows = [...this.rowsAt(t).values()];
    const found = rows.filter((row) => matches(row, query, t));
    const page = sortRows(found, sort, reversed).slice(from, from + count);
    return { total: rows.length, found: found.length, rows: page, problems: query.problems };
  }

  matching({ query: text }: Asked<"matching">, t: Seconds) {
    const query = parseQuery(text);
    return [...this.rowsAt(t).values()].filter((row) => matches(row, query, t)).map((row) => row.id);
  }

  rows({ ids }: Asked<"rows">, t: Seconds) {
    const rows = this.rowsAt(t);
    return ids.map((id) => rows.get(id)).filter((row) => row !== undefined);
  }

  verdict({ change }: Asked<"verdict">, t: Seconds) {
    return verdictOn(this.estate, change, t);
  }

  share({ id }: Asked<"share">, t: Seconds): ShareDetail | null {
    const share = this.estate.shareById.get(id);
    const row = this.rowsAt(t).get(id);
    if (!share || !row) return null;
    const { estate } = this;
    const { record } = share;
    const inAWeek = rfc3339(t + 7 * DAY);
    const expiry = verdictOn(estate, { action: "set-expiry", shareId: id, expiresAt: inAWeek }, t);
    return {
      row,
      sentence: shareSentence(estate, share),
      address: record.type === "link" ? (record.address ?? null) : null,
      findings: row.rules.map((rule) => ({
        rule,
        title: RULES[rule].title,
        reason: reasonFor(rule, estate, share, t),
      })),
      itemFindings: findings(judge(estate, t))
        .filter((one) => one.subject === record.itemId && one.item === record.itemId)
        .map(({ rule }) => ({ rule, title: RULES[rule].title })),
      recipients: record.type === "link" ? record.recipients : [],
      tellsRecipientUse: storeAt(estate, share.position).capabilities.perRecipientUse,
      others: this.othersOf(id, t),
      canRevoke: verdictOn(estate, { action: "revoke", shareId: id }, t).can,
      noExpiryWhy: expiry.can ? null : expiry.why,
    };
  }

  preview({ changes }: Asked<"preview">, t: Seconds) {
    return previewOf(this.estate, changes, t);
  }

  record({ id }: Asked<"record">) {
    return this.estate.shareById.get(id)?.record ?? null;
  }

  private rowsAt(t: Seconds): Map<string, RegisterRow> {
    if (!this.kept || Math.abs(t - this.kept.at) >= ROWS_HOLD_S)
      this.kept = { at: t, rows: new Map(registerRows(this.estate, t).map((row) => [row.id, row])) };
    return this.kept.rows;
  }

  private othersOf(id: string, t: Seconds): ShareDetail["others"] {
    const { estate } = this;
    const { position } = estate.shareById.get(id)!;
    return inheritedFrom(estate, position)
      .flatMap((at) => sharesOn(estate, at))
      .filter((other) => other.id !== id && isLiveShare(estate, other, t))
      .map((other) => ({
        id: other.id,
        words: `${audienceWords(estate, other)}, ${other.role}`,
        at: other.position === position ? "on the same item" : `from ${estate.tree.items[other.position].name}`,
      }));
  }
}
