import { z } from "zod";
import { labelled, labels, rule } from "../rule";
import { blockDownload } from "../wanted";

export const outsideDownload = rule({
  title: "Outsiders can download",
  sentence: "Outsiders can't download [labels] items.",
  severity: "high",
  parameters: z.strictObject({ labels: labels("confidential", "restricted") }),
  breaks: (one, _, { labels }) => one.outside && one.share.download && labelled(one, labels),
  reason: ({ share, worst }) =>
    share.promisesDownload
      ? `What it reaches is ${worst}, and no block is set.`
      : `What it reaches is ${worst}; a block is set, but ${share.role === "edit" ? "editing undoes it" : "the store does not keep it here"}.`,
  remedies: (one) => [blockDownload(one)],
  latch: "download",
});
