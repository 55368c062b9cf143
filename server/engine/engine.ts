import { type OutsideCount, outsideSharesOver } from "@/core/access/history";
import { Standing } from "@/core/access/standing";
import { findSubjects, outsidersOf, traceItem, traceOrganisation, tracePaths, tracePerson } from "@/core/access/trace";
import { type CheapestCut, cheapestCut } from "@/core/dockets/cheapestCut";
import { previewOf } from "@/core/dockets/preview";
import { subjectWords } from "@/core/dockets/subject";
import { verdictOn } from "@/core/dockets/verdict";
import { normaliseDomain } from "@/core/estate/address";
import { matches, sortRows } from "@/core/query/match";
import { parseQuery } from "@/core/query/parse";
import { shareDetail } from "@/core/register/detail";
import { type RegisterRow, registerRows } from "@/core/register/row";
import type { Seconds } from "@/core/time/instant";
import type { Answered, Asked, QuestionName } from "./questions";
import type { Source } from "./source";

type Answers = { [Q in QuestionName]: (asked: Asked<Q>, t: Seconds) => Answered<Q> | Promise<Answered<Q>> };

/** How long rows hold: ages and ends are told in days and hours, so a minute changes nothing that is read. */
const ROWS_HOLD_S = 60;

/** Holds the estate and answers about it. Nothing here touches the world: the source brings what is known of it. */
export class Engine implements Answers {
  private standing = new Standing();
  private told: { key: string; counts: OutsideCount[] } | undefined;
  private kept: { at: Seconds; rows: Map<string, RegisterRow> } | undefined;

  constructor(private readonly source: Source) {}

  /** Takes in the whole estate, and what has changed since it was last kept. */
  async start() {
    this.standing = new Standing(await this.source.estate());
    return this.refresh();
  }

  /** Takes in what has changed; what doesn't follow from it stays as it was worked out. */
  async refresh() {
    if (this.standing.apply(await this.source.changes())) this.kept = this.told = undefined;
    const { estate } = this.standing;
    await this.source.keep(estate);
    return { shares: estate.shareCount, dangling: estate.dangling.length };
  }

  private get estate() {
    return this.standing.estate;
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

  subjects({ changes }: Asked<"subjects">) {
    return changes.map((change) => subjectWords(this.estate, change));
  }

  async share({ id }: Asked<"share">, t: Seconds) {
    const record = await this.source.record(id);
    const share = this.estate.share(id);
    const row = this.rowsAt(t).get(id);
    return share && row && record ? shareDetail(this.estate, share, record, row, t, this.standing.waysIn) : null;
  }

  preview({ changes }: Asked<"preview">, t: Seconds) {
    return previewOf(this.estate, changes, t, this.standing.waysIn);
  }

  trace({ item, person, organisation }: Asked<"trace">, t: Seconds) {
    const { estate, standing } = this;
    const position = item === undefined ? undefined : estate.tree.position(item);
    const index = person === undefined ? undefined : estate.principals.findAddress(person);
    if ((item !== undefined && position === undefined) || (person !== undefined && index === undefined)) return null;
    if (position !== undefined && index !== undefined) return tracePaths(estate, t, index, position);
    const whole = organisation === undefined ? null : normaliseDomain(organisation);
    if (position !== undefined) return traceItem(estate, t, position, standing.outsideAt(t), whole);
    if (index !== undefined) return tracePerson(estate, t, index, standing.waysIn);
    return whole === null ? null : traceOrganisation(estate, t, whole, standing.waysIn);
  }

  cheapestCut({ item, person, organisation, below }: Asked<"cheapestCut">, t: Seconds): CheapestCut | null {
    const { estate } = this;
    const position = estate.tree.position(item);
    const index = person === undefined ? undefined : estate.principals.findAddress(person);
    const people = organisation === undefined ? [index] : outsidersOf(estate, normaliseDomain(organisation));
    const known = people.filter((one) => one !== undefined);
    if (position === undefined || known.length === 0) return null;
    return cheapestCut(estate, { people: known, position, below }, t, this.standing.waysIn);
  }

  find({ text }: Asked<"find">) {
    return findSubjects(this.estate, text);
  }

  /** How many outside shares there were at each of some instants. Worked out anew only where something has changed. */
  async history({ instants }: Asked<"history">) {
    const key = instants.join();
    if (this.told?.key !== key) this.told = { key, counts: outsideSharesOver(await this.source.facts(), instants) };
    return this.told.counts;
  }

  record({ id }: Asked<"record">) {
    return this.source.record(id);
  }

  private rowsAt(t: Seconds): Map<string, RegisterRow> {
    if (!this.kept || Math.abs(t - this.kept.at) >= ROWS_HOLD_S)
      this.kept = { at: t, rows: new Map(registerRows(this.estate, t).map((row) => [row.id, row])) };
    return this.kept.rows;
  }
}
