import type { GroupRecord, PartyRecord, PersonRecord, RecordOf } from "../core/estate/records";
import type { Calendar } from "./calendar";
import type { Random } from "./random";

export const HOME = "wrenmoor.example";

export const DEPARTMENTS = [
  "Artistic Planning",
  "Score Library",
  "Touring",
  "Finance",
  "People",
  "Development",
  "Press",
  "Learning",
] as const;
export type Department = (typeof DEPARTMENTS)[number];

/** Outside organisations: domain, how many of their people we know, what they are to us. */
export const OUTSIDE = {
  "quay-hall.example": { people: 9, role: "hall" },
  "orrin-hall.example": { people: 6, role: "hall" },
  "salt-street-hall.example": { people: 5, role: "hall" },
  "tessel-artists.example": { people: 7, role: "agent" },
  "gannet-management.example": { people: 4, role: "agent" },
  "inkhorn-edit.example": { people: 3, role: "editor" },
  "fathom-records.example": { people: 8, role: "recording" },
  "quayside-staging.example": { people: 7, role: "stage" },
  "brindle-haulage.example": { people: 4, role: "haulier" },
  "ferrant-events.example": { people: 5, role: "gala" },
  "halden-press.example": { people: 3, role: "press" },
  "lowmark-foundation.example": { people: 3, role: "sponsor" },
  "copperfield-bank.example": { people: 4, role: "sponsor" },
  "lindweg-youth.example": { people: 6, role: "youth" },
  "opera-vell.example": { people: 10, role: "opera" },
  "post.example": { people: 14, role: "private" },
  "mailbarn.example": { people: 6, role: "private" },
  "northgate-symphony.example": { people: 3, role: "rival" },
  "quay-ha11.example": { people: 1, role: "look-alike" },
} as const;
export type OutsideDomain = keyof typeof OUTSIDE;

const STANCES: Partial<Record<OutsideDomain, PartyRecord["stance"]>> = {
  "quay-hall.example": "trusted",
  "tessel-artists.example": "trusted",
  "fathom-records.example": "trusted",
  "opera-vell.example": "trusted",
  "lindweg-youth.example": "trusted",
  "post.example": "personal",
  "mailbarn.example": "personal",
  "northgate-symphony.example": "denied",
};

const FIRST =
  "Ada Aino Bram Cleo Dario Edda Eskil Fenna Gil Hedda Ilka Imre Jorun Kasper Lene Lioba Maren Milo Nadja Odile Oskar Petra Quirin Rosa Runa Sanne Silas Tilda Ugo Vera Wanda Yorick Zita".split(
    " ",
  );
const LAST =
  "Abendroot Brackwell Carrowmede Dellinghurst Eastermark Fennimoor Garroway Hathersedge Ilverton Jessamund Kestleby Lorringer Marrowby Netherfold Ostrander Pellworth Quillby Rastermann Silvermere Tarnbrook Umberlow Varga Wexelby Yarrowind Zellenrath".split(
    " ",
  );

export interface Organisation {
  insiders: PersonRecord[];
  outsiders: PersonRecord[];
  groups: GroupRecord[];
  members: RecordOf<"member">[];
  parties: PartyRecord[];
  inDepartment(department: Department): PersonRecord[];
  at(domain: OutsideDomain): PersonRecord[];
  group(name: string): GroupRecord;
}

export function makeOrganisation(random: Random, calendar: Calendar): Organisation {
  const taken = new Set<string>();
  const insiders = Array.from({ length: 180 }, (_, index) => makeInsider(index, random, calendar, taken));
  const outsiders = (Object.keys(OUTSIDE) as OutsideDomain[]).flatMap((domain) =>
    Array.from({ length: OUTSIDE[domain].people }, () => makeOutsider(domain, random, taken)),
  );
  const inDepartment = (department: Department) =>
    insiders.filter((person) => person.department === department && person.status === "active");
  const at = (domain: OutsideDomain) => outsiders.filter((person) => person.email.endsWith("@" + domain));
  const { groups, members } = makeGroups(inDepartment, at);
  const parties = Object.entries(STANCES).map(([domain, stance]): PartyRecord => ({ type: "party", domain, stance }));
  const group = (name: string) => groups.find((one) => one.name === name)!;
  return { insiders, outsiders, groups, members, parties, inDepartment, at, group };
}

function fullName(random: Random, taken: Set<string>): string {
  for (;;) {
    const name = `${random.pick(FIRST)} ${random.pick(LAST)}`;
    if (taken.has(name)) continue;
    taken.add(name);
    return name;
  }
}

const mailbox = (name: string) => name.toLowerCase().replace(" ", ".");

/** The first is the administrator who signs in; every fifteenth or so has left. */
function makeInsider(index: number, random: Random, calendar: Calendar, taken: Set<string>): PersonRecord {
  const name = index === 0 ? "Imre Varga" : fullName(random, taken);
  taken.add(name);
  const left = index % 15 === 14;
  return {
    type: "person",
    id: `w${String(index + 1).padStart(3, "0")}`,
    email: `${mailbox(name)}@${HOME}`,
    name,
    status: left ? "left" : index % 60 === 31 ? "suspended" : "active",
    department: DEPARTMENTS[index % DEPARTMENTS.length],
    leftAt: left ? calendar.daysAgo(random.between(20, 300)) : null,
  };
}

function makeOutsider(domain: OutsideDomain, random: Random, taken: Set<string>): PersonRecord {
  const name = fullName(random, taken);
  return { type: "person", id: `x-${mailbox(name)}`, email: `${mailbox(name)}@${domain}`, name, status: "active" };
}

/** A group for each department, some that cut across, and one that holds outsiders two levels down. */
function makeGroups(inDepartment: Organisation["inDepartment"], at: Organisation["at"]) {
  const groups: GroupRecord[] = [];
  const members: RecordOf<"member">[] = [];
  const add = (name: string, people: { id: string }[]) => {
    const group: GroupRecord = {
      type: "group",
      id: `g-${name.toLowerCase().replaceAll(" ", "-")}`,
      name,
      storeId: "stacks",
    };
    groups.push(group);
    for (const { id } of people) members.push({ type: "member", groupId: group.id, memberId: id });
    return group;
  };
  const departments = DEPARTMENTS.map((department) => add(department, inDepartment(department)));
  add("Whole house", departments);
  const crew = add("Recording crew", at("fathom-records.example").slice(0, 4));
  const stage = add("Stage partners", at("quayside-staging.example").slice(0, 4));
  const production = add("Production", [crew, stage, ...inDepartment("Touring").slice(0, 6)]);
  add("Programme makers", [production, ...inDepartment("Artistic Planning").slice(0, 8)]);
  add("Opera co-production", [
    ...at("opera-vell.example").slice(0, 6),
    ...inDepartment("Artistic Planning").slice(0, 5),
  ]);
  add("Gala committee", [...at("ferrant-events.example").slice(0, 3), ...inDepartment("Development").slice(0, 6)]);
  add("Youth parents", at("post.example").slice(0, 8));
  add("Principals", inDepartment("Artistic Planning").slice(0, 4));
  add("Editors", [...inDepartment("Score Library").slice(0, 6), ...at("inkhorn-edit.example").slice(0, 2)]);
  return { groups, members };
}
