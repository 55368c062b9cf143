import { isUnrevokedLink, none, rule } from "../rule";

export const brokenTarget = rule({
  title: "Its target is gone",
  sentence: "No link leads to something deleted.",
  severity: "low",
  parameters: none,
  looksAt: isUnrevokedLink,
  breaks: (one, moment) => isUnrevokedLink(one, moment) && !moment.estate.tree.live[one.share.position],
  reason: () => "The file or folder it led to has been deleted.",
});
