import type { Estate } from "@/core/estate/estate";
import { Register } from "@/core/register/register";

/** What an engine begins with. */
export interface Begun {
  estate: Estate;
  register: Register;
}

/** Of a register nothing has been worked out yet. */
export function withRegister(estate: Estate): Begun {
  return { estate, register: new Register(estate) };
}
