import { type Estate, sharesOn, storeAt } from "../estate/estate";
import type { Kind, Label, Role, PersonRecord } from "../estate/records";
import { LABELS } from "../estate/records";
import type { Share } from "../estate/share";
import { inheritedFrom, placeOf } from "../estate/tree";
import { labelFromWords } from "../estate/labelWords";
import { audienceWords } from "../estate/shareWords";
import { fold } from "../text/text";
import type { Seconds } from "../time/instant";
import { type Exposure, Exposures } from "./exposure";
import { isLiveShare } from "./live";
import { type Access, type Path, pathsTo } from "./paths";
import { countReached, eachReached, reachOf, reachTogether, type Stretch, whoReaches } from "./reach";
import { livePositions } from "./ranges";
import { WaysIn } from "./waysIn";

export interface NamedItem {
  id: string;
  name: string;
  kind: Kind;
  label: Label;
  /** The store, then the names of all folders above. */
  place: string[];
}

export interface NamedPerson {
  address: string;
  name: string;
  insider: boolean;
  organisation: string;
}

export interface FoundPerson extends NamedPerson {
  /** Leavers are often who people look for. */
  status: PersonRecord["status"];
}

/** What removes a step from a way in: one of the changes that a docket can make. */
export type Cut =
  | { action: "leave-group"; groupId: string; address: string }
  | { action: "stop-inheriting"; itemId: string }
  | { action: "drop-recipient"; shareId: string; address: string }
  | { action: "revoke"; shareId: string };

/** One thing on the way from a person to an item. */
export interface Step {
  kind: "person" | "group" | "share" | "folder" | "item";
  /** Ids are told apart by kind: a share's, a group's, an item's; a person's is the address. */
  id: string;
  words: string;
  /** What would cut the link to it from the step before. */
  cut: Cut | null;
  /** What would end the thing itself. */
  end: Cut | null;
}

/** One way in, as a chain from the person to the item. */
export interface NamedPath extends Access {
  share: string;
  steps: Step[];
}

/** Who reaches an item: everybody by name, and the links that let in whoever comes. */
export interface ItemWays {
  kind: "item";
  item: NamedItem;
  /** Where its label comes from, in words. */
  labelFrom: string;
  /** What is open to the outside there; null where it isn't live. */
  outside: Exposure | null;
  /** Where it was asked about one organisation: then `people` are those of it alone. */
  organisation: string | null;
  people: (NamedPerson & Access)[];
  crowd: ({ share: string; words: string } & Access)[];
}

/** What somebody, or everybody of an organisation, reaches by name. */
export interface ReachWays {
  kind: "reach";
  who: NamedPerson | { organisation: string; people: NamedPerson[] };
  /** All of them; the list holds the first. */
  count: number;
  items: (NamedItem & Access)[];
}

/** Every way from one person to one item. */
export interface PathWays {
  kind: "paths";
  person: NamedPerson;
  item: NamedItem;
  paths: NamedPath[];
}

export type Ways = ItemWays | ReachWays | PathWays;

const MOST_ITEMS = 1_000;

export function waysToItem(
  estate: Estate,
  t: Seconds,
  position: number,
  outside = new Exposures(estate, "outside").evaluate(t),
  organisation: string | null = null,
): ItemWays {
  const isMeant = (person: NamedPerson) =>
    organisation === null || (!person.insider && person.organisation === organisation);
  const people = [...whoReaches(estate, t, position)]
    .map(([index, access]) => ({ ...namedPerson(estate, index), ...access }))
    .filter(isMeant);
  people.sort((a, b) => Number(a.insider) - Number(b.insider) || (a.address < b.address ? -1 : 1));
  const crowd = estate.tree.live[position]
    ? inheritedFrom(estate.tree, position)
        .flatMap((at) => sharesOn(estate, at))
        .filter((share) => isForWhoeverComes(share) && isLiveShare(estate, share, t))
        .map((share) => ({
          share: share.id,
          words: `${audienceWords(estate, share)}, by a link on ${estate.tree.nameAt(share.position)}`,
          role: share.role as Role,
          download: share.download,
          until: share.expires,
        }))
    : [];
  return {
    kind: "item",
    item: namedItem(estate, position),
    labelFrom: labelFromWords(estate, position),
    outside: outside.at(position),
    organisation,
    people,
    crowd,
  };
}

function isForWhoeverComes({ audience }: Share): boolean {
  return audience === "open" || audience === "house";
}

export function reachOfPerson(estate: Estate, t: Seconds, person: number, waysIn = new WaysIn(estate)): ReachWays {
  return reachWays(estate, reachOf(estate, t, person, waysIn), namedPerson(estate, person));
}

/** All that the outsiders of one organisation reach together. */
export function reachOfOrganisation(
  estate: Estate,
  t: Seconds,
  organisation: string,
  waysIn = new WaysIn(estate),
): ReachWays {
  const people = outsidersOf(estate, organisation);
  const who = { organisation, people: people.map((index) => namedPerson(estate, index)) };
  return reachWays(estate, reachTogether(estate, t, people, waysIn), who);
}

/** Indexes of an organisation's active outsiders. */
export function outsidersOf(estate: Estate, organisation: string): number[] {
  return estate.everybody
    .filter((one) => !one.insider && one.organisation === organisation && one.status === "active")
    .sort((a, b) => (a.address < b.address ? -1 : 1))
    .map(({ index }) => index);
}

/** The most sensitive first: that is what people look for. */
function reachWays(estate: Estate, reached: Stretch[], who: ReachWays["who"]): ReachWays {
  const { label } = estate.tree;
  const byLabel: [number, Access][][] = LABELS.map(() => []);
  for (const one of eachReached(estate, reached))
    if (byLabel[label[one[0]]].length < MOST_ITEMS) byLabel[label[one[0]]].push(one);
  const first = byLabel.reverse().flat().slice(0, MOST_ITEMS);
  const items = first.map(([at, access]) => ({ ...namedItem(estate, at), ...access }));
  return { kind: "reach", who, count: countReached(estate, reached), items };
}

export function pathsBetween(estate: Estate, t: Seconds, person: number, position: number): PathWays {
  return {
    kind: "paths",
    person: namedPerson(estate, person),
    item: namedItem(estate, position),
    paths: pathsTo(estate, t, person, position).map((path) => namedPath(estate, path, person, position)),
  };
}

function namedPath(estate: Estate, path: Path, person: number, position: number): NamedPath {
  const { tree } = estate;
  const { address, name } = estate.people[person];
  const shareId = path.share;
  // From the person outwards: the group that holds them first, the one that was granted last.
  const groups = [...path.via].reverse().map((id, i): Step => {
    const cut: Cut | null = i === 0 ? { action: "leave-group", groupId: id, address } : null;
    return { kind: "group", id, words: groupName(estate, id), cut, end: null };
  });
  const above = inheritedFrom(tree, position);
  const places = above
    .slice(0, above.indexOf(tree.position(path.at)!) + 1)
    .reverse()
    .map((at, i): Step => {
      const cut: Cut | null = i === 0 ? null : { action: "stop-inheriting", itemId: tree.idAt(at) };
      return { kind: at === position ? "item" : "folder", id: tree.idAt(at), words: tree.nameAt(at), cut, end: null };
    });
  const share: Step = {
    kind: "share",
    id: shareId,
    words: shareWords(path),
    cut: path.kind === "named-link" ? { action: "drop-recipient", shareId, address } : null,
    end: path.kind === "owner" ? null : { action: "revoke", shareId },
  };
  const start: Step = { kind: "person", id: address, words: name, cut: null, end: null };
  const { role, download, until } = path;
  return { share: shareId, steps: [start, ...groups, share, ...places], role, download, until };
}

function groupName(estate: Estate, id: string): string {
  const { principals } = estate;
  return principals.groups[principals.findGroup(id)!].name;
}

const PATH_WORDS: Record<Path["kind"], string> = {
  grant: "Right to",
  owner: "Owner, may",
  "named-link": "Named link to",
  "house-link": "House link to",
  "open-link": "Open link to",
};

function shareWords(path: Path): string {
  return `${PATH_WORDS[path.kind]} ${path.role}`;
}

export function namedPerson(estate: Estate, index: number): NamedPerson {
  const { address, name, insider, organisation } = estate.people[index];
  return { address, name, insider, organisation };
}

export function namedItem(estate: Estate, position: number): NamedItem {
  const { tree } = estate;
  return {
    id: tree.idAt(position),
    name: tree.nameAt(position),
    kind: tree.kindAt(position),
    label: LABELS[tree.label[position]],
    place: [storeAt(estate, position).name, ...placeOf(tree, position)],
  };
}

/** People, organisations and items that words may mean, the best known first. */
export interface Found {
  people: FoundPerson[];
  organisations: string[];
  items: NamedItem[];
}

const MOST_FOUND = 8;

function split<T>(all: readonly T[], test: (one: T) => boolean): [T[], T[]] {
  return [all.filter(test), all.filter((one) => !test(one))];
}

/**
 * Live items by name, people by name or address, organisations of outsiders: those that begin so come first, and
 * those who are active before those who are not.
 * @param owners only people who can own something: whoever works here now
 */
export function findSubjects(estate: Estate, text: string, owners = false): Found {
  const wanted = fold(text.trim());
  if (wanted === "") return { people: [], organisations: [], items: [] };
  const best = <T>(candidates: Iterable<T>, words: (one: T) => string[]): T[] => {
    const starts: T[] = [];
    const holds: T[] = [];
    for (const one of candidates) {
      const own = words(one).map(fold);
      if (own.some((word) => word.startsWith(wanted))) starts.push(one);
      else if (own.some((word) => word.includes(wanted))) holds.push(one);
      if (starts.length >= MOST_FOUND) break;
    }
    return [...starts, ...holds].slice(0, MOST_FOUND);
  };
  const [active, others] = split(estate.everybody, ({ status }) => status === "active");
  const people = owners ? active.filter(({ insider }) => insider) : [...active, ...others];
  // Organisations whose people have all left come last: people look for those only when the work with them is over.
  const outsiders = [...active, ...others].filter((person) => !person.insider);
  const organisations = new Set(outsiders.map((person) => person.organisation));
  const { tree } = estate;
  const positions = [...livePositions(tree, [0, tree.length])];
  // Folders before files: they are what people remember by name.
  positions.sort((a, b) => Number(tree.kindAt(a) === "file") - Number(tree.kindAt(b) === "file"));
  return {
    people: best(people, (one) => [one.name, one.address]).map(({ index, status }) => ({
      ...namedPerson(estate, index),
      status,
    })),
    organisations: best(organisations, (one) => [one]),
    items: best(positions, (at) => [estate.tree.nameAt(at), estate.tree.idAt(at)]).map((at) => namedItem(estate, at)),
  };
}
