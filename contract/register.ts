import { z } from "zod";
import { writtenLine } from "@/core/text/written";
import { parseOrder } from "@/core/query/order";
import { GROUPINGS } from "@/core/query/outline";
import { GROUP_ORDERS } from "@/core/query/totals";
import { LEVELS } from "@/core/rules/risk";
import { CHOICE_NAMES } from "@/core/query/fields";
import { operations } from "./operation";
import { type OutsideCount } from "@/core/access/history";
import { FACETS, type Facet, type FacetValue, type Histogram } from "@/core/query/facets";
import { type Funnel, type RegisterLine, type RegisterPage } from "@/core/query/page";
import { type QueryProblem } from "@/core/query/query";
import { type SavedQuery, type RegisterSettings } from "@/core/register/saved";
import { type PublicShare } from "@/core/register/publicList";
import { type Note, type WaiverView } from "@/core/register/remarks";
import { COLUMN_NAMES, columnOf, type RegisterRow } from "@/core/register/columns";
import { RULE_IDS } from "@/core/rules/list";

export const registerRow = z.object(
  Object.fromEntries(COLUMN_NAMES.map((name) => [name, columnOf(name).schema])),
) as unknown as z.ZodType<RegisterRow>;

const registerLine: z.ZodType<RegisterLine> = z.union([
  z.object({ kind: z.literal("share"), row: registerRow, depth: z.number() }),
  z.object({
    kind: z.literal("group"),
    key: z.string(),
    title: z.string(),
    detail: z.string(),
    depth: z.number(),
    count: z.number(),
    risk: z.enum(LEVELS).nullable(),
    open: z.number(),
    lastUsed: z.number().nullable(),
    isOpen: z.boolean(),
  }),
]);

export const queryProblem: z.ZodType<QueryProblem> = z.object({
  from: z.number(),
  to: z.number(),
  message: z.string(),
  instead: z.string().optional(),
});

const registerPage: z.ZodType<RegisterPage> = z.object({
  total: z.number(),
  found: z.number(),
  lines: z.number(),
  from: z.number(),
  page: z.array(registerLine),
  problems: z.array(queryProblem),
  useUnknown: z.number().nullable(),
});

const facetValue: z.ZodType<FacetValue> = z.object({
  count: z.number(),
  value: z.string(),
  title: z.string(),
  also: z.string().optional(),
});

const facet: z.ZodType<Facet> = z.object({
  field: z.enum(FACETS),
  values: z.number(),
  top: z.array(facetValue),
  none: z.number(),
});

const histogram: z.ZodType<Histogram> = z.object({
  field: z.enum(["made", "used", "ends"]),
  counts: z.array(z.number()),
  never: z.number(),
});

const funnel: z.ZodType<Funnel> = z.object({ facets: z.array(facet), histograms: z.array(histogram) });

export const note: z.ZodType<Note> = z.object({
  shareId: z.string(),
  author: z.string(),
  at: z.string(),
  text: z.string(),
});

export const waiverView = z.object({
  id: z.number(),
  shareId: z.string(),
  rule: z.enum(RULE_IDS),
  reason: z.string(),
  givenBy: z.string(),
  givenAt: z.string(),
  ends: z.string(),
  isOver: z.boolean(),
}) satisfies z.ZodType<WaiverView>;

const publicShare: z.ZodType<PublicShare> = z.object({
  row: registerRow,
  sentence: z.string(),
  answers: z.object({ name: z.string(), as: z.enum(["maker", "owner"]) }).nullable(),
});

const savedQuery: z.ZodType<SavedQuery> = z.object({
  id: z.string(),
  name: z.string(),
  view: z.string(),
  isOwn: z.boolean(),
  forAll: z.boolean(),
  count: z.number(),
});

const outsideCount: z.ZodType<OutsideCount> = z.object({
  at: z.number(),
  open: z.number(),
  named: z.number(),
  person: z.number(),
  group: z.number(),
});

const choice = z.object({ value: z.string(), title: z.string() });

const tableSetting = z.object({
  columns: z.array(z.string().max(40)).max(40),
  widths: z.record(z.string().max(40), z.number().min(40).max(1_000)),
  isCompact: z.boolean(),
});
/** What a person sets themselves; when they looked is noted by us. */
export const registerSettingsBody = z.object({
  table: tableSetting.nullable(),
  start: z.string().max(60).nullable(),
});
const registerSettings: z.ZodType<RegisterSettings> = registerSettingsBody.extend({
  startView: z.string().nullable(),
  looked: z.string().nullable(),
  lookedBefore: z.string().nullable(),
});

const queryText = z.string().max(2_000).default("");
const orderText = z
  .string()
  .default("risk")
  .transform((text, context) => {
    const order = parseOrder(text);
    if (order) return order;
    context.addIssue({ code: "custom", message: "takes one or two columns, such as risk or -ends,item" });
    return z.NEVER;
  });
export const EXPORT_FORMATS = ["csv", "xlsx", "jsonl"] as const;

export const savedQueryBody = z.object({
  name: writtenLine.min(1, "Give it a name.").max(80),
  /** What stands in the register's address: query, order, grouping. */
  view: z.string().max(4_000),
  forAll: z.boolean(),
});

export const registerOperations = operations({
  registerPage: {
    method: "GET",
    path: "/api/register",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z.object({
      query: queryText,
      order: orderText,
      group: z.enum(GROUPINGS).nullable().default(null),
      groups: z.enum(GROUP_ORDERS).default("first"),
      /** Keys of the open groups, with line ends between them. */
      open: z
        .string()
        .max(20_000)
        .optional()
        .transform((text) => (text === undefined ? [] : text.split("\n"))),
      from: z.coerce.number().int().min(0).default(0),
      count: z.coerce.number().int().min(1).max(500).default(100),
      behind: z.string().optional(),
    }),
    answer: registerPage,
  },
  funnel: {
    method: "GET",
    path: "/api/register/funnel",
    may: "read",
    past: true,
    query: z.object({ query: queryText }),
    answer: funnel,
  },
  facet: {
    method: "GET",
    path: "/api/register/facet",
    may: "read",
    past: true,
    query: z.object({ query: queryText, field: z.enum(FACETS), text: z.string().max(200).default("") }),
    answer: facet,
  },
  /** Values that a field has anywhere. */
  values: {
    method: "GET",
    path: "/api/register/values",
    may: "read",
    past: true,
    query: z.object({ field: z.enum(CHOICE_NAMES), text: z.string().max(200).default("") }),
    answer: z.object({ values: z.array(choice) }),
  },
  /** Ids of all that a query finds. */
  ids: {
    method: "GET",
    path: "/api/register/ids",
    may: "read",
    past: true,
    query: z.object({ query: queryText }),
    answer: z.object({ ids: z.array(z.string()) }),
  },
  rows: {
    method: "POST",
    path: "/api/register/rows",
    may: "read",
    past: true,
    body: z.object({ ids: z.array(z.string()).max(5_000) }),
    mostBytes: 2_000_000,
    answer: z.object({ rows: z.array(registerRow) }),
  },
  /** Which stores need notice of an end of some shares, and for how many of them. */
  notices: {
    method: "POST",
    path: "/api/register/notices",
    may: "read",
    body: z.object({ ids: z.array(z.string()).max(100_000) }),
    mostBytes: 4_000_000,
    answer: z.object({ notices: z.array(z.object({ store: z.string(), hours: z.number(), shares: z.int() })) }),
  },
  publicList: {
    method: "GET",
    path: "/api/register/public",
    may: "read",
    tellsOutsiders: true,
    past: true,
    answer: z.object({ shares: z.array(publicShare), notes: z.array(note), waivers: z.array(waiverView) }),
  },
  /** The same as a file. */
  publicTable: {
    method: "GET",
    path: "/api/register/public.csv",
    may: "read",
    tellsOutsiders: true,
    past: true,
    answer: "file",
  },
  /** Says also that somebody looks now. */
  lookAtRegister: { method: "POST", path: "/api/register/settings", may: "save", answer: registerSettings },
  setRegister: {
    method: "PUT",
    path: "/api/register/settings",
    may: "save",
    body: registerSettingsBody.partial(),
    answer: z.object({}),
  },
  exportRegister: {
    method: "POST",
    path: "/api/register/export",
    may: "read",
    past: true,
    sentBy: "form",
    body: z.object({ query: queryText, order: orderText, format: z.enum(EXPORT_FORMATS) }),
    answer: "file",
  },
  savedQueries: {
    method: "GET",
    path: "/api/queries",
    may: "read",
    past: true,
    answer: z.object({ queries: z.array(savedQuery) }),
  },
  saveQuery: { method: "POST", path: "/api/queries", may: "save", body: savedQueryBody, answer: z.object({}) },
  dropQuery: { method: "DELETE", path: "/api/queries/:id", may: "save", answer: z.object({}) },
  /** Outside shares at the end of each of the last days, the present one as far as it has come. */
  history: {
    method: "GET",
    path: "/api/history",
    may: "read",
    query: z.object({ days: z.coerce.number().int().min(1).max(3_660).default(365) }),
    answer: z.array(outsideCount),
  },
});
