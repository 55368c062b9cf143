import type { z } from "zod";
import type { SignInRole } from "./roles";

/**
 * Who may do what. Reading, and saving what is one's own (how one's table looks, one's own queries), is for all who see
 * the console; changing is for administrators alone. What is one's own account is for everybody who can sign in, and all
 * that is left to somebody who lacks a second factor they need.
 */
export const ALLOWED = {
  read: ["administrator", "auditor"],
  save: ["administrator", "auditor"],
  change: ["administrator"],
  own: ["administrator", "auditor", "owner"],
} as const satisfies Record<string, readonly SignInRole[]>;
export type Permission = keyof typeof ALLOWED;

/** What one operation between screens, programs and server takes and gives. */
export interface Operation {
  method: "GET" | "POST" | "PUT" | "DELETE";
  /** Where it is; `:id` stands for one part of the address. */
  path: `/api/${string}`;
  /** Who may ask for it. `anybody` shows something else than a sign-in: a code, or the address in a letter. */
  may: Permission | "anybody";
  /** It takes a sign-in of the last minutes: what loosens something, or decides who can sign in. */
  fresh?: true;
  /** What it answers names outsiders: that an auditor asked for it stands in the ledger. */
  tellsOutsiders?: true;
  /** It can be asked about a past instant, as `at` in the address. */
  past?: true;
  /** What stands in the address after the question mark. */
  query?: z.ZodType;
  /** What is sent along. */
  body?: z.ZodType;
  /**
   * A body comes as JSON; from a form, so that the browser itself saves what is answered; or as a file, which isn't read
   * before its handler does.
   */
  sentBy?: "form" | "file";
  /** How large a body may be, in bytes, where it may be larger than most. */
  mostBytes?: number;
  /** JSON of this shape; a stream of events of it; or a file. */
  answer: z.ZodType | { events: z.ZodType } | "file";
}

/** Puts down operations by their names, each with the types that its schemas have. */
export function operations<const T extends Record<string, Operation>>(all: T): T {
  return all;
}

type Parts<Path extends string> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? Name | Parts<Rest>
  : Path extends `${string}:${infer Name}`
    ? Name
    : never;

/** The parts of an operation's address that are given with each call. */
export type ParamsOf<O extends Operation> = Record<Parts<O["path"]>, string>;
export type QueryOf<O extends Operation> = O["query"] extends z.ZodType ? z.output<O["query"]> : undefined;
export type BodyOf<O extends Operation> = O["body"] extends z.ZodType ? z.output<O["body"]> : undefined;
/** What comes back: of a stream, each event. */
export type AnswerOf<O extends Operation> = O["answer"] extends { events: infer E extends z.ZodType }
  ? z.output<E>
  : O["answer"] extends z.ZodType
    ? z.output<O["answer"]>
    : never;
