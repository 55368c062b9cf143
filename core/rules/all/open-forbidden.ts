import { z } from "zod";
import { isOpenLink } from "../judged";
import { labelled, labels, rule } from "../rule";
import { makeNamed } from "../wanted";

export const openForbidden = rule({
  title: "Restricted files behind an open link",
  sentence: "No open link leads to [labels] items.",
  severity: "urgent",
  parameters: z.strictObject({ labels: labels("restricted") }),
  looksAt: isOpenLink,
  breaks: (one, _, { labels }) => isOpenLink(one) && labelled(one, labels),
  reason: ({ worst }) => `It reaches ${worst} items, which no open link may reach.`,
  remedies: (one) => [makeNamed(one)],
  latch: "named",
});
