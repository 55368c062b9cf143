import { isUnrevokedLink, none, rule } from "../rule";

export const spentLink = rule({
  title: "Ended or used up",
  sentence: "Links that have ended or are used up are cleared away.",
  severity: "low",
  parameters: none,
  looksAt: isUnrevokedLink,
  breaks: (one, moment) =>
    isUnrevokedLink(one, moment) &&
    moment.estate.tree.live[one.share.position] === 1 &&
    (one.share.expires <= moment.t || one.share.spent),
  reason: ({ share }, { dayWords }) =>
    share.spent ? "It has reached its limit of uses." : `It ended on ${dayWords(share.expires)}.`,
});
