import type { EventEmitter } from "node:events";
import type { AnswerOf, BodyOf, Operation, ParamsOf, QueryOf } from "@/contract/operation";
import type { SignInRole } from "@/contract/roles";
import type { Seconds } from "@/core/time/instant";

/** Somebody who has signed in. */
export interface Actor {
  email: string;
  name: string;
  role: SignInRole;
}

/** What an operation is asked with, checked. */
export interface Asked<O extends Operation> {
  params: ParamsOf<O>;
  query: QueryOf<O>;
  body: BodyOf<O>;
  /** The past instant that is asked about; undefined is now. */
  past: Seconds | undefined;
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
  body: string | ReadableStream;
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
