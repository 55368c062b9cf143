import { openExpiry } from "./all/open-expiry";
import { openPassword } from "./all/open-password";
import { openEdit } from "./all/open-edit";
import { openForbidden } from "./all/open-forbidden";
import { outsideDownload } from "./all/outside-download";
import { outsideExpiry } from "./all/outside-expiry";
import { outsideManage } from "./all/outside-manage";
import { partyDenied } from "./all/party-denied";
import { personalMailbox } from "./all/personal-mailbox";
import { dormant } from "./all/dormant";
import { neverUsed } from "./all/never-used";
import { sharerLeft } from "./all/sharer-left";
import { engagementOver } from "./all/engagement-over";
import { folderWide } from "./all/folder-wide";
import { outsiderInGroup } from "./all/outsider-in-group";
import { blockBypassed } from "./all/block-bypassed";
import { linkPile } from "./all/link-pile";
import { houseListed } from "./all/house-listed";
import { intakePassword } from "./all/intake-password";
import { intakeWindow } from "./all/intake-window";
import { intakeMixed } from "./all/intake-mixed";
import { intakeWords } from "./all/intake-words";
import { brokenTarget } from "./all/broken-target";
import { spentLink } from "./all/spent-link";
import { lookAlike } from "./all/look-alike";
import { weakPassword } from "./all/weak-password";
import { reusedPassword } from "./all/reused-password";
import { outsideEditFolder } from "./all/outside-edit-folder";
import { openMany } from "./all/open-many";
import { storeAbroad } from "./all/store-abroad";
import { unconfirmed } from "./all/unconfirmed";
import { isOpenLink, type Judged, type Moment } from "./judged";
import type { Rule } from "./rule";

/** Every rule, by id. Their order is the order in which they are shown. */
export const RULES = {
  "open-expiry": openExpiry,
  "open-password": openPassword,
  "open-edit": openEdit,
  "open-forbidden": openForbidden,
  "outside-download": outsideDownload,
  "outside-expiry": outsideExpiry,
  "outside-manage": outsideManage,
  "party-denied": partyDenied,
  "personal-mailbox": personalMailbox,
  dormant: dormant,
  "never-used": neverUsed,
  "sharer-left": sharerLeft,
  "engagement-over": engagementOver,
  "folder-wide": folderWide,
  "outsider-in-group": outsiderInGroup,
  "block-bypassed": blockBypassed,
  "link-pile": linkPile,
  "house-listed": houseListed,
  "intake-password": intakePassword,
  "intake-window": intakeWindow,
  "intake-mixed": intakeMixed,
  "broken-target": brokenTarget,
  "spent-link": spentLink,
  "look-alike": lookAlike,
  "weak-password": weakPassword,
  "reused-password": reusedPassword,
  "outside-edit-folder": outsideEditFolder,
  "open-many": openMany,
  "store-abroad": storeAbroad,
  unconfirmed: unconfirmed,
  "intake-words": intakeWords,
} satisfies Record<string, Rule>;

export type RuleId = keyof typeof RULES;
export const RULE_IDS = Object.keys(RULES) as RuleId[];

export function ruleOf(id: RuleId): Rule {
  return RULES[id];
}

/** Whether a rule looks at a share. */
export function isLookedAt(rule: RuleId, judged: Judged, moment: Moment): boolean {
  const definition = ruleOf(rule);
  return (definition.items ? undefined : definition.looksAt?.(judged, moment)) ?? judged.outside;
}

/** Whether a rule is only about open links, so that narrowing a link to named people satisfies it. */
export function isOfOpenLinks(rule: RuleId): boolean {
  const definition = ruleOf(rule);
  return !definition.items && definition.looksAt === isOpenLink;
}
