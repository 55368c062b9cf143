import { foldersBelow, labelsIn } from "../../estate/tree";
import { none, rule } from "../rule";

export const folderWide = rule({
  title: "A whole folder is shared",
  sentence: "Folders with subfolders or mixed labels aren't shared outside as a whole.",
  severity: "low",
  parameters: none,
  breaks: ({ outside, share: { position } }, { estate: { tree } }) => {
    const end = tree.end[position];
    if (!outside || tree.kindAt(position) === "file") return false;
    return foldersBelow(tree, position) > 0 || labelsIn(tree, position, end) > 1;
  },
  reason: () => "It reaches subfolders or items with different labels.",
});
