import { z } from "zod";
import { holdsUnseen } from "./shown";

const MESSAGE = "Remove invisible characters, such as those that reverse the direction of text.";

/** A line that somebody writes here: what they write is what others read. */
export const writtenLine = z
  .string()
  .trim()
  .refine((text) => !holdsUnseen(text), MESSAGE);

/** The same in several lines. */
export const writtenLines = z
  .string()
  .trim()
  .refine((text) => !holdsUnseen(text.replace(/[\r\n\t]/g, " ")), MESSAGE);
