import { z } from "zod";
import { isOpenLink } from "../judged";
import { labelled, labels, rule } from "../rule";
import { givePassword, makeNamed } from "../wanted";

export const openPassword = rule({
  title: "Open link without a password",
  sentence: "Open links to [labels] items have a password.",
  severity: "high",
  parameters: z.strictObject({ labels: labels("internal", "confidential", "restricted") }),
  looksAt: isOpenLink,
  breaks: (one, _, { labels }) =>
    isOpenLink(one) && one.share.isLink && !one.share.hasPassword && labelled(one, labels),
  reason: ({ worst }) => `It reaches ${worst} items, and the address alone opens it.`,
  remedies: (one) => [givePassword(one), makeNamed(one)],
  latch: "password",
});
