import type { EventEmitter } from "node:events";
import type { AnswerOf, BodyOf, Operation, ParamsOf, QueryOf } from "@/contract/operation";
import type { SignedInBy } from "@/contract/signIn";
import type { SignInRole } from "@/contract/roles";
import type { Seconds } from "@/core/time/instant";
import type { DateSettings } from "@/core/time/style";

/** Somebody who has signed in. */
export interface Actor {
  email: string;
  name: string;
  role: SignInRole;
  /** How they want to be told times; null where they never said. */
  dates: DateSettings | null;
  userId: string;
  sessionId: string;
  by: SignedInBy;
  /** When they signed in, by the machine's clock. */
  signedInAt: Seconds;
  /** They need a second factor, and signed in without one: nothing is open to them but their own account. */
  lacksFactor: boolean;
}

/** What an operation is asked with, checked. */
export interface Asked<O extends Operation> {
  params: ParamsOf<O>;
  query: QueryOf<O>;
  body: BodyOf<O>;
  /** What is sent along where that is a file, in pieces and within its bounds. */
  file: O["sentBy"] extends "file" ? ReadableStream<Uint8Array> : undefined;
  /** The past instant that is asked about; undefined is now. */
  past: Seconds | undefined;
  /** From where it comes, as far as can be known: for counting what goes wrong. */
  network: string;
  /** Null only where anybody may ask. */
  actor: O["may"] extends "anybody" ? null : Actor;
}

/** A stream of what is so now: told at once, and again whenever `name` is emitted. */
export interface News<T> {
  emitter: EventEmitter;
  name: string;
  current: () => Promise<T>;
}

/** A file to be saved, written while it is read. */
export interface FileAnswer {
  type: string;
  name: string;
  body: string | ReadableStream | Uint8Array<ArrayBuffer>;
}

export type Answer<O extends Operation> = O["answer"] extends "file"
  ? FileAnswer
  : O["answer"] extends { events: unknown }
    ? News<AnswerOf<O>>
    : AnswerOf<O>;

/** Does what an operation says. @throws {Problem} what stands in the way, in words for whoever asked */
export type Handler<A, O extends Operation> = (app: A, asked: Asked<O>) => Answer<O> | Promise<Answer<O>>;

/** What a room does for each of its operations. @template A what of the application it needs */
export type Handlers<A, Os extends Record<string, Operation>> = { [Name in keyof Os]: Handler<A, Os[Name]> };
