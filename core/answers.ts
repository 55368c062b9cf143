import { exposureLine, exposures } from "./access/exposure";
import { type Access, pathLine, pathsTo } from "./access/paths";
import { indexByPerson, reachOf, whoReaches } from "./access/reach";
import { normaliseAddress } from "./estate/address";
import type { Estate } from "./estate/estate";
import { DEFAULT_RULES, findings, type RuleSet } from "./rules/findings";
import { judge } from "./rules/judging";
import { type Seconds, until } from "./time/instant";

/** A question names a person or an item that the estate doesn't hold. */
export class UnknownSubject extends Error {}

/** What is open on every live item, sorted by id. */
export function answerExposure(estate: Estate, t: Seconds) {
  const result = exposures(estate, t);
  return byItem(estate, (position) => result[position] && exposureLine(estate.tree.ids[position], result[position]));
}

/** Every share and item that breaks a rule, sorted by rule, then subject. */
export function answerFindings(estate: Estate, t: Seconds, rules: RuleSet = DEFAULT_RULES) {
  return findings(judge(estate, t), rules);
}

/** Every live item that a person reaches by name, sorted by id. @throws {UnknownSubject} */
export function answerReach(estate: Estate, t: Seconds, address: string) {
  const reached = reachOf(estate, t, personOf(estate, address), indexByPerson(estate));
  return byItem(estate, (position) => {
    const access = reached.get(position);
    return access && { item: estate.tree.ids[position], ...accessFields(access) };
  });
}

/** Everybody who reaches an item by name, sorted by address. @throws {UnknownSubject} */
export function answerWho(estate: Estate, t: Seconds, item: string) {
  return [...whoReaches(estate, t, positionOf(estate, item))]
    .map(([index, access]) => ({ ...estate.people[index], access }))
    .sort((a, b) => (a.address < b.address ? -1 : 1))
    .map(({ address, insider, access }) => ({ person: address, insider, ...accessFields(access) }));
}

/** Every path from a person to an item, sorted by share id. @throws {UnknownSubject} */
export function answerPaths(estate: Estate, t: Seconds, address: string, item: string) {
  return pathsTo(estate, t, personOf(estate, address), positionOf(estate, item)).map(pathLine);
}

function personOf(estate: Estate, address: string): number {
  const index = estate.personByAddress.get(normaliseAddress(address));
  if (index === undefined) throw new UnknownSubject(`unknown person: ${address}`);
  return index;
}

function positionOf(estate: Estate, id: string): number {
  const position = estate.tree.positionById.get(id);
  if (position === undefined) throw new UnknownSubject(`unknown item: ${id}`);
  return position;
}

function accessFields(access: Access) {
  return { ...access, until: until(access.until) };
}

/** The lines of all positions that have one, sorted by item id. */
function byItem<L extends { item: string }>(estate: Estate, line: (position: number) => L | null | undefined): L[] {
  return estate.tree.ids
    .map((_, position) => line(position))
    .filter((one) => one != null)
    .sort((a, b) => (a.item < b.item ? -1 : 1));
}
