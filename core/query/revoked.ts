import { type State, STATES } from "../register/wayAndState";
import { fold } from "../text/text";
import type { ChoiceName } from "./fields";
import type { Term, Value } from "./query";

const REVOKED: State = "revoked";
const exactly = (states: readonly State[]) => states.map((text) => ({ text, exact: true }));

/**
 * Whether a query asks for revoked shares; otherwise they are left out. A query for a docket's shares does,
 * since it may have revoked them.
 */
export function asksForRevoked(terms: readonly Term[]): boolean {
  return terms.some((term) => term.kind === "choice" && !term.negated && (term.field === "docket" || isRevoked(term)));
}

const isRevoked = ({ field, values }: { field: ChoiceName; values: readonly Value[] }) =>
  field === "state" &&
  values.some(({ text, exact }) => (exact ? fold(text) === REVOKED : REVOKED.includes(fold(text))));

/** The term added where a query doesn't ask for revoked shares. */
export const NOT_REVOKED = { kind: "choice", field: "state", values: exactly([REVOKED]), negated: true } as const;

/** Every share, revoked ones included. */
export const IN_ANY_STATE = { kind: "choice", field: "state", values: exactly(STATES), negated: false } as const;
