import { choiceAt } from "@/core/advice/choice";
import { massOf } from "@/core/advice/shortlist";
import { Standing } from "@/core/access/standing";
import {
  findSubjects,
  outsidersOf,
  waysToItem,
  reachOfOrganisation,
  pathsBetween,
  reachOfPerson,
} from "@/core/access/ways";
import { labelOutlook } from "@/core/access/labelOutlook";
import { type CheapestCut, cheapestCut } from "@/core/preview/cheapestCut";
import { previewInSteps, previewOf } from "@/core/preview/preview";
import type { Change } from "@/core/changes/change";
import { noticesOf } from "@/core/changes/notice";
import { planOf, type PlannedChange } from "@/core/changes/plan";
import { subjectWords } from "@/core/changes/subject";
import { intendedChanges } from "@/core/changes/intent";
import { tellingOf } from "@/core/changes/telling";
import { verdictOn } from "@/core/changes/verdict";
import { endOfEngagement, engagementSheet, engagementsTold } from "@/core/engagements/engagements";
import { personTold } from "@/core/directory/person";
import { leaversOf } from "@/core/leavers/leavers";
import { overLinks } from "@/core/clearing/overLinks";
import { intakeLinks } from "@/core/intake/intake";
import { RULES } from "@/core/rules/list";
import { shareOutlook } from "@/core/sharing/outlook";
import { ownItems, ownsItem } from "@/core/sharing/own";
import { leaverSheet } from "@/core/leavers/sheet";
import { normaliseDomain } from "@/core/estate/address";
import type { Estate } from "@/core/estate/estate";
import { outsideNow } from "@/core/register/outsideNow";
import { tightnessOf } from "@/core/register/tightness";
import { shareDetail } from "@/core/preview/shareDetail";
import { ALWAYS, type Seconds } from "@/core/time/instant";
import { dayIn, UTC_DATES } from "@/core/time/style";
import { AdviceBook } from "./adviceBook";
import { Book } from "./book";
import type { Answered, Asked, EstateQuestion, Outlook } from "./questions";
import { OutsiderBook } from "./outsiderBook";
import { publicList } from "./publicList";
import { InsiderBook } from "./insiderBook";
import { inPieces } from "./pieces";
import { RoundBook } from "./roundBook";
import { RuleBook } from "./ruleBook";
import type { Begun } from "./begun";
import type { Source } from "./source";

type Answers = {
  [Q in EstateQuestion]: (asked: Asked<Q>, t: Seconds) => Answered<Q> | Promise<Answered<Q>>;
};

/** Holds the estate and answers about it. Nothing here touches the world: the source brings what is known of it. */
export class Engine implements Answers {
  private standing = new Standing();
  private book!: Book;
  private ruleBook!: RuleBook;
  private adviceBook!: AdviceBook;
  private roundBook!: RoundBook;
  private outsiderBook!: OutsiderBook;
  private insiderBook!: InsiderBook;
  /** Goes up whenever something is taken in: what is being worked out meanwhile then holds no longer. */
  private generation = 0;

  constructor(private readonly source: Source) {}

  /** Takes in the whole estate, and what has changed since it was last kept. */
  async start() {
    const { estate, register } = await this.source.begin();
    this.standing = new Standing(estate);
    this.book = new Book(estate, this.source.lookedUp, register);
    this.ruleBook = new RuleBook(this.estate, () => this.book.register.rules);
    this.adviceBook = new AdviceBook(this.estate, this.book);
    this.roundBook = new RoundBook(this.estate, this.book);
    this.outsiderBook = new OutsiderBook(this.estate, this.book, () => this.standing.waysIn);
    this.insiderBook = new InsiderBook(this.estate);
    await this.catchUp();
  }

  behind(): Promise<number> {
    return this.source.behind();
  }

  /** Takes in what has changed; what doesn't follow from it stays as it was worked out. */
  async refresh(_: Asked<"refresh">, t: Seconds) {
    await this.catchUp();
    // Whoever asks next shouldn't have to wait for it.
    const register = this.book.at(t);
    await this.source.keep({ estate: this.estate, register });
    return { shares: this.estate.shareCount, dangling: this.estate.dangling.length };
  }

  /** Gets ready what will be asked for, as long as nothing else is. */
  prepare(): Promise<void> {
    return this.book.prepare();
  }

  /** The estate, with all that has changed. */
  async caughtUp(): Promise<Estate> {
    await this.catchUp();
    return this.estate;
  }

  /** What another engine can be begun with, brought to what is known now; to an instant where it never was at one. */
  async begun(t: Seconds): Promise<Begun> {
    const estate = await this.caughtUp();
    const { register } = this.book;
    this.book.at(register.now === ALWAYS ? t : register.now);
    return { estate, register };
  }

  private async catchUp() {
    this.estate.takeBelief(await this.source.belief());
    this.estate.takeLabelRules(await this.source.labelRules());
    const saysLastDay = this.estate.takeLastDays(await this.source.lastDays());
    const settled = this.standing.apply(await this.source.changes());
    this.generation++;
    const { whole, stores, shares, renamed, stances } = settled;
    if (whole || stores || stances || shares.length + renamed.length > 0) {
      this.adviceBook.forget();
      this.roundBook.forget();
      this.outsiderBook.forget();
    }
    if (whole || saysLastDay) this.insiderBook.forget();
    this.book.take(settled);
    const { register } = this.book;
    register.takeRules(await this.source.rules());
    register.takeWaivers(await this.source.waivers());
    register.takeOrders(await this.source.orders());
    register.takeSameFirms(await this.source.sameFirms());
    register.takeConfirmations(await this.source.confirmations());
  }

  private get estate() {
    return this.standing.estate;
  }

  register(asked: Asked<"register">, t: Seconds) {
    return this.book.page(asked, t);
  }

  matching({ query }: Asked<"matching">, t: Seconds) {
    return this.book.ids(query, t);
  }

  some(asked: Asked<"some">, t: Seconds) {
    return this.book.some(asked, t);
  }

  csv(asked: Asked<"csv">, t: Seconds) {
    return this.book.csv(asked, t);
  }

  async tightness(_: Asked<"tightness">, t: Seconds) {
    return tightnessOf(this.book.at(t));
  }

  counts({ queries }: Asked<"counts">, t: Seconds) {
    return this.book.counts(queries, t);
  }

  funnel({ query }: Asked<"funnel">, t: Seconds) {
    return this.book.funnel(query, t);
  }

  facet(asked: Asked<"facet">, t: Seconds) {
    return this.book.facet(asked, t);
  }

  values({ field, text }: Asked<"values">, t: Seconds) {
    return this.book.values(field, text, t);
  }

  extract({ query }: Asked<"extract">, t: Seconds) {
    return this.book.extract(query, t);
  }

  publicList(_: Asked<"publicList">, t: Seconds) {
    return publicList(this.estate, this.book, t);
  }

  rows({ ids }: Asked<"rows">, t: Seconds) {
    return this.book.rows(ids, t);
  }

  notices({ ids }: Asked<"notices">) {
    return noticesOf(this.estate, ids);
  }

  async outlook({ changes }: Asked<"outlook">, t: Seconds) {
    const outlooks: Outlook[] = [];
    for (const change of changes)
      outlooks.push({
        verdict: verdictOn(this.estate, change, t),
        record: "shareId" in change ? await this.source.record(change.shareId) : null,
      });
    return outlooks;
  }

  telling({ changes }: Asked<"telling">) {
    return tellingOf(this.estate, changes);
  }

  /** The changes that it takes to get each intent, with what they are about; null where that isn't here. */
  plan({ intents }: Asked<"plan">, t: Seconds) {
    return intents.map((intent) => {
      const plans = intendedChanges(this.estate, intent, t)?.map((change) => this.planned(change));
      return !plans || plans.some((plan) => plan === null) ? null : plans.flatMap((plan) => plan!);
    });
  }

  private planned(change: Change): PlannedChange[] | null {
    const words = subjectWords(this.estate, change);
    return (
      words &&
      planOf(this.estate, change).map((one) => ({ change: one, words: subjectWords(this.estate, one) ?? words }))
    );
  }

  async share({ id, dates = UTC_DATES }: Asked<"share">, t: Seconds) {
    const record = await this.source.record(id);
    const share = this.estate.share(id);
    const [row] = await this.book.rows([id], t);
    if (!share || !row || !record || row.state === "revoked") return null;
    const { register } = this.book;
    const ofItem = this.ruleBook.brokenByItem(register, share.position, t);
    const held = await this.source.history(id);
    const told = {
      waysIn: this.standing.waysIn,
      rules: register.rules,
      ofItem,
      days: (at: Seconds) => dayIn(dates, at),
    };
    return shareDetail(this.estate, share, record, row, t, held, told);
  }

  async ruleCounts(_: Asked<"ruleCounts">, t: Seconds) {
    return this.ruleBook.counts(this.book.at(t), t);
  }

  async tryRule({ rule, parameters }: Asked<"tryRule">, t: Seconds) {
    return this.ruleBook.try(this.book.at(t), rule, parameters, t);
  }

  async previewRule({ rule, parameters }: Asked<"previewRule">, t: Seconds) {
    return this.ruleBook.preview(this.book.at(t), rule, parameters, this.standing.waysIn, t);
  }

  async breaches({ rules, subjects }: Asked<"breaches">, t: Seconds) {
    return this.ruleBook.breaches(this.book.at(t), rules, subjects, t);
  }

  async broken({ shares, rules }: Asked<"broken">, t: Seconds) {
    const ids = "ids" in shares ? shares.ids : await this.book.ids(shares.query, t);
    return this.ruleBook.broken(this.book.at(t), ids, rules, t);
  }

  /** Piece by piece; where something changes meanwhile it is begun again, and the last time done in one go. */
  async preview({ changes }: Asked<"preview">, t: Seconds) {
    const { generation } = this;
    const steps = previewInSteps(this.estate, changes, t, this.standing.waysIn);
    const preview = await inPieces(steps, () => generation === this.generation);
    return preview ?? previewOf(this.estate, changes, t, this.standing.waysIn);
  }

  shareOutlook({ wish, asker, dates = UTC_DATES }: Asked<"shareOutlook">, t: Seconds) {
    const { rules } = this.book.at(t);
    return shareOutlook(this.estate, wish, asker, t, { rules, days: (at) => dayIn(dates, at) });
  }

  async intakeLinks(_: Asked<"intakeLinks">, t: Seconds) {
    const links = intakeLinks(this.estate, t);
    const rows = await this.book.rows(
      links.map(({ id }) => id),
      t,
    );
    const rules = new Map(rows.map((row) => [row.id, row.rules]));
    return links.map((link) => ({
      ...link,
      findings: (rules.get(link.id) ?? []).map((rule) => ({ rule, title: RULES[rule].title })),
    }));
  }

  overLinks({ instants }: Asked<"overLinks">, t: Seconds) {
    return overLinks(this.estate, t, instants);
  }

  ownItems({ address, text, most }: Asked<"ownItems">) {
    return ownItems(this.estate, address, text, most);
  }

  ownsItem({ address, item }: Asked<"ownsItem">) {
    return ownsItem(this.estate, address, item);
  }

  waysIn({ item, person, organisation }: Asked<"waysIn">, t: Seconds) {
    const { estate, standing } = this;
    const position = item === undefined ? undefined : estate.tree.position(item);
    const index = person === undefined ? undefined : estate.principals.findAddress(person);
    if ((item !== undefined && position === undefined) || (person !== undefined && index === undefined)) return null;
    if (position !== undefined && index !== undefined) return pathsBetween(estate, t, index, position);
    const whole = organisation === undefined ? null : normaliseDomain(organisation);
    if (position !== undefined) return waysToItem(estate, t, position, standing.outsideAt(t), whole);
    if (index !== undefined) return reachOfPerson(estate, t, index, standing.waysIn);
    return whole === null ? null : reachOfOrganisation(estate, t, whole, standing.waysIn);
  }

  async labelOutlook({ rules }: Asked<"labelOutlook">) {
    return labelOutlook(this.estate, rules);
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

  curve(asked: Asked<"curve">, t: Seconds) {
    return this.adviceBook.curve(asked, t);
  }

  point(asked: Asked<"point">, t: Seconds) {
    return this.adviceBook.point(asked, t);
  }

  pointLines(asked: Asked<"pointLines">, t: Seconds) {
    return this.adviceBook.lines(asked, t);
  }

  pointActs(asked: Asked<"pointActs">, t: Seconds) {
    return this.adviceBook.acts(asked, t);
  }

  mass({ weighing }: Asked<"mass">, t: Seconds) {
    return massOf(choiceAt(this.estate, t, weighing));
  }

  roundForecast({ query, deciding }: Asked<"roundForecast">, t: Seconds) {
    return this.roundBook.forecast(query, deciding, t);
  }

  roundShares({ query, deciding }: Asked<"roundShares">, t: Seconds) {
    return this.roundBook.ids(query, deciding, t);
  }

  linesOpened({ ids, deciding }: Asked<"linesOpened">, t: Seconds) {
    return JSON.stringify(this.roundBook.opened(ids, deciding, t));
  }

  lineOutlooks({ ids, dates }: Asked<"lineOutlooks">, t: Seconds) {
    return this.roundBook.outlooks(ids, dates, t);
  }

  filesTogether({ groups }: Asked<"filesTogether">) {
    return this.roundBook.files(groups);
  }

  linesAsked({ ids }: Asked<"linesAsked">, t: Seconds) {
    return this.roundBook.asked(ids, t);
  }

  lineChanges({ decided }: Asked<"lineChanges">, t: Seconds) {
    return this.roundBook.changes(decided, t);
  }

  undecidedChanges({ ids, round }: Asked<"undecidedChanges">, t: Seconds) {
    return this.roundBook.undecided(ids, round, t);
  }

  whyNotPassedOn({ lines, to }: Asked<"whyNotPassedOn">) {
    return this.roundBook.whyNotPassedOn(lines, to);
  }

  insiders({ addresses }: Asked<"insiders">) {
    return this.roundBook.insiders(addresses);
  }

  departments() {
    return this.roundBook.departments();
  }

  organisations(asked: Asked<"organisations">, t: Seconds) {
    return this.outsiderBook.organisations(asked, t);
  }

  organisation({ domain }: Asked<"organisation">, t: Seconds) {
    return this.outsiderBook.organisation(domain, t);
  }

  lookAlikes(asked: Asked<"lookAlikes">, t: Seconds) {
    return this.outsiderBook.lookAlikes(asked, t);
  }

  engagements(_: Asked<"engagements">, t: Seconds) {
    return engagementsTold(this.estate, t);
  }

  engagementSheet({ id }: Asked<"engagementSheet">, t: Seconds) {
    return engagementSheet(this.estate, id, t);
  }

  endOfEngagement({ id }: Asked<"endOfEngagement">, t: Seconds) {
    return endOfEngagement(this.estate, id, t);
  }

  insiderPage(asked: Asked<"insiderPage">, t: Seconds) {
    return this.insiderBook.page(asked, t);
  }

  personTold({ address }: Asked<"personTold">) {
    const person = this.estate.principals.findAddress(address);
    return person === undefined ? null : personTold(this.estate, person);
  }

  leavers(_: Asked<"leavers">, t: Seconds) {
    return leaversOf(this.estate, t);
  }

  leaversNow({ known }: Asked<"leaversNow">, t: Seconds) {
    const { principals, people } = this.estate;
    const isBack = (address: string) => people[principals.findAddress(address) ?? -1]?.status === "active";
    const gone = leaversOf(this.estate, t).filter(({ status }) => status !== "active");
    return { leavers: gone.map(({ address, since }) => ({ address, since })), back: known.filter(isBack) };
  }

  leaver({ address, heads }: Asked<"leaver">, t: Seconds) {
    const person = this.estate.principals.findAddress(address);
    const byDepartment = new Map(heads.map(({ department, person }) => [department, person]));
    return person === undefined ? null : leaverSheet(this.estate, person, t, byDepartment);
  }

  find({ text, owners }: Asked<"find">) {
    return findSubjects(this.estate, text, owners);
  }

  outsideNow(_: Asked<"outsideNow">, t: Seconds) {
    return outsideNow(this.book.at(t));
  }

  record({ id }: Asked<"record">) {
    return this.source.record(id);
  }
}
