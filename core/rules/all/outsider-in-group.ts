import { z } from "zod";
import { labelled, labels, rule } from "../rule";
import { without } from "../wanted";

export const outsiderInGroup = rule({
  title: "A group with an outsider in it",
  sentence: "No group with an outsider in it holds a right to [labels] items.",
  severity: "high",
  parameters: z.strictObject({ labels: labels("confidential", "restricted") }),
  breaks: (one, _, { labels }) => one.outside && one.share.group >= 0 && labelled(one, labels),
  reason: ({ worst }) => `The group holds outsiders, and what it reaches is ${worst}.`,
  remedies: (one, moment) => without(one, moment, () => true),
});
