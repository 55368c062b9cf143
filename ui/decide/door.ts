import { type decideOperations, myDecisionsOperations, decideOperations as byToken } from "@/contract/decisions";

/** By what somebody comes to what they decide: the address in a mail, or their sign-in. */
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
