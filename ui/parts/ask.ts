import type { z } from "zod";
import { addressOf, type Given, type Placing } from "@/contract/address";
import { IDLE_HEADER, SIGN_IN, type SignInName } from "@/contract/signIn";
import type { AnswerOf, Operation, ParamsOf } from "@/contract/operation";
import { idleSeconds } from "./idle";
import { leaveTo, signInAndBack } from "./leaveTo";

const FILE_BODY = { "Content-Type": "application/octet-stream" };
const JSON_BODY = { "Content-Type": "application/json" };

/** What the server said when it refused or failed, in its own words. */
export class RequestFailure extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

type Sent<O extends Operation> = O["body"] extends z.ZodType ? { body: z.input<O["body"]> } : { body?: undefined };
/** What an operation is asked with: its types come from the contract. */
export type AskedWith<O extends Operation> = Placing<O> & Sent<O>;

/** Asks the server to do an operation. @throws {RequestFailure} */
export function ask<O extends Operation>(
  operation: O,
  ...[given]: Given<AskedWith<O> & { signal?: AbortSignal }>
): Promise<AnswerOf<O>> {
  const { body, signal } = (given ?? {}) as { body?: unknown; signal?: AbortSignal };
  const address = addressOf(operation, ...([given] as Given<Placing<O>>));
  return send(address, { method: operation.method, body, signal }) as Promise<AnswerOf<O>>;
}

/** An operation as a query: what it is kept under follows from its address, so that `keyOf` reaches it. */
export function asked<O extends Operation>(operation: O, ...[given]: Given<AskedWith<O>>) {
  const { params, ...more } = (given ?? {}) as { params?: ParamsOf<O> };
  return {
    queryKey: [...keyOf(operation, params), more] as const,
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      ask(operation, ...([{ ...given, signal }] as unknown as Given<AskedWith<O> & { signal?: AbortSignal }>)),
  };
}

/** Under what an operation's answers are kept, and those of all operations below its address. */
export function keyOf<O extends Operation>(operation: O, params?: ParamsOf<O>): readonly string[] {
  return operation.path
    .split("/")
    .slice(2)
    .map((part) => (part.startsWith(":") ? (params as Record<string, string>)[part.slice(1)] : part));
}

/** Sends a file for an operation that takes one. @throws {RequestFailure} */
export function askWithFile<O extends Operation & { sentBy: "file" }>(
  operation: O,
  given: Placing<O>,
  file: Blob,
): Promise<AnswerOf<O>> {
  const address = addressOf(operation, ...([given] as Given<Placing<O>>));
  return send(address, { method: operation.method, file }) as Promise<AnswerOf<O>>;
}

/** Asks for something that is no operation of ours: the sign-in package's own. @throws {RequestFailure} */
export function askSignIn(name: SignInName, body?: object): Promise<unknown> {
  const { method, path } = SIGN_IN[name];
  return send(`/api/auth${path}`, { method, body });
}

/** Has somebody sign in again. @returns whether they have */
let signInAgain: (() => Promise<boolean>) | undefined;

/** Says what is to be done where the server wants a sign-in of the last minutes. @returns what ends that */
export function onSignInAgain(handler: () => Promise<boolean>): () => void {
  signInAgain = handler;
  return () => (signInAgain = undefined);
}

interface Sending {
  method: string;
  body?: unknown;
  file?: Blob;
  signal?: AbortSignal;
}

async function send(address: string, init: Sending, isAgain = false): Promise<unknown> {
  const type = init.file ? FILE_BODY : init.body === undefined ? undefined : JSON_BODY;
  const headers = { [IDLE_HEADER]: String(idleSeconds()), ...type };
  const body = init.file ?? (init.body === undefined ? undefined : JSON.stringify(init.body));
  const response = await fetch(address, { method: init.method, signal: init.signal, headers, body }).catch(
    (error: Error) => {
      if (error.name === "AbortError") throw error;
      throw new RequestFailure(0, "The application can't be reached. Check that it is running, then try again.");
    },
  );
  const answer = await response.json().catch(() => ({}));
  if (response.ok) return answer;
  if (response.status === 401 && !address.startsWith("/api/auth")) leaveTo(signInAndBack());
  if (answer.kind === "factor-missing") leaveTo("/account");
  const isTooOld = answer.kind === "sign-in-again" || answer.code === "SESSION_NOT_FRESH";
  if (isTooOld && !isAgain && (await signInAgain?.())) return send(address, init, true);
  throw new RequestFailure(
    response.status,
    answer.error ??
      answer.message ??
      `The application answered ${response.status}. Try again; if it keeps happening, check its log.`,
  );
}
