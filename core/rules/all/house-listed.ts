import { z } from "zod";
import { labelled, labels, rule } from "../rule";
import { makeNamed } from "../wanted";

export const houseListed = rule({
  title: "Listed in search for all our own people",
  sentence: "House links to [labels] items aren’t listed in search.",
  severity: "low",
  parameters: z.strictObject({ labels: labels("confidential", "restricted") }),
  looksAt: (one) => one.live && one.share.audience === "house",
  breaks: (one, _, { labels }) =>
    one.live && one.share.audience === "house" && one.share.isLink && one.share.isListed && labelled(one, labels),
  reason: ({ worst }) => `It reaches ${worst} items, and any of our own people can find it by searching.`,
  remedies: (one) => [makeNamed(one)],
});
