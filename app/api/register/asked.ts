import { z } from "zod";
import { parseOrder } from "@/core/query/order";

/** What several of the register's routes are asked with. */
export const queryText = z.string().max(2_000).default("");
export const orderText = z
  .string()
  .default("risk")
  .transform((text, context) => {
    const order = parseOrder(text);
    if (order) return order;
    context.addIssue({ code: "custom", message: "takes one or two columns, such as risk or -ends,item" });
    return z.NEVER;
  });
