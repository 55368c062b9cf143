import { type Role, ROLES } from "../estate/records";

export function strongerRole(a: Role | null, b: Role): Role {
  return a !== null && ROLES.indexOf(a) >= ROLES.indexOf(b) ? a : b;
}
