import type { Estate } from "@/core/estate/estate";
import { Register } from "@/core/register/register";
import type { Seconds } from "@/core/time/instant";

/** What an engine begins with. */
export interface Begun {
  estate: Estate;
  register: Register;
}

/** Of a register nothing has been worked out yet. */
export function withRegister(estate: Estate): Begun {
  return { estate, register: new Register(estate) };
}

/** What an engine of another instant begins with; what either learns from then on the other doesn't know. */
export function copied({ estate, register }: Begun, asAt: Seconds): Begun {
  const copy = estate.copy(asAt);
  return { estate: copy, register: register.copy(copy) };
}
