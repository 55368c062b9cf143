/** Possible remarks on a file that came in, the gravest first. */
export const MARKS = ["double", "runs", "disagrees", "hidden", "closed", "again"] as const;
export type Mark = (typeof MARKS)[number];

export const MARK_WORDS: Record<Mark, string> = {
  double: "Runs, and has the ending of a document before its own",
  runs: "Can run when it is opened",
  disagrees: "Its ending doesn’t match what is in it",
  hidden: "Its name has hidden characters",
  closed: "Came while the link was closed",
  again: "The same bytes came before",
};
