import { z } from "zod";
import { Problem, type ProblemKind } from "../platform/problem";

const STATUS: Record<ProblemKind, number> = {
  bad: 400,
  "not-signed-in": 401,
  "not-allowed": 403,
  "sign-in-again": 403,
  "factor-missing": 403,
  unknown: 404,
  conflict: 409,
  gone: 410,
  "too-large": 413,
  "wrong-type": 415,
  "too-many": 429,
  unreachable: 502,
};

/** The answer to a refused request. About a fault of ours it says only that there was one. */
export function refusal(error: unknown): Response {
  if (error instanceof Problem) {
    const { message, kind, retryAfter } = error;
    const headers = retryAfter === undefined ? undefined : { "Retry-After": String(retryAfter) };
    return Response.json({ error: message, kind }, { status: STATUS[kind], headers });
  }
  if (error instanceof z.ZodError) return Response.json({ error: z.prettifyError(error) }, { status: 400 });
  console.error(error);
  return Response.json({ error: "Something went wrong in the application. Its log says what." }, { status: 500 });
}
