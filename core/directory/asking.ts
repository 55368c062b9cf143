import { PERSON_STATES } from "../estate/records";
import type { Fields } from "../query/fields";
import type { Askable, Asks } from "../query/listed";
import type { Insider } from "./insiders";

/** The fields that a query to the list of insiders can have. */
export const INSIDER_FIELDS = {
  name: { kind: "choice", help: "what they are called" },
  address: { kind: "choice", help: "their address" },
  status: { kind: "choice", help: "active, suspended or left", values: PERSON_STATES },
  department: { kind: "choice", help: "their department" },
  manager: { kind: "choice", help: "their manager" },
  source: { kind: "choice", help: "who tells of them; none where an address alone is known" },
  lastday: { kind: "moment", help: "their last day here", direction: "ahead" },
} as const satisfies Fields;

const INSIDER_ASKS: Asks<Insider> = {
  words: ({ name, address, department }) => [name, address, department ?? ""],
  choice: {
    name: ({ name }) => [name],
    address: ({ address }) => [address],
    status: ({ status }) => [status],
    department: ({ department }) => (department === null ? [] : [department]),
    manager: ({ manager }) => (manager === null ? [] : [manager]),
    source: ({ sources }) => sources,
  },
  moment: { lastday: ({ lastDay }) => lastDay },
  count: {},
};

/** How the list of insiders is queried. */
export const INSIDER_ASKABLE: Askable<Insider> = { fields: INSIDER_FIELDS, asks: INSIDER_ASKS };
