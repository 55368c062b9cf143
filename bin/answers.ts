import { choiceAt } from "../core/advice/choice";
import { actsOf, massOf, shortlist } from "../core/advice/shortlist";
import { suggestionFor } from "../core/advice/suggest";
import { exposureLine, exposures } from "../core/access/exposure";
import { type Access, pathLine, pathsTo } from "../core/access/paths";
import { eachReached, reachOf, whoReaches } from "../core/access/reach";
import { WaysIn } from "../core/access/waysIn";
import type { Estate } from "../core/estate/estate";
import { DEFAULT_RULES, findings, type RuleSet } from "../core/rules/findings";
import { judge } from "../core/rules/judging";
import { byText } from "../core/text/text";
import { rfc3339, type Seconds, until } from "../core/time/instant";
import { Refusal } from "./refusal";

/** What is open on every live item, sorted by id. */
export function answerExposure(estate: Estate, t: Seconds) {
  const result = exposures(estate, t);
  return byItem(estate, (position) => {
    const exposure = result.at(position);
    return exposure && exposureLine(estate.tree.idAt(position), exposure);
  });
}

/** Every share and item that breaks a rule, sorted by rule, then subject. */
export function answerFindings(estate: Estate, t: Seconds, rules: RuleSet = DEFAULT_RULES) {
  return findings(judge(estate, t), rules);
}

/** Every live item that a person reaches by name, sorted by id. @throws {Refusal} where it isn’t in the estate */
export function answerReach(estate: Estate, t: Seconds, address: string) {
  const reached = reachOf(estate, t, personOf(estate, address), new WaysIn(estate));
  return [...eachReached(estate, reached)]
    .map(([position, access]) => ({ item: estate.tree.idAt(position), ...accessFields(access) }))
    .sort((a, b) => (a.item < b.item ? -1 : 1));
}

/** Everybody who reaches an item by name, sorted by address. @throws {Refusal} where it isn’t in the estate */
export function answerWho(estate: Estate, t: Seconds, item: string) {
  return [...whoReaches(estate, t, positionOf(estate, item))]
    .map(([index, access]) => ({ ...estate.people[index], access }))
    .sort((a, b) => (a.address < b.address ? -1 : 1))
    .map(({ address, insider, access }) => ({ person: address, insider, ...accessFields(access) }));
}

/** Every path from a person to an item, sorted by share id. @throws {Refusal} where it isn’t in the estate */
export function answerPaths(estate: Estate, t: Seconds, address: string, item: string) {
  return pathsTo(estate, t, personOf(estate, address), positionOf(estate, item)).map(pathLine);
}

/** The changes that shut the most for a factor in thousandths: first what they come to, then each, sorted by share. */
export function answerShortlist(estate: Estate, t: Seconds, factor: number) {
  const choice = choiceAt(estate, t);
  const found = shortlist(choice, factor);
  const { left, price, changes } = found;
  return [{ mass: massOf(choice), left, price, changes }, ...actsOf(estate, choice, found)];
}

/** What to do with every outside share, sorted by its id. @param days for how long one may stay at most */
export function answerSuggest(estate: Estate, t: Seconds, days?: number) {
  const { moment, shares } = judge(estate, t);
  return shares
    .filter(({ outside }) => outside)
    .sort((a, b) => byText(a.share.id, b.share.id))
    .map((judged) => {
      const { suggest, until, because } = suggestionFor(judged, moment, days);
      return { share: judged.share.id, suggest, until: until && rfc3339(until), because };
    });
}

function personOf(estate: Estate, address: string): number {
  const index = estate.principals.findAddress(address);
  if (index === undefined) throw new Refusal(2, `unknown person: ${address}`);
  return index;
}

function positionOf(estate: Estate, id: string): number {
  const position = estate.tree.position(id);
  if (position === undefined) throw new Refusal(2, `unknown item: ${id}`);
  return position;
}

function accessFields(access: Access) {
  return { ...access, until: until(access.until) };
}

/** The lines of all positions that have one, sorted by item id. */
function byItem<L extends { item: string }>(estate: Estate, line: (position: number) => L | null | undefined): L[] {
  return Array.from({ length: estate.tree.length }, (_, position) => line(position))
    .filter((one) => one != null)
    .sort((a, b) => (a.item < b.item ? -1 : 1));
}
