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
      ? `It reaches ${worst} items, and downloads aren’t blocked.`
      : `It reaches ${worst} items; downloads are blocked, but ${share.role === "edit" ? "editing undoes it" : "the store does not keep it here"}.`,
  remedies: (one) => [blockDownload(one)],
  latch: "download",
});
