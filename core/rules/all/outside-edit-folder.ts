import { none, rule } from "../rule";
import { lowerRole } from "../wanted";

export const outsideEditFolder = rule({
  title: "Outsiders can change a whole folder",
  sentence: "Nobody outside can edit a whole folder.",
  severity: "high",
  isExtra: true,
  parameters: none,
  breaks: ({ outside, share }, { estate }) =>
    outside && estate.tree.kindAt(share.position) !== "file" && (share.role === "edit" || share.role === "manage"),
  reason: ({ share }) => `Someone outside can ${share.role} everything in it.`,
  remedies: (one) => [lowerRole(one, "view", "Let them only view")],
});
