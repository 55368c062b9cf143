import type { Fields } from "../query/fields";
import type { Askable } from "../query/listed";
import type { Seconds } from "../time/instant";
import type { EngagementTold } from "./engagements";

/** An engagement, and who is responsible for it if it was made here. */
export type EngagementLine = EngagementTold & { responsible: string | null };

const STATES = ["coming", "running", "over"] as const;

/** The fields that a query to the list of engagements can have. */
export const ENGAGEMENT_FIELDS = {
  name: { kind: "choice", help: "what it is called" },
  organisation: { kind: "choice", help: "the domain of one of its organisations" },
  answers: { kind: "choice", help: "who is responsible; none if it comes from a file or a store" },
  state: { kind: "choice", help: "whether it has started or is over", values: STATES },
  starts: { kind: "moment", help: "when it starts", direction: "past" },
  ends: { kind: "moment", help: "when it ends", direction: "ahead" },
  items: { kind: "count", help: "how many items it is about" },
  shares: { kind: "count", help: "how many shares belong to it now" },
  used: { kind: "count", help: "how many of these were ever used" },
} as const satisfies Fields;

/** How the list of engagements is queried at t. */
export function engagementAskable(t: Seconds): Askable<EngagementLine> {
  return {
    fields: ENGAGEMENT_FIELDS,
    asks: {
      words: ({ name, organisations, responsible }) => [name, ...organisations, responsible ?? ""],
      choice: {
        name: ({ name }) => [name],
        organisation: ({ organisations }) => organisations,
        answers: ({ responsible }) => (responsible === null ? [] : [responsible]),
        state: ({ starts, ends }) => [ends <= t ? "over" : starts > t ? "coming" : "running"],
      },
      moment: { starts: ({ starts }) => starts, ends: ({ ends }) => ends },
      count: { items: ({ items }) => items, shares: ({ shares }) => shares, used: ({ used }) => used },
    },
  };
}
