import type { OutsideCount } from "@/core/access/history";
import type { LabelOutlook } from "@/core/access/labelOutlook";
import type { LabelRule } from "@/core/estate/labels";
import type { Found, Ways } from "@/core/access/ways";
import type { Change } from "@/core/changes/change";
import type { CheapestCut } from "@/core/preview/cheapestCut";
import type { StoreNotice } from "@/core/changes/notice";
import type { Intent } from "@/core/changes/intent";
import type { Preview } from "@/core/preview/preview";
import type { PlannedChange } from "@/core/changes/plan";
import type { Telling, ToldChange } from "@/core/changes/telling";
import type { Verdict } from "@/core/changes/verdict";
import type { Facet, FacetName } from "@/core/query/facets";
import type { EngagementEnd, EngagementSheet, EngagementTold } from "@/core/engagements/engagements";
import type { Insider, InsiderOrder } from "@/core/directory/insiders";
import type { PersonTold } from "@/core/directory/person";
import type { ChoiceName } from "@/core/query/fields";
import type { ListAsked, ListPage } from "@/core/query/listed";
import type { Order } from "@/core/query/order";
import type { Funnel, PageAsked, RegisterPage } from "@/core/query/page";
import type { PublicShare } from "@/core/register/publicList";
import type { RegisterRow } from "@/core/register/columns";
import type { ShareRecord } from "@/core/estate/records";
import type { ShareDetail } from "@/core/preview/shareDetail";
import type { Tightness } from "@/core/register/tightness";
import type { Breach } from "@/core/rules/demand";
import type { RuleOutlook } from "@/core/rules/preview";
import type { RuleId } from "@/core/rules/list";
import type { Trial } from "@/core/rules/trial";
import type { TrailCounts, TrailFacets } from "@/core/trail/counts";
import type { EventsAsked, EventsPage, GroupsAsked, GroupsPage } from "@/core/trail/page";
import type { TrailSearch } from "@/core/trail/search";
import type { EventWatch } from "@/core/trail/watch";
import type { Seconds } from "@/core/time/instant";
import type { DateSettings } from "@/core/time/style";
import type { ShareUse } from "@/core/trail/uses";
import type { ActsOfPoint, Curve, LinesPage, PointView } from "@/core/advice/view";
import type { Weighing } from "@/core/advice/weighing";
import type { Decision } from "@/core/rounds/decision";
import type { Forecast } from "@/core/rounds/forecast";
import type { LineOutlook } from "@/core/rounds/outlook";
import type { RoundAsked } from "@/core/rounds/round";
import type { Leaver } from "@/core/leavers/leavers";
import type { OverLinks } from "@/core/clearing/overLinks";
import type { IntakeLink } from "@/core/intake/intake";
import type { Asker } from "@/core/sharing/changesFor";
import type { ShareOutlook } from "@/core/sharing/outlook";
import type { Wish } from "@/core/sharing/wish";
import type { LeaverSheet } from "@/core/leavers/sheet";
import type { OrganisationSheet } from "@/core/outsiders/organisation";
import type { Organisation, OrganisationOrder } from "@/core/outsiders/organisations";
import type { AdviceAsked, LinesAsked, PointAsked } from "./adviceBook";
import type { PairsAsked, PairsFound } from "./outsiderBook";
import type { DecidingAsked, InsiderTold } from "./roundBook";
import type { RuleCounts } from "./ruleBook";

/** An intake link with the rules that it breaks without leave. */
export type IntakeJudged = IntakeLink & { findings: { rule: RuleId; title: string }[] };

/** What can be asked about events: what goes in, and what comes out. */
export interface TrailQuestions {
  events: [EventsAsked, EventsPage];
  eventGroups: [GroupsAsked, GroupsPage];
  eventCounts: [{ search: TrailSearch; zone: string }, TrailCounts];
  eventFacets: [{ search: TrailSearch }, TrailFacets];
  /** How many alerts a watch would have raised between two instants. */
  wouldHaveRaised: [{ watch: Pick<EventWatch, "search" | "many">; from: Seconds; to: Seconds }, number];
  /** Who has used some shares since an instant. */
  uses: [{ shares: string[]; from: Seconds }, ShareUse[]];
  /** Ids of the shares that people of some organisations used. */
  usedBy: [{ organisations: string[] }, string[]];
}

/** What can be asked about what to shut first. Null where the scope names what isn't here. */
export interface AdviceQuestions {
  curve: [AdviceAsked, Curve | null];
  point: [PointAsked, PointView | null];
  pointLines: [LinesAsked, LinesPage | null];
  pointActs: [PointAsked, ActsOfPoint | null];
}

/** What can be asked about organisations outside. */
export interface OutsiderQuestions {
  organisations: [ListAsked & OrganisationOrder, ListPage<Organisation>];
  /** Null where nobody is known of it and nothing said. @see PRIVATE_MAILBOXES */
  organisation: [{ domain: string }, { organisation: Organisation; sheet: OrganisationSheet } | null];
  /** Pairs of domains of which one can be taken for the other; those that are one firm's are left out. */
  lookAlikes: [PairsAsked, PairsFound];
}

/** What can be asked about engagements. Null where there is none of that id. */
export interface EngagementQuestions {
  engagements: [object, EngagementTold[]];
  engagementSheet: [{ id: string }, EngagementSheet | null];
  endOfEngagement: [{ id: string }, EngagementEnd | null];
}

/** What can be asked about insiders, and about who says what of anybody. */
export interface InsiderQuestions {
  insiderPage: [ListAsked & InsiderOrder, ListPage<Insider>];
  /** Null where nobody is known by that address. */
  personTold: [{ address: string }, PersonTold | null];
}

/** What can be asked about those who leave, or have left. */
export interface LeaverQuestions {
  leavers: [object, Leaver[]];
  /** The same, short, of those who are here no more; and who of some who had left are active again. */
  leaversNow: [{ known: string[] }, { leavers: { address: string; since: Seconds | null }[]; back: string[] }];
  /** Null for anybody else. */
  leaver: [{ address: string; heads: { department: string; person: string }[] }, LeaverSheet | null];
}

/** What can be asked about rounds and their lines. */
export interface RoundQuestions {
  /** What a round over a query would be. */
  roundForecast: [{ query: string; deciding: DecidingAsked }, Forecast];
  /** Ids of all that a query finds, decider by decider. */
  roundShares: [{ query: string; deciding: DecidingAsked }, string[]];
  /**
   * Lines for some shares, as they are put down; null for one that is no longer known. `(LineOpened | null)[]` as JSON: a
   * quarter of a million of them cross from one thread to the other in a fraction of the time that objects take.
   */
  linesOpened: [{ ids: string[]; deciding: DecidingAsked }, string];
  /** What is known of some lines' shares; null for one that is no longer known. */
  lineOutlooks: [{ ids: string[]; dates: Pick<DateSettings, "zone" | "style"> }, (LineOutlook | null)[]];
  /** How many different live files the shares of each group reach together. */
  filesTogether: [{ groups: string[][] }, number[]];
  /** What some lines would ask about now; null for one whose share lets nobody in any more. */
  linesAsked: [{ ids: string[] }, (string | null)[]];
  /** What carries some decisions out; null for one that can't be any more. */
  lineChanges: [{ decided: { shareId: string; decision: Decision }[] }, (Change[] | null)[]];
  /** What each of some shares gets about which nobody decided. */
  undecidedChanges: [{ ids: string[]; round: Pick<RoundAsked, "undecided" | "undecidedDays"> }, Change[][]];
  /** Why each of some lines can't be passed on to somebody; null for one that can. */
  whyNotPassedOn: [{ lines: { shareId: string; before: string[] }[]; to: string }, (string | null)[]];
  /** Who some people are here. */
  insiders: [{ addresses: string[] }, InsiderTold[]];
  /** Every department that somebody active here is in. */
  departments: [Record<never, never>, string[]];
}

/** Everything that can be asked of the engine: what goes in, and what comes out. */
export interface Questions
  extends
    TrailQuestions,
    AdviceQuestions,
    RoundQuestions,
    OutsiderQuestions,
    InsiderQuestions,
    LeaverQuestions,
    EngagementQuestions {
  /** Takes in what has changed in the database. */
  /** How many facts have come that it hasn’t taken in. */
  behind: [Record<never, never>, number];
  refresh: [Record<never, never>, { shares: number; dangling: number }];
  register: [PageAsked, RegisterPage];
  /** Ids of all shares that a query finds. */
  matching: [{ query: string }, string[]];
  /** Rows of what a query finds, in its order: the first, or those that follow a share. */
  some: [{ query: string; order: Order; behind?: string; count: number }, RegisterRow[]];
  /** The same as lines of CSV; the last share's id where more may follow. */
  csv: [{ query: string; order: Order; behind?: string; count: number }, { lines: string; last?: string }];
  tightness: [Record<never, never>, Tightness[]];
  /** How many shares each query finds. */
  counts: [{ queries: string[] }, number[]];
  funnel: [{ query: string }, Funnel];
  /** Values of one facet with some text in them. */
  facet: [{ query: string; field: FacetName; text: string; most: number }, Facet];
  /** Values that a field has anywhere. */
  values: [{ field: ChoiceName; text: string }, { value: string; title: string }[]];
  rows: [{ ids: string[] }, RegisterRow[]];
  /** What other rules would label otherwise. */
  labelOutlook: [{ rules: LabelRule[] }, LabelOutlook];
  /** Ids of what a query finds, and of the items that it lies on, all above them included. */
  extract: [{ query: string }, { shares: string[]; items: string[] }];
  publicList: [Record<never, never>, PublicShare[]];
  /** Which stores need notice of an end of some shares. */
  notices: [{ ids: string[] }, StoreNotice[]];
  /** What is to be known of changes before they are sent: whether they can be done, and their shares' own records. */
  outlook: [{ changes: Change[] }, Outlook[]];
  /** The changes that it takes to get each intent, with what they are about; null where that isn't here. */
  plan: [{ intents: Intent[] }, (PlannedChange[] | null)[]];
  /** How many break each rule. */
  ruleCounts: [Record<never, never>, Record<RuleId, RuleCounts>];
  /** What a rule with other parameters would find. */
  tryRule: [RuleAsked, Trial];
  previewRule: [RuleAsked, RuleOutlook];
  /** What breaks some rules without leave; of some subjects alone, where they are given. */
  breaches: [{ rules: RuleId[]; subjects: string[] | null }, Breach[]];
  /** Which of some rules, or of all, each share breaks without leave: of some shares, or of all that a query finds. */
  broken: [
    { shares: { ids: string[] } | { query: string }; rules: RuleId[] | null },
    { shareId: string; rule: RuleId }[],
  ];
  share: [{ id: string; dates?: Pick<DateSettings, "zone" | "style"> }, ShareDetail | null];
  preview: [{ changes: Change[] }, Preview];
  /** What a share would be, were it made; null where the item isn't here. */
  shareOutlook: [{ wish: Wish; asker: Asker; dates?: Pick<DateSettings, "zone" | "style"> }, ShareOutlook | null];
  /** Intake links that take files or will, with the rules that each breaks. */
  intakeLinks: [Record<never, never>, IntakeJudged[]];
  /** Links that are over, and how many there were at some instants. */
  overLinks: [{ instants: Seconds[] }, OverLinks];
  /** Live items by name that somebody owns, or that lie in what they own. */
  ownItems: [{ address: string; text: string; most: number }, { id: string; name: string; place: string[] }[]];
  /** Whether somebody owns an item, or what it lies in. */
  ownsItem: [{ address: string; item: string }, boolean];
  /** What there is to tell of changes that were made, person by person. */
  telling: [{ changes: ToldChange[] }, Telling];
  /** Null where nobody, or nothing, of that name is known. */
  waysIn: [{ item?: string; person?: string; organisation?: string }, Ways | null];
  /** For a person or an organisation; null where nobody, or nothing, of that name is known. */
  cheapestCut: [{ item: string; person?: string; organisation?: string; below: boolean }, CheapestCut | null];
  history: [{ instants: Seconds[] }, OutsideCount[]];
  /** The same of the instant that is asked about. */
  outsideNow: [Record<never, never>, OutsideCount];
  /** How much is open. */
  mass: [{ weighing: Weighing }, number];
  find: [{ text: string; owners?: boolean }, Found];
  /** A share's own record, with its address, for the executor. */
  record: [{ id: string }, ShareRecord | null];
}
export interface Outlook {
  verdict: Verdict;
  /** With its address; null where it is about no share, or that isn't known. */
  record: ShareRecord | null;
}
export type QuestionName = keyof Questions;
/** What is asked of the estate at one instant. */
export type EstateQuestion = Exclude<QuestionName, keyof TrailQuestions | "history">;
export type Asked<Q extends QuestionName> = Questions[Q][0];
export type Answered<Q extends QuestionName> = Questions[Q][1];

/** A rule with parameters that it may not have yet. */
interface RuleAsked {
  rule: RuleId;
  parameters: Record<string, unknown>;
}

export interface Envelope {
  number: number;
  name: QuestionName;
  asked: unknown;
  /** The instant that is asked about. */
  t: Seconds;
}

export type Reply = { number: number; answer: unknown } | { number: number; error: string };
