import { PERSON_STATES } from "../estate/records";
import type { Fields } from "../query/fields";
import type { Askable } from "../query/listed";
import type { Leaver } from "./leavers";

/** The fields that a query to the list of leavers can have. */
export const LEAVER_FIELDS = {
  name: { kind: "choice", help: "what they are called" },
  address: { kind: "choice", help: "their address" },
  status: { kind: "choice", help: "active ones are about to leave", values: PERSON_STATES },
  department: { kind: "choice", help: "their department" },
  since: { kind: "moment", help: "when they left or were suspended", direction: "past" },
  lastday: { kind: "moment", help: "the last day of people still active", direction: "ahead" },
  owns: { kind: "count", help: "how many items they own" },
  links: { kind: "count", help: "how many live links they made" },
  grants: { kind: "count", help: "how many grants they have and links name them" },
  groups: { kind: "count", help: "how many groups they are in" },
} as const satisfies Fields;

/** How the list of leavers is queried. */
export const LEAVER_ASKABLE: Askable<Leaver> = {
  fields: LEAVER_FIELDS,
  asks: {
    words: ({ name, address, department }) => [name, address, department ?? ""],
    choice: {
      name: ({ name }) => [name],
      address: ({ address }) => [address],
      status: ({ status }) => [status],
      department: ({ department }) => (department === null ? [] : [department]),
    },
    moment: { since: ({ since }) => since, lastday: ({ lastDay }) => lastDay },
    count: {
      owns: ({ owned }) => owned,
      links: ({ links }) => links,
      grants: ({ grants }) => grants,
      groups: ({ groups }) => groups,
    },
  },
};
