import { ALLOWED, type Permission } from "@/contract/operation";
import type { SignInRole } from "@/contract/roles";

/** Whether somebody who has signed in may do something. */
export function may({ role }: { role: SignInRole }, permission: Permission): boolean {
  return (ALLOWED[permission] as readonly SignInRole[]).includes(role);
}
