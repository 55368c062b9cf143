import { type Change, subjectOf } from "@/core/changes/change";
import { useTray } from "../frame/useTray";
import { useStandpoint } from "../frame/viewer";

/** Which changes are staged, and how to stage one or take it out again. */
export function useCuts() {
  const { viewer } = useStandpoint();
  const { tray, stage, unstage, problem } = useTray();
  // The end of a share that is set later, say, is another change of the same subject.
  const staged = new Set(
    tray?.changes.filter(({ change }) => change.action !== "set-expiry").map(({ subject }) => subject),
  );
  const toggle = (change: Change) => {
    const subject = subjectOf(change);
    if (staged.has(subject)) unstage.mutate([subject]);
    else stage.mutate([change]);
  };
  const stageAll = (changes: Change[]) => stage.mutate(changes);
  return { staged, problem, ...(viewer.mayChange ? { toggle, stageAll } : { toggle: null, stageAll: null }) };
}
