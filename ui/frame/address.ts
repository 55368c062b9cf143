import { parseScope } from "@/core/advice/scope";
import { ALERT_STATES } from "@/core/trail/watch";
import { INSIDER_COLUMNS } from "@/core/directory/insiders";
import { CHANGE_STATES } from "@/core/changes/states";
import { TOLD } from "@/core/changes/telling";
import { GROUPINGS } from "@/core/query/outline";
import { parseOrder, SORTS } from "@/core/query/order";
import { GROUP_ORDERS } from "@/core/query/totals";
import { ORGANISATION_COLUMNS } from "@/core/outsiders/organisations";
import { parseSubject } from "@/core/evidence/report";
import { LINE_STATES } from "@/core/rounds/line";
import { CARRYING, QUESTIONS, UNDECIDED } from "@/core/rounds/round";
import { RULE_IDS } from "@/core/rules/list";
import { seconds } from "@/core/time/instant";
import { isZone } from "@/core/time/zoned";
import { SEARCH_PARAMETERS, searchProblems } from "@/core/trail/search";

/** What a parameter takes, in words; and whether a text is that. */
type Parameter = [takes: string, is: (text: string) => boolean];

const anything: Parameter = ["any text", () => true];
const number: Parameter = ["a number", (text) => /^\d{1,12}$/.test(text)];
const yes: Parameter = ["yes", (text) => text === "yes"];
const trueOrFalse: Parameter = ["true or false", (text) => text === "true" || text === "false"];
const oneOf = (values: readonly string[]): Parameter => [
  `one of ${values.join(", ")}`,
  (text) => values.includes(text),
];
const instant: Parameter = ["a time such as 2026-03-03T12:00:00Z", isInstant];
const order: Parameter = [
  `one or two of ${SORTS.join(", ")}, each perhaps with a minus before it`,
  (text) => parseOrder(text) !== null,
];

const scope: Parameter = [
  "everything, or store:, owner:, label: or engagement: with what is meant",
  (text) => parseScope(text) !== null,
];

const day: Parameter = ["a day such as 2026-11-30", isDay];
const subject: Parameter = [
  "item:, share:, person: or organisation: with what is meant",
  (text) => parseSubject(text) !== null,
];

const SEARCH: Record<string, Parameter> = {
  // The search checks these parameters itself.
  ...Object.fromEntries(SEARCH_PARAMETERS.map((name) => [name, anything])),
  zone: ["a time zone such as Europe/Lisbon", isZone],
};
const DOCKET = "/ledger/dockets/";

/** By the beginning of a screen's path, the longest first: what may stand in its address. */
const SCREENS: [path: string, parameters: Record<string, Parameter>][] = [
  ["/register/public", {}],
  ["/register/intake/came-in", { link: anything, marked: yes }],
  ["/register/intake", {}],
  ["/register/over", {}],
  ["/share/requests", {}],
  ["/share", { item: anything, replaces: anything }],
  ["/desk/shortlist", { scope, changes: number, group: anything }],
  ["/register/print", { q: anything, sort: order }],
  [
    "/register",
    { q: anything, sort: order, group: oneOf(GROUPINGS), groups: oneOf(GROUP_ORDERS), open: anything, share: anything },
  ],
  ["/trail/watches", { ...SEARCH, new: yes }],
  ["/trail", { ...SEARCH, like: yes }],
  [
    "/ways",
    {
      item: anything,
      person: anything,
      organisation: anything,
      below: trueOrFalse,
    },
  ],
  ["/help", { q: anything, on: anything }],
  [
    "/rounds/new",
    {
      ...{ q: anything, name: anything, note: anything, order: anything, named: anything, repeat: anything },
      ...{ by: oneOf(QUESTIONS), undecided: oneOf(UNDECIDED), carry: oneOf(CARRYING), days: number, limit: number },
      managers: trueOrFalse,
    },
  ],
  ["/rounds/", { state: oneOf(LINE_STATES), from: number }],
  ["/people/organisation", { domain: anything }],
  ["/people/look-alikes", {}],
  ["/people/leavers", {}],
  ["/people/leaver", { address: anything }],
  ["/people/person", { address: anything }],
  [
    "/people/insiders",
    {
      ...{ q: anything, by: oneOf(INSIDER_COLUMNS), from: number, reversed: trueOrFalse },
    },
  ],
  ["/people/projects", {}],
  ["/people/project", { id: anything }],
  [
    "/people",
    {
      ...{ q: anything, by: oneOf(ORGANISATION_COLUMNS), from: number, reversed: trueOrFalse },
    },
  ],
  ["/rules", { rule: oneOf(RULE_IDS) }],
  ["/alerts", { state: oneOf(ALERT_STATES), alert: number }],
  [DOCKET, { state: oneOf(CHANGE_STATES), from: number, to: oneOf(TOLD) }],
  ["/ledger/reports/", { day, about: subject, round: number, from: day, to: day }],
  ["/ledger", { q: anything }],
];

function isDay(text: string): boolean {
  return /^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(seconds(`${text}T00:00:00Z`));
}

export function isInstant(text: string): boolean {
  return /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/.test(text) && !Number.isNaN(seconds(text));
}

/**
 * Parts of a screen's address that aren't understood, by parameter, in a sentence. Ignoring them would show something else
 * than was asked for, so nothing is shown until they are corrected.
 */
export function addressProblems(path: string, parameters: URLSearchParams): Map<string, string> {
  const known = { at: instant, ...SCREENS.find(([beginning]) => path.startsWith(beginning))?.[1] };
  const problems = new Map<string, string>();
  for (const [name, text] of parameters) {
    const parameter = Object.hasOwn(known, name) ? (known as Record<string, Parameter>)[name] : undefined;
    if (!parameter) problems.set(name, `there is no ${name} on this screen`);
    else if (!parameter[1](text)) problems.set(name, `${name} takes ${parameter[0]}, not ${text.slice(0, 60)}`);
  }
  if (path.startsWith("/trail"))
    for (const problem of searchProblems(parameters)) problems.set(problem.split(" ")[0], problem);
  return problems;
}
