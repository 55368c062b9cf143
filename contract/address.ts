import type { Operation, ParamsOf } from "./operation";
import type { z } from "zod";

type Value = string | number | boolean | null | undefined;

/** What an address is made of: the parts of its path, what follows the question mark, the past instant asked about. */
export type Placing<O extends Operation> = (keyof ParamsOf<O> extends never
  ? { params?: undefined }
  : { params: ParamsOf<O> }) &
  (O["query"] extends z.ZodType
    ? { query?: { readonly [Name in keyof z.input<O["query"]>]?: Value } }
    : { query?: undefined }) &
  (O["past"] extends true ? { past?: string | null } : { past?: undefined });

/** The address of an operation. What is null or undefined is left out. */
export function addressOf<O extends Operation>(operation: O, ...[placing]: Given<Placing<O>>): string {
  const { params, query, past } = (placing ?? {}) as Placing<Operation> & { params?: Record<string, string> };
  const path = operation.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params![name]));
  const asked = new URLSearchParams();
  for (const [name, value] of Object.entries<Value>(query ?? {})) if (value != null) asked.set(name, String(value));
  if (past != null) asked.set("at", past);
  return asked.size > 0 ? `${path}?${asked}` : path;
}

/** An argument that can be left out where nothing in it is needed. */
export type Given<T> = Record<never, never> extends T ? [given?: T] : [given: T];
