import { z } from "zod";
import type { ListPage } from "@/core/query/listed";
import { queryProblem } from "./register";

/** The query to a list, as it stands in an address. */
export const listQuery = { q: z.string().max(2_000).default("") };

/** By which column a list is sorted, as it stands in an address. */
export function listOrder<C extends string>(columns: readonly C[], first: C) {
  const yesNo = z.enum(["yes", "no"]).transform((word) => word === "yes");
  return { by: z.enum(columns).default(first as never), reversed: yesNo.optional() };
}

export const paging = {
  from: z.coerce.number().int().min(0).default(0),
  count: z.coerce.number().int().min(1).max(500).default(100),
};

/** One page of what a query found in a list. */
export function listPage<R>(row: z.ZodType<R>): z.ZodType<ListPage<R>> {
  return z.object({ total: z.number(), found: z.number(), page: z.array(row), problems: z.array(queryProblem) });
}
