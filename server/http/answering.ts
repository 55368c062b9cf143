import type { z } from "zod";
import { bodyOf, checkOrigin, refusal } from "./guard";
import type { App } from "../app";
import { theApp } from "../theApp";
import { letterAt } from "../rules/askedAt";

/** Wraps a route handler for whoever holds the address of a letter: nobody signs in, and only that letter is in reach. */
export function answered<B extends { token: string }>(
  schema: z.ZodType<B>,
  handle: (context: { app: App; letter: number; body: B }) => Promise<object>,
): (request: Request) => Promise<Response> {
  return async (request) => {
    try {
      const app = await theApp();
      checkOrigin(app, request);
      const body = await bodyOf(request, schema);
      return Response.json(await handle({ app, letter: letterAt(app, body.token), body }));
    } catch (error) {
      return refusal(error);
    }
  };
}
