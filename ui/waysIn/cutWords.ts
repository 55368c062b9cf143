import type { Step, NamedPath } from "@/core/access/ways";
import type { Change } from "@/core/changes/change";
import type { SubjectWords } from "@/core/changes/subject";
import { audienceWithin } from "@/core/estate/shareWords";
import { changeWords } from "@/core/changes/changeWords";

/** What a change would do, as a sentence to stand on its control; `about` names what it is about. */
export function cutWords(change: Change, about: Pick<SubjectWords, "itemName" | "audience">): string {
  switch (change.action) {
    case "revoke":
      return `Revoke the share on ${about.itemName} (${audienceWithin(about.audience)})`;
    case "drop-recipient":
      return `Remove ${about.audience} from the link on ${about.itemName}`;
    case "leave-group":
      return `Remove ${about.audience} from ${audienceWithin(about.itemName)}`;
    case "stop-inheriting":
      return `Stop ${about.itemName} inheriting from above`;
    default:
      return `${changeWords(change)}: ${about.itemName}`;
  }
}

/** A way in which one link of a chain can be cut, with its words. */
export interface ChainCut {
  change: Change;
  words: string;
  /** The same in two or three words, where the chain says the rest. */
  short: string;
}

/** What cuts one step off from the step before it; null where nothing does. */
export function cutOf(step: Step, path: NamedPath): ChainCut | null {
  const { cut } = step;
  if (!cut) return null;
  const person = path.steps[0].words;
  switch (cut.action) {
    case "leave-group":
      return {
        change: cut,
        words: cutWords(cut, { itemName: `the group ${step.words}`, audience: person }),
        short: "Remove from group",
      };
    case "drop-recipient":
      return { change: cut, words: `Remove ${person} from this link`, short: "Remove from link" };
    default:
      return {
        change: cut,
        words: cutWords(cut, { itemName: step.words, audience: "" }),
        short: `Cut above ${step.words}`,
      };
  }
}

/** Every cut along a chain, from the person on. */
export function cutsAlong(path: NamedPath): ChainCut[] {
  return path.steps.flatMap((step) => {
    const cut = cutOf(step, path);
    const end: ChainCut[] = step.end ? [{ change: step.end, words: `Revoke: ${step.words}`, short: "Revoke" }] : [];
    return cut ? [cut, ...end] : end;
  });
}
