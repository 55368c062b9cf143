import { type SignInPolicy, signInPolicy } from "@/contract/people";
import type { SignInRole } from "@/contract/roles";
import type { Reads, Tx } from "../platform/db/open";
import { saveText, savedText } from "../platform/saved";
import { appendWithin } from "../records/ledger/ledger";

const NOBODY = "";
const NAME = "sign-in";
const NONE: SignInPolicy = { factorFor: [], passwordsOff: false };

/** How people have to sign in. */
export async function policy(db: Reads): Promise<SignInPolicy> {
  const kept = await savedText(db, NOBODY, NAME);
  return kept === undefined ? NONE : signInPolicy.parse(JSON.parse(kept));
}

export async function setPolicy(tx: Tx, next: SignInPolicy, actor: string): Promise<void> {
  await saveText(tx, NOBODY, NAME, JSON.stringify(next));
  await appendWithin(tx, actor, "sign-in-policy-set", next);
}

export async function needsFactor(db: Reads, role: SignInRole): Promise<boolean> {
  return (await policy(db)).factorFor.includes(role);
}
