import { Random } from "../demo/random";
import type { EstateRecord, Label, Role } from "../core/estate/records";

/** How heavy a generated estate is: like life, only larger. */
const ITEMS_A_SHARE = 4;
const ITEMS_A_PERSON = 50;
const ITEMS_A_GROUP = 500;
const OUTSIDE = 0.3;
const CUT = 0.03;
/** One space holds this much of everything, as the oldest space of a house does. */
const LARGEST_SPACE = 0.5;
/** People share folders more often than files (common practice, no source). */
const ON_A_FOLDER = 0.5;
/** One group of partners holds this much of all outsiders. */
const PARTNERS = 1 / 6;
/** Insiders to a manager: of a million items' 14,000 insiders 5,600 manage somebody. */
const TO_A_MANAGER = 2.5;
const DEPTH = 12;
const NESTING = 5;
const DEPARTMENTS = 40;
const SYLLABLES = "ba de fi go lu ma ne pi ro su ta ve wi xo yu ze".split(" ");
const WORDS = 4_096;
const MADE = "2026-01-01T00:00:00Z";
const LABELS: (Label | null)[] = [null, null, null, null, null, null, null, "public", "confidential", "restricted"];
const ROLES: Role[] = ["view", "view", "comment", "edit"];

/**
 * An estate of any size, the same for one seed: items in a tree of up to twelve levels, nested groups, shares.
 * @param size how many items it has
 * @param firms how many organisations outside it has, with one and a half people each; else some, with eight people each
 */
export function* generateEstate(
  size: number,
  seed = 1,
  shares = size / ITEMS_A_SHARE,
  firms?: number,
): Generator<EstateRecord> {
  const random = new Random(seed);
  const usual = Math.max(10, Math.round(size / ITEMS_A_PERSON));
  const groups = Math.max(5, Math.round(size / ITEMS_A_GROUP));
  const outsiders = firms === undefined ? Math.round(usual * OUTSIDE) : Math.round(firms * 1.5);
  const people = usual - Math.round(usual * OUTSIDE) + outsiders;
  const domainOf = (i: number) =>
    firms === undefined ? `org${i % Math.max(1, Math.round(outsiders / 8))}.example` : firmDomain(i % firms);
  yield { type: "estate", version: 1, asOf: "2026-10-05T08:00:00Z", homeDomains: ["home.example"] };
  yield { type: "store", id: "st", name: "Store", capabilities: CAPABLE };
  for (let i = 0; i < people; i++) {
    const domain = i < outsiders ? domainOf(i) : "home.example";
    yield {
      type: "person",
      id: `p${i}`,
      email: `p${i}@${domain}`,
      name: `Person ${i}`,
      status: "active",
      department: `Department ${i % DEPARTMENTS}`,
      managerId: managerOf(i, outsiders),
    };
  }
  yield* groupRecords(random, groups, people, outsiders);
  const folders: number[] = [];
  yield* itemRecords(random, size, people, outsiders, folders);
  for (let i = 0; i < shares; i++) {
    const item = random.chance(ON_A_FOLDER) ? random.pick(folders) : random.between(0, size - 1);
    yield share(i, `i${item}`, random, people, groups, outsiders);
  }
}

const FIRST_FIRM = 7_919;
const NAMES_OF_FIRMS = 16 ** 5;

/** The domain of a firm by its number: five syllables, so that few are a letter away from another. */
export function firmDomain(i: number): string {
  const syllables = (((i + 1) * FIRST_FIRM) % NAMES_OF_FIRMS).toString(SYLLABLES.length).padStart(5, "0");
  return `${Array.from(syllables, (digit) => SYLLABLES[Number.parseInt(digit, SYLLABLES.length)]).join("")}.example`;
}

/** Two or three insiders have the first of them as manager, and all of these the first of all. */
function managerOf(i: number, outsiders: number): string | null {
  const at = i - outsiders;
  if (at <= 0) return null;
  const manager = Math.floor(Math.floor(at / TO_A_MANAGER) * TO_A_MANAGER);
  return `p${outsiders + (manager === at ? 0 : manager)}`;
}

/** Groups stand in five layers; each may hold groups of the layer below, so none is nested deeper. */
function* groupRecords(random: Random, groups: number, people: number, outsiders: number): Generator<EstateRecord> {
  for (let i = 0; i < groups; i++) {
    yield { type: "group", id: `g${i}`, name: `Group ${i}` };
    const hasOutsiders = random.chance(OUTSIDE);
    for (let n = random.between(3, 20); n > 0; n--) {
      const isOutsider = hasOutsiders && random.chance(0.3);
      const member = isOutsider ? random.between(0, outsiders - 1) : random.between(outsiders, people - 1);
      yield { type: "member", groupId: `g${i}`, memberId: `p${member}` };
    }
    if (i === 0)
      for (let member = 0; member < outsiders * PARTNERS; member++)
        yield { type: "member", groupId: "g0", memberId: `p${member}` };
    if (i % NESTING > 0 && random.chance(0.5)) yield { type: "member", groupId: `g${i}`, memberId: `g${i - 1}` };
  }
}

/** @param folders is filled with the numbers of the folders */
function* itemRecords(
  random: Random,
  size: number,
  people: number,
  outsiders: number,
  folders: number[],
): Generator<EstateRecord> {
  const depth = new Uint8Array(size);
  for (let i = 0; i < size; i++) {
    const isTop = i === 0 || (i >= LARGEST_SPACE * size && i % 5_000 === 0);
    const parent = isTop
      ? -1
      : folders[Math.max(0, folders.length - 1 - Math.floor(random.next() ** 2 * Math.min(folders.length, 400)))];
    depth[i] = parent < 0 ? 1 : depth[parent] + 1;
    const isFolder = isTop || (depth[i] < DEPTH && random.chance(0.2));
    if (isFolder) folders.push(i);
    yield {
      type: "item",
      id: `i${i}`,
      storeId: "st",
      parentId: parent < 0 ? null : `i${parent}`,
      kind: isTop ? "space" : isFolder ? "folder" : "file",
      name: isFolder ? phrase(random) : `${phrase(random)} ${i}.pdf`,
      ownerId: isTop ? `p${random.between(outsiders, people - 1)}` : null,
      label: random.pick(LABELS),
      inherits: !random.chance(CUT),
      state: "live",
      createdAt: MADE,
      modifiedAt: MADE,
    };
  }
}

/** Two or three words of a made-up language, of which some come far more often than others. */
function phrase(random: Random): string {
  return Array.from({ length: random.between(2, 3) }, () => {
    const word = Math.floor(random.next() ** 3 * WORDS);
    return SYLLABLES[word % 16] + SYLLABLES[(word >> 4) % 16] + SYLLABLES[word >> 8];
  }).join(" ");
}

/** A day within the year before the estate's instant. */
function dayBefore(random: Random): string {
  return `2025-${random.pick(["10", "11", "12"])}-${random.between(10, 28)}T08:00:00Z`;
}

function share(
  i: number,
  itemId: string,
  random: Random,
  people: number,
  groups: number,
  outsiders: number,
): EstateRecord {
  const expiresAt = random.chance(0.4)
    ? `2026-${random.pick(["09", "10", "11", "12"])}-${random.between(10, 28)}T00:00:00Z`
    : null;
  const download = random.chance(0.7);
  const isOutside = random.chance(OUTSIDE);
  const lastUsedAt = random.chance(0.8)
    ? `2026-0${random.between(1, 9)}-${random.between(10, 28)}T${random.between(10, 23)}:00:00Z`
    : null;
  const by = `p${random.between(outsiders, people - 1)}`;
  const link = {
    type: "link" as const,
    id: `s${i}`,
    itemId,
    role: "view" as const,
    password: random.chance(0.3),
    download,
    opensAt: null,
    expiresAt,
    maxUses: null,
    uses: 0,
    listed: false,
    createdBy: by,
    createdAt: dayBefore(random),
    lastUsedAt,
  };
  if (isOutside && random.chance(0.3)) return { ...link, reach: "open", recipients: [] };
  if (isOutside && random.chance(0.4))
    return { ...link, reach: "named", recipients: [{ email: emailOf(random.between(0, outsiders - 1), outsiders) }] };
  const toGroup = random.chance(0.2);
  const person = isOutside ? random.between(0, outsiders - 1) : random.between(outsiders, people - 1);
  const toId = toGroup ? `g${random.between(0, groups - 1)}` : `p${person}`;
  return {
    type: "grant",
    id: `s${i}`,
    itemId,
    toId,
    role: random.pick(ROLES),
    download,
    expiresAt,
    grantedBy: by,
    grantedAt: dayBefore(random),
    lastUsedAt,
  };
}

function emailOf(outsider: number, outsiders: number): string {
  return `p${outsider}@org${outsider % Math.max(1, Math.round(outsiders / 8))}.example`;
}

const CAPABLE = {
  openLinks: true,
  houseLinks: true,
  namedLinks: true,
  intakeLinks: true,
  linkPassword: true,
  linkExpiry: ["open" as const, "house" as const, "named" as const],
  grantExpiry: ["view" as const, "comment" as const, "edit" as const],
  minExpiryLeadHours: 0,
  downloadBlock: { on: ["file" as const, "folder" as const, "space" as const], roles: ["view" as const] },
  maxUses: true,
  startTime: true,
  lastUse: true,
  perRecipientUse: true,
};
