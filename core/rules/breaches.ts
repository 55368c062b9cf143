import { answererOf } from "../access/answerer";
import type { Estate } from "../estate/estate";
import { storeAt } from "../estate/estate";
import type { Share } from "../estate/share";
import { placeOf } from "../estate/tree";
import { audienceWords, shareSentence } from "../estate/shareWords";
import type { Seconds } from "../time/instant";
import type { Breach } from "./demand";
import type { RuleSet } from "./findings";
import { reasonFor } from "./reasons";
import { itemRemedies, remediesFor } from "./remedies";
import { RULES, type RuleId } from "./list";

/** A share that breaks a rule, as the person who answers for it is told. */
export function breachOf(rule: RuleId, estate: Estate, share: Share, t: Seconds, rules: RuleSet): Breach {
  return {
    ...placeAndOwner(estate, share.position, answererOf(estate, share)?.person),
    rule,
    subject: share.id,
    shareId: share.id,
    audience: audienceWords(estate, share),
    sentence: shareSentence(estate, share),
    lastUsed: share.lastUsed,
    reason: reasonFor(rule, estate, share, t, rules),
    remedies: remediesFor(rule, estate, share, t, rules),
  };
}

/** An item that breaks one. */
export function itemBreachOf(rule: RuleId, estate: Estate, position: number, t: Seconds, rules: RuleSet): Breach {
  const owner = estate.activeOwnerAt(position);
  return {
    ...placeAndOwner(estate, position, owner < 0 ? undefined : owner),
    rule,
    subject: estate.tree.idAt(position),
    shareId: null,
    audience: "",
    sentence: "",
    lastUsed: null,
    reason: RULES[rule].title,
    remedies: itemRemedies(rule, estate, position, t, rules),
  };
}

function placeAndOwner(estate: Estate, position: number, owner: number | undefined) {
  const person = owner === undefined ? null : estate.people[owner];
  return {
    itemName: estate.tree.nameAt(position),
    place: placeOf(estate.tree, position),
    storeName: storeAt(estate, position).name,
    owner: person?.address ?? null,
    ownerName: person?.name ?? null,
  };
}
