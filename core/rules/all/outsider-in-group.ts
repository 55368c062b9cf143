import { z } from "zod";
import { labelled, labels, rule } from "../rule";
import { without } from "../wanted";

export const outsiderInGroup = rule({
  title: "A group with an outsider in it",
  sentence: "No group with an outsider in it has a grant on [labels] items.",
  severity: "high",
  parameters: z.strictObject({ labels: labels("confidential", "restricted") }),
  breaks: (one, _, { labels }) => one.outside && one.share.group >= 0 && labelled(one, labels),
  reason: ({ worst }) => `The group has outsiders in it, and it reaches ${worst} items.`,
  remedies: (one, moment) => without(one, moment, () => true),
});
