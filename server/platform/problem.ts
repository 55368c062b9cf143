/** What kind of thing stands in the way; only `http` knows which status each one is. */
export type ProblemKind =
  | "bad"
  | "not-signed-in"
  | "not-allowed"
  | "sign-in-again"
  | "factor-missing"
  | "unknown"
  | "conflict"
  | "gone"
  | "too-large"
  | "wrong-type"
  | "too-many"
  | "unreachable";

/** Told to whoever asked, in these words. Anything else that is thrown is a fault of ours: logged, and not shown. */
export class Problem extends Error {
  constructor(
    readonly kind: ProblemKind,
    message: string,
    /** After how many seconds it can be tried again, where that is known. */
    readonly retryAfter?: number,
  ) {
    super(message);
  }
}
