import { findSubjects, traceItem, traceOrganisation, tracePaths, tracePerson } from "@/core/access/trace";
import { previewOf } from "@/core/dockets/preview";
import { verdictOn } from "@/core/dockets/verdict";
import { normaliseAddress, normaliseDomain } from "@/core/estate/address";
import { buildEstate, type Estate } from "@/core/estate/estate";
import type { EstateRecord } from "@/core/estate/records";
import { matches, sortRows } from "@/core/query/match";
import { parseQuery } from "@/core/query/parse";
import { shareDetail } from "@/core/register/detail";
import { type RegisterRow, registerRows } from "@/core/register/row";
import type { Seconds } from "@/core/time/instant";
import type { Answered, Asked, QuestionName } from "./questions";

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

  share({ id }: Asked<"share">, t: Seconds) {
    const share = this.estate.shareById.get(id);
    const row = this.rowsAt(t).get(id);
    return share && row ? shareDetail(this.estate, share, row, t) : null;
  }

  preview({ changes }: Asked<"preview">, t: Seconds) {
    return previewOf(this.estate, changes, t);
  }

  trace({ item, person, organisation }: Asked<"trace">, t: Seconds) {
    const { estate } = this;
    const position = item === undefined ? undefined : estate.tree.positionById.get(item);
    const index = person === undefined ? undefined : estate.personByAddress.get(normaliseAddress(person));
    if ((item !== undefined && position === undefined) || (person !== undefined && index === undefined)) return null;
    if (position !== undefined && index !== undefined) return tracePaths(estate, t, index, position);
    if (position !== undefined) return traceItem(estate, t, position);
    if (index !== undefined) return tracePerson(estate, t, index);
    return organisation === undefined ? null : traceOrganisation(estate, t, normaliseDomain(organisation));
  }

  find({ text }: Asked<"find">) {
    return findSubjects(this.estate, text);
  }

  record({ id }: Asked<"record">) {
    return this.estate.shareById.get(id)?.record ?? null;
  }

  private rowsAt(t: Seconds): Map<string, RegisterRow> {
    if (!this.kept || Math.abs(t - this.kept.at) >= ROWS_HOLD_S)
      this.kept = { at: t, rows: new Map(registerRows(this.estate, t).map((row) => [row.id, row])) };
    return this.kept.rows;
  }
}
