import { answererOf } from "../access/answerer";
import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import type { RegisterRow } from "./columns";

/** A share that anyone can use who holds its address. */
export interface PublicShare {
  row: RegisterRow;
  /** How it is shared, in a sentence. */
  sentence: string;
  /** Who answers for it, and as what. */
  answers: { name: string; as: "owner" | "maker" } | null;
}

export function answersFor(estate: Estate, share: Share): PublicShare["answers"] {
  const answerer = answererOf(estate, share);
  return answerer && { name: estate.people[answerer.person].name, as: answerer.as };
}
