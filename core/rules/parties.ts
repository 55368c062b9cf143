import { domainOf } from "../estate/address";
import type { Estate } from "../estate/estate";
import type { Person } from "../estate/principals";
import type { Stance } from "../estate/records";

/** Our stance on an outsider's organisation; where there is none, on their whole domain. */
export function stanceOf(estate: Estate, person: Pick<Person, "organisation" | "address">): Stance | undefined {
  return estate.stances.get(person.organisation) ?? estate.stances.get(domainOf(person.address));
}
