import type { z } from "zod";
import { bodyOf, checkOrigin, refusal } from "./guard";
import { database, type Db } from "../platform/db/open";
import { letterAt } from "../rules/askedAt";

/** Wraps a route handler for whoever holds the address of a letter: nobody signs in, and only that letter is in reach. */
export function answered<B extends { token: string }>(
  schema: z.ZodType<B>,
  handle: (context: { db: Db; letter: number; body: B }) => Promise<object>,
): (request: Request) => Promise<Response> {
  return async (request) => {
    try {
      checkOrigin(request);
      const body = await bodyOf(request, schema);
      return Response.json(await handle({ db: await database(), letter: letterAt(body.token), body }));
    } catch (error) {
      return refusal(error);
    }
  };
}
