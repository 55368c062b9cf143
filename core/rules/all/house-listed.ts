import { z } from "zod";
import { labelled, labels, rule } from "../rule";
import { makeNamed } from "../wanted";

export const houseListed = rule({
  title: "Found by the whole house in search",
  sentence: "The house doesn't find [labels] things by searching.",
  severity: "low",
  parameters: z.strictObject({ labels: labels("confidential", "restricted") }),
  looksAt: (one) => one.live && one.share.audience === "house",
  breaks: (one, _, { labels }) =>
    one.live && one.share.audience === "house" && one.share.isLink && one.share.isListed && labelled(one, labels),
  reason: ({ worst }) => `What it reaches is ${worst}, and anyone in the house finds it by searching.`,
  remedies: (one) => [makeNamed(one)],
});
