import { type decideOperations, myDecisionsOperations, decideOperations as byToken } from "@/contract/decisions";

/** How somebody gets to their decisions: by the address in a mail, or by signing in. */
export interface Door {
  operations: typeof decideOperations;
  who: { token: string };
}

export function doorByMail(token: string): Door {
  return { operations: byToken, who: { token } };
}

/** The same operations under other addresses, and the body names the round where the other names the token. */
export function doorBySignIn(round: number): Door {
  return { operations: myDecisionsOperations, who: { round } } as unknown as Door;
}
