import type { ItemRecord, Kind, Label } from "../core/estate/records";
import type { Calendar } from "./calendar";
import { fileName } from "./fileNames";
import { DEPARTMENTS, type Department, type Organisation } from "./organisation";
import type { Random } from "./random";

/** What lies in a folder: a plain name is a folder of its own files; a label stands for all below it. */
interface Plan {
  name: string;
  label?: Label;
  cut?: boolean;
  files?: number;
  below?: Plan[];
}

const SPACES: Record<Department, Plan[]> = {
  "Artistic Planning": [
    {
      name: "Seasons",
      files: 18,
      below: [
        { name: "Season 26-27", files: 30 },
        { name: "Season 27-28", label: "confidential", files: 26 },
      ],
    },
    {
      name: "Opera co-production",
      files: 14,
      below: [
        { name: "Stage plots", files: 22 },
        { name: "Cast contracts", label: "confidential", cut: true, files: 16 },
        { name: "Surtitles", files: 20 },
      ],
    },
    {
      name: "Guest artists",
      label: "confidential",
      files: 24,
      below: [
        { name: "Fees", label: "restricted", files: 12 },
        { name: "Biographies", label: "public", files: 40 },
      ],
    },
    { name: "Programmes", files: 60 },
  ],
  "Score Library": [
    {
      name: "Loans",
      files: 40,
      below: [
        { name: "Marsh Symphony, parts", files: 34 },
        { name: "Tide Overture, parts", files: 28 },
      ],
    },
    {
      name: "Editions",
      files: 46,
      below: [
        { name: "Bowings", files: 50 },
        { name: "Errata", files: 24 },
      ],
    },
    { name: "Copyist", files: 22 },
  ],
  Touring: [
    {
      name: "Coastal tour",
      files: 20,
      below: [
        {
          name: "Travel",
          files: 12,
          below: [
            { name: "Passport scans", label: "restricted", files: 42 },
            { name: "Rooming lists", label: "confidential", files: 14 },
          ],
        },
        { name: "Itineraries", files: 26 },
        { name: "Freight", files: 24 },
        { name: "Venue contracts", label: "confidential", files: 18 },
      ],
    },
    {
      name: "Winter tour",
      files: 16,
      below: [
        { name: "Travel", files: 18 },
        { name: "Visas", label: "restricted", cut: true, files: 24 },
      ],
    },
    { name: "Stage and light", files: 48 },
  ],
  Finance: [
    { name: "Venues", label: "confidential", files: 50 },
    { name: "Payroll", label: "restricted", cut: true, files: 40 },
    {
      name: "Budgets",
      label: "confidential",
      files: 46,
      below: [
        { name: "Opera budget", files: 14 },
        { name: "Tour budget", files: 14 },
      ],
    },
    { name: "Audit", label: "confidential", files: 20 },
  ],
  People: [
    { name: "Contracts", label: "restricted", files: 60 },
    {
      name: "Auditions",
      label: "confidential",
      files: 34,
      below: [
        { name: "Applications", files: 30 },
        { name: "Recordings", files: 24 },
      ],
    },
    { name: "Handbook", files: 18 },
  ],
  Development: [
    { name: "Appeals", label: "confidential", files: 26 },
    {
      name: "Gala",
      files: 24,
      below: [
        { name: "Seating", files: 12 },
        { name: "Guests", label: "confidential", files: 16 },
      ],
    },
    { name: "Sponsors", label: "confidential", files: 40, below: [{ name: "Reports", files: 18 }] },
  ],
  Press: [
    {
      name: "Public",
      label: "public",
      files: 50,
      below: [
        { name: "Pictures, season 26-27", files: 60 },
        { name: "Logos", files: 16 },
      ],
    },
    { name: "Releases", files: 44 },
    { name: "Embargoed", label: "confidential", files: 16 },
  ],
  Learning: [
    {
      name: "Youth exchange",
      files: 16,
      below: [
        { name: "Children", label: "restricted", files: 28 },
        { name: "Handbook", files: 10 },
        { name: "Consent forms", label: "restricted", files: 30 },
      ],
    },
    { name: "Workshops", files: 46, below: [{ name: "Worksheets", label: "public", files: 50 }] },
    { name: "Schools", files: 28 },
  ],
};

const DOCK: Plan[] = [
  { name: "Rehearsal recordings", files: 60, below: [{ name: "First edits", label: "confidential", files: 30 }] },
  {
    name: "Recording, masters",
    label: "confidential",
    files: 34,
    below: [
      { name: "Takes", files: 70 },
      { name: "Sleeve", files: 18 },
    ],
  },
  { name: "Printers", files: 36 },
  { name: "Haulage papers", files: 30 },
  { name: "Intake, audition videos", files: 12 },
  { name: "Intake, scores by composers", files: 6, below: [{ name: "Sorted", files: 8 }] },
  { name: "Intake, stage plans", files: 5 },
  {
    name: "Old transfers",
    files: 40,
    below: [
      { name: "2024", files: 30 },
      { name: "2025", files: 34 },
    ],
  },
];

export interface Items {
  all: ItemRecord[];
  /** By a path such as `Touring / Coastal tour / Travel`. */
  at(path: string): ItemRecord;
  below(item: ItemRecord): ItemRecord[];
  inStore(storeId: string): ItemRecord[];
}

export function makeItems(random: Random, calendar: Calendar, organisation: Organisation): Items {
  const all: ItemRecord[] = [];
  const paths = new Map<string, ItemRecord>();
  let next = 1;

  function add(
    storeId: string,
    parent: ItemRecord | null,
    kind: Kind,
    name: string,
    ownerId: string | null,
    label: Label | null,
    path: string,
  ) {
    const age = parent ? random.between(5, 420) : 425;
    const item: ItemRecord = {
      type: "item",
      id: `i${String(next++).padStart(5, "0")}`,
      storeId,
      parentId: parent?.id ?? null,
      kind,
      name,
      ownerId,
      label,
      inherits: true,
      state: "live",
      createdAt: calendar.daysAgo(kind === "file" ? age : 424),
      modifiedAt: calendar.daysAgo(random.between(0, age)),
      ...(kind === "file" ? { size: random.between(2_000, 9_000_000) } : {}),
    };
    all.push(item);
    paths.set(path, item);
    return item;
  }

  function addPlan(plan: Plan, storeId: string, parent: ItemRecord | null, owners: string[], path: string) {
    const folder = add(storeId, parent, "folder", plan.name, random.pick(owners), plan.label ?? null, path);
    if (plan.cut) folder.inherits = false;
    const taken = new Set<string>();
    for (let i = 0; i < Math.round((plan.files ?? 0) * 1.05); i++)
      taken.add(addFile(storeId, folder, random.pick(owners), path, taken).name);
    for (const below of plan.below ?? []) addPlan(below, storeId, folder, owners, `${path} / ${below.name}`);
  }

  function addFile(storeId: string, folder: ItemRecord, owner: string, path: string, taken: ReadonlySet<string>) {
    const name = fileName(random, calendar, folder.name, taken);
    const file = add(storeId, folder, "file", name, owner, null, `${path} / ${name}`);
    if (random.chance(0.02)) file.state = random.chance(0.5) ? "binned" : "gone";
    else if (random.chance(0.02)) file.label = "confidential";
    return file;
  }

  for (const department of DEPARTMENTS) {
    const people = organisation.insiders.filter((one) => one.department === department).map((one) => one.id);
    const space = add("stacks", null, "space", department, people[0], null, department);
    for (const plan of SPACES[department]) addPlan(plan, "stacks", space, people, `${department} / ${plan.name}`);
  }
  for (const person of organisation.insiders.filter((_, index) => index % 2 === 0 || index % 15 === 14)) {
    const path = `Alcove of ${person.name}`;
    const alcove = add("alcoves", null, "folder", path, person.id, null, path);
    for (const name of random.some(["Drafts", "To review", "Private", "Shared with partners"], random.between(1, 3)))
      addPlan(
        { name, files: random.between(3, 9), label: name === "Private" ? "confidential" : undefined },
        "alcoves",
        alcove,
        [person.id],
        `${path} / ${name}`,
      );
  }
  const dockOwners = [...organisation.inDepartment("Artistic Planning"), ...organisation.inDepartment("Touring")].map(
    (one) => one.id,
  );
  for (const plan of DOCK) addPlan(plan, "dock", null, dockOwners, plan.name);

  const childrenOf = new Map<string | null, ItemRecord[]>();
  for (const item of all) childrenOf.set(item.parentId, [...(childrenOf.get(item.parentId) ?? []), item]);
  const below = (item: ItemRecord): ItemRecord[] =>
    (childrenOf.get(item.id) ?? []).flatMap((child) => [child, ...below(child)]);
  return {
    all,
    at: (path) => {
      const item = paths.get(path);
      if (!item) throw new Error(`demo: there is no ${path}`);
      return item;
    },
    below,
    inStore: (storeId) => all.filter((item) => item.storeId === storeId),
  };
}
