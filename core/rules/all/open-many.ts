import { z } from "zod";
import { filesReached } from "../../estate/tree";
import { countWords } from "../../text/words";
import { isOpenLink } from "../judged";
import { rule } from "../rule";
import { makeNamed } from "../wanted";

export const openMany = rule({
  title: "An open link to many files",
  sentence: "An open link leads to at most [maxFiles] files.",
  severity: "high",
  isExtra: true,
  parameters: z.strictObject({ maxFiles: z.int().positive().default(50) }),
  looksAt: isOpenLink,
  breaks: (one, { estate: { tree } }, { maxFiles }) =>
    isOpenLink(one) && filesReached(tree, one.share.position) > maxFiles,
  reason: ({ share }, { estate }, { maxFiles }) =>
    `It leads to ${countWords(filesReached(estate.tree, share.position), "file")}; ${maxFiles} are allowed.`,
  remedies: (one) => [makeNamed(one)],
  measure: {
    title: "the files that they lead to",
    figure: {
      slot: "maxFiles",
      standard: 50,
      of: ({ share }, { estate }) => filesReached(estate.tree, share.position),
      none: "None",
    },
  },
});
