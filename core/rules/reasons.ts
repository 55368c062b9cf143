import { type Estate, storeAt } from "../estate/estate";
import type { Share } from "../estate/share";
import { filesReached, worstLabel } from "../estate/tree";
import { LABELS } from "../estate/records";
import { countWords, dayWords } from "../text/words";
import { DAY, NEVER, type Seconds } from "../time/instant";
import type { RuleId } from "./ruleWords";
import { DEFAULT_RULES, type RuleSet } from "./findings";
import { knownSkeletons, lookedLike } from "./lookAlike";
import { stanceOf } from "./parties";

/** Why a share breaks a rule, in words with the figures that make it so. */
export function reasonFor(
  rule: RuleId,
  estate: Estate,
  share: Share,
  t: Seconds,
  rules: RuleSet = DEFAULT_RULES,
): string {
  const { maxDays, days, minLength, maxFiles } = (rules[rule] ?? {}) as Record<string, number>;
  const worst = worstLabel(estate.tree, share.position, estate.tree.end[share.position]);
  const label = worst < 0 ? "" : LABELS[worst];
  const ago = (at: Seconds) => `${Math.floor((t - at) / DAY)} days ago`;
  switch (rule) {
    case "open-expiry":
    case "outside-expiry":
    case "intake-window":
      return `${share.ends === NEVER ? "No end date" : `Ends on ${dayWords(share.ends)}`}; ${maxDays} days are allowed.`;
    case "open-password":
      return `What it reaches is ${label}, and the address alone opens it.`;
    case "open-edit":
      return "Whoever holds the address may change the files.";
    case "open-forbidden":
      return `What it reaches is ${label}; no open link may lead there.`;
    case "outside-download":
      return share.promisesDownload
        ? `What it reaches is ${label}, and no block is set.`
        : `What it reaches is ${label}; a block is set, but ${share.role === "edit" ? "editing undoes it" : "the store does not keep it here"}.`;
    case "outside-manage":
      return "Someone outside may share this onward.";
    case "party-denied":
      return `${organisationsOf(estate, share, "denied")} is denied.`;
    case "personal-mailbox":
      return `Private mailbox at ${organisationsOf(estate, share, "personal")}.`;
    case "dormant":
      return `Last used ${ago(share.lastUsed!)}; ${days} days are allowed.`;
    case "never-used":
      return `Made ${ago(share.made)} and never opened.`;
    case "sharer-left":
      return leaverWords(estate, share);
    case "engagement-over":
      return "The engagement ended and its days of grace are over.";
    case "folder-wide":
      return "It reaches folders below, or items with unlike labels.";
    case "outsider-in-group":
      return `The group holds outsiders, and what it reaches is ${label}.`;
    case "house-listed":
      return `What it reaches is ${label}, and anyone in the house finds it by searching.`;
    case "intake-password":
      return "Anyone who learns the address can send files in.";
    case "intake-mixed":
      return "It should lie in a folder of its own, with no folders below and nothing else shared.";
    case "broken-target":
      return "The file or folder it led to has been deleted.";
    case "spent-link":
      return share.spent ? "Its cap on uses is reached." : `It ended on ${dayWords(share.expires)}.`;
    case "look-alike":
      return `${lookAlikesOf(estate, share).join("; ")}.`;
    case "weak-password":
      return share.hasCommonPassword
        ? "Its password is one that many people choose."
        : `Its password has ${share.passwordLength} characters; ${minLength} are wanted.`;
    case "reused-password":
      return "Another link has the same password: whoever was told one knows both.";
    case "outside-edit-folder":
      return `Someone outside may ${share.role} all that lies in it.`;
    case "open-many":
      return `It leads to ${countWords(filesReached(estate.tree, share.position), "file")}; ${maxFiles} are allowed.`;
    case "store-abroad":
      return `${storeAt(estate, share.position).name} keeps it in ${storeAt(estate, share.position).region}.`;
    case "block-bypassed":
    case "link-pile":
      return "This is said of the item, not of one share.";
  }
}

function organisationsOf(estate: Estate, share: Share, stance: string): string {
  if (share.audience !== "people") return "";
  const people = [...share.people].map((index) => estate.people[index]);
  const found = people.filter((person) => !person.insider && stanceOf(estate, person) === stance);
  return [...new Set(found.map((person) => person.organisation))].join(", ");
}

function lookAlikesOf(estate: Estate, share: Share): string[] {
  const known = knownSkeletons(estate);
  const organisations = new Set([...share.outsiders].map((index) => estate.people[index].organisation));
  return [...organisations].flatMap((one) => {
    const like = lookedLike(one, known);
    return like === undefined ? [] : [`${one} can be taken for ${like}`];
  });
}

function leaverWords(estate: Estate, share: Share): string {
  const maker = estate.people[share.maker];
  if (maker?.status === "left") return `${maker.name}, who made it, has left.`;
  const owner = estate.people[estate.ownerAt(share.position)];
  return `${owner?.name ?? "The owner"}, who owns the item, has left.`;
}
