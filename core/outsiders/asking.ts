import { LABELS, STANCES } from "../estate/records";
import type { Fields } from "../query/fields";
import type { Askable, Asks } from "../query/listed";
import { LEVELS } from "../rules/risk";
import { isMailboxProvider } from "./providers";
import { type Organisation, PRIVATE_MAILBOXES, reachesSome } from "./organisations";

/** The fields that a query to the list of organisations can have. */
export const ORGANISATION_FIELDS = {
  domain: { kind: "choice", help: "the organisation's domain" },
  stance: { kind: "choice", help: "our stance on it", values: STANCES },
  reaching: { kind: "choice", help: "whether its people reach anything by name", values: ["yes", "no"] },
  provider: { kind: "choice", help: "whether a list names it as a common mailbox provider", values: ["yes", "no"] },
  risk: { kind: "choice", help: "the highest risk of its shares", values: LEVELS },
  people: { kind: "count", help: "how many of its people have access" },
  shares: { kind: "count", help: "how many shares let them in" },
  files: { kind: "count", help: "how many files they reach" },
  folders: { kind: "count", help: "how many folders they reach" },
  public: { kind: "count", help: "how many public items they reach" },
  internal: { kind: "count", help: "how many internal ones" },
  confidential: { kind: "count", help: "how many confidential ones" },
  restricted: { kind: "count", help: "how many restricted ones" },
  makers: { kind: "count", help: "how many people gave them access" },
  projects: { kind: "count", help: "how many projects name it" },
  findings: { kind: "count", help: "how many findings there are in its shares" },
  since: { kind: "moment", help: "when the first of its shares was made", direction: "past" },
  used: { kind: "moment", help: "when one of its shares was last used", direction: "past" },
} as const satisfies Fields;

const nameOf = ({ domain }: Organisation) => (domain === PRIVATE_MAILBOXES ? "private mailboxes" : domain);
const ofLabel = (label: (typeof LABELS)[number]) => (one: Organisation) => one.labels[LABELS.indexOf(label)];

const ORGANISATION_ASKS: Asks<Organisation> = {
  words: (one) => [nameOf(one)],
  choice: {
    domain: (one) => [nameOf(one)],
    stance: ({ stance }) => (stance === null ? [] : [stance]),
    reaching: (one) => [reachesSome(one) ? "yes" : "no"],
    provider: ({ domain }) => [isMailboxProvider(domain) ? "yes" : "no"],
    risk: ({ risk }) => (risk === null ? [] : [risk]),
  },
  moment: { since: ({ since }) => since, used: ({ lastUsed }) => lastUsed },
  count: {
    people: ({ people }) => people,
    shares: ({ shares }) => shares,
    files: ({ files }) => files,
    folders: ({ folders }) => folders,
    ...{ public: ofLabel("public"), internal: ofLabel("internal") },
    ...{ confidential: ofLabel("confidential"), restricted: ofLabel("restricted") },
    makers: ({ makers }) => makers,
    projects: ({ engagements }) => engagements,
    findings: ({ findings }) => findings,
  },
};

/** How the list of organisations is queried. */
export const ORGANISATION_ASKABLE: Askable<Organisation> = { fields: ORGANISATION_FIELDS, asks: ORGANISATION_ASKS };
