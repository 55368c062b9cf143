import type {
  Capabilities,
  GrantRecord,
  ItemRecord,
  LinkRecord,
  PersonRecord,
  Reach,
  ShareRecord,
} from "../core/estate/records";
import type { Calendar } from "./calendar";
import type { Items } from "./items";
import { DEPARTMENTS, type Organisation, OUTSIDE, type OutsideDomain } from "./organisation";
import { passwordFacts } from "../standins/store/passwords";
import { TELLS_PASSWORDS } from "../standins/store/stores";
import type { Random } from "./random";

/** The one password of nearly every keyed link in the demo, so that it can be tried; and of a few, a worse one. */
export const DEMO_PASSWORD = "tern-gravel-lantern-oboe";
const WEAK_PASSWORD = "concert2026";
const WEAK_LINKS = 3;

export interface Shares {
  all: ShareRecord[];
  /** Passwords by the ids of their links. */
  passwords: Map<string, string>;
}

type Limits = Record<string, Capabilities>;

/** Makes the shares of the demo: some with a story of their own, the rest spread as in life. */
export function makeShares(
  random: Random,
  calendar: Calendar,
  organisation: Organisation,
  items: Items,
  limits: Limits,
): Shares {
  const maker = new ShareMaker(random, calendar, limits);
  tellStories(maker, random, organisation, items);
  for (const department of DEPARTMENTS) {
    const space = items.at(department);
    maker.grant(space, organisation.group(department).id, { role: "edit", by: space.ownerId!, ageDays: 424 });
  }
  while (maker.all.length < 2_200) ordinary(maker, random, organisation, items);
  for (const share of maker.all) if (!share.revokedAt && random.chance(0.07)) maker.takeBack(share);
  tellLate(maker, organisation);
  return { all: maker.all, passwords: passwordsOf(maker.all) };
}

/** What is told of shares that are there already, so that it shifts none of the others. */
function tellLate({ all }: ShareMaker, organisation: Organisation) {
  const [lookAlike] = organisation.at("quay-ha11.example");
  const linksFor = (domain: OutsideDomain) =>
    all.filter(
      (one): one is LinkRecord =>
        one.type === "link" && !one.revokedAt && one.recipients.some(({ email }) => email.endsWith(`@${domain}`)),
    );
  for (const link of linksFor("quay-hall.example").slice(0, 2)) link.recipients.push({ email: lookAlike.email });
  // Somebody who passes for a firm, and a firm's own second domain, which is harmless.
  linksFor("quayside-staging.example")[1].recipients.push({ email: "office@quayside-staging-files.example" });
  linksFor("opera-vell.example")[1].recipients.push({ email: "tickets@operavell.example" });
}

/** Gives each keyed link its password, and says how good it is where the store tells that. */
function passwordsOf(all: ShareRecord[]): Map<string, string> {
  const keyed = all.filter((one) => one.type === "link" && one.password) as LinkRecord[];
  const telling = keyed.filter(({ passwordLength, revokedAt }) => passwordLength && !revokedAt);
  for (const link of telling.slice(0, WEAK_LINKS)) Object.assign(link, passwordFacts(WEAK_PASSWORD));
  const isWeak = ({ passwordCommon }: LinkRecord) => passwordCommon === true;
  return new Map(keyed.map((link) => [link.id, isWeak(link) ? WEAK_PASSWORD : DEMO_PASSWORD]));
}

interface Given {
  role?: string;
  by: string;
  ageDays: number;
  ends?: number | null;
  used?: number | null;
  download?: boolean;
}

class ShareMaker {
  readonly all: ShareRecord[] = [];
  private next = 1;

  constructor(
    private readonly random: Random,
    private readonly calendar: Calendar,
    private readonly limits: Limits,
  ) {}

  /** `ends` in days from today (negative: past), `used` in days ago; null is never. */
  grant(item: ItemRecord, toId: string, given: Given): GrantRecord {
    const role = (given.role ?? "view") as GrantRecord["role"];
    const canEnd = this.limits[item.storeId].grantExpiry.includes(role);
    const grant: GrantRecord = {
      type: "grant",
      id: `s${String(this.next++).padStart(5, "0")}`,
      itemId: item.id,
      toId,
      role,
      download: given.download ?? true,
      expiresAt: canEnd && given.ends != null ? this.calendar.inDays(given.ends) : null,
      grantedBy: given.by,
      grantedAt: this.calendar.daysAgo(given.ageDays),
      lastUsedAt: this.used(given),
    };
    this.all.push(grant);
    return grant;
  }

  link(
    item: ItemRecord,
    reach: Reach,
    given: Given & {
      password?: boolean;
      listed?: boolean;
      to?: PersonRecord[];
      maxUses?: number;
      uses?: number;
      opens?: number;
      message?: string;
    },
  ): LinkRecord {
    const limits = this.limits[item.storeId];
    const lastUsedAt = this.used(given);
    const link: LinkRecord = {
      type: "link",
      id: `s${String(this.next++).padStart(5, "0")}`,
      itemId: item.id,
      reach,
      role: (given.role ?? "view") as LinkRecord["role"],
      password: (given.password ?? false) && limits.linkPassword && reach === "open",
      download: given.download ?? true,
      opensAt: given.opens != null && limits.startTime ? this.calendar.inDays(given.opens) : null,
      expiresAt: limits.linkExpiry.includes(reach) && given.ends != null ? this.calendar.inDays(given.ends) : null,
      maxUses: limits.maxUses ? (given.maxUses ?? null) : null,
      uses: given.uses ?? (lastUsedAt ? this.random.between(1, 60) : 0),
      listed: given.listed ?? false,
      recipients: (given.to ?? []).map(({ email }) => ({
        email,
        ...(lastUsedAt && limits.perRecipientUse && this.random.chance(0.7)
          ? {
              firstOpenedAt: this.calendar.daysAgo(given.ageDays),
              lastOpenedAt: lastUsedAt,
              downloads: this.random.between(0, 5),
            }
          : {}),
      })),
      createdBy: given.by,
      createdAt: this.calendar.daysAgo(given.ageDays),
      lastUsedAt,
      address: this.random.token(14),
      // Of a link that takes files: without words of ours its visitors read the store's.
      ...(given.role === "deposit" && { message: given.message ?? null }),
    };
    if (link.password && item.storeId === TELLS_PASSWORDS) Object.assign(link, passwordFacts(DEMO_PASSWORD));
    this.all.push(link);
    return link;
  }

  /** Revokes a share at some time between its making and today. */
  takeBack(share: ShareRecord) {
    const madeAt = Date.parse(share.type === "link" ? share.createdAt : share.grantedAt);
    const ageDays = (Date.parse(this.calendar.today) - madeAt) / 86_400_000;
    share.revokedAt = this.calendar.daysAgo(ageDays * this.random.next() * 0.8);
  }

  private used({ used, ageDays }: Given): string | null {
    return used == null ? null : this.calendar.daysAgo(Math.min(used, ageDays));
  }
}

/** What a tour of the demo shows: each kind of finding, and the cases that are easy to get wrong. */
function tellStories(maker: ShareMaker, random: Random, organisation: Organisation, items: Items) {
  const touring = organisation.inDepartment("Touring");
  const passports = items.at("Touring / Coastal tour / Travel / Passport scans");
  const hall = organisation.at("quay-hall.example");

  // An open link to a folder of passport scans, of a tour that is over.
  maker.link(passports, "open", { by: touring[1].id, ageDays: 310, ends: null, used: 264 });
  // One person, three ways in to one folder: by name, through a group two levels down, by a link.
  const production = items.at("Artistic Planning / Opera co-production / Stage plots");
  const builder = organisation.at("quayside-staging.example")[0];
  maker.grant(production, builder.id, { role: "view", by: touring[0].id, ageDays: 120, used: 3 });
  maker.grant(items.at("Artistic Planning / Opera co-production"), organisation.group("Programme makers").id, {
    role: "edit",
    by: touring[0].id,
    ageDays: 140,
    used: 2,
  });
  maker.link(production, "named", { to: [builder, hall[0]], by: touring[2].id, ageDays: 60, used: 9 });
  // A folder share that undoes the download blocks of its files.
  const seating = items.at("Development / Gala / Seating");
  const gala = organisation.at("ferrant-events.example");
  for (const file of items.below(seating).slice(0, 8))
    maker.link(file, "named", {
      to: gala.slice(0, 2),
      download: false,
      by: organisation.inDepartment("Development")[0].id,
      ageDays: 40,
      used: 4,
    });
  maker.grant(seating, gala[0].id, {
    role: "view",
    by: organisation.inDepartment("Development")[0].id,
    ageDays: 38,
    used: 4,
    ends: 6,
  });
  // A leaver with forty links.
  const leaver = organisation.insiders[14];
  const files = items.inStore("stacks").filter((item) => item.kind === "file" && item.state === "live");
  for (let i = 0; i < 40; i++)
    maker.link(random.pick(files), "open", {
      by: leaver.id,
      ageDays: random.between(320, 400),
      used: random.chance(0.4) ? null : random.between(60, 300),
      ends: null,
    });
  // A rival orchestra, a look-alike of a partner's domain, and an outsider who may manage.
  for (const rival of organisation.at("northgate-symphony.example"))
    maker.grant(items.at("Artistic Planning / Seasons / Season 27-28"), rival.id, {
      by: touring[3].id,
      ageDays: 200,
      used: 150,
    });
  maker.link(items.at("Finance / Venues"), "named", {
    to: [...hall.slice(0, 2), ...organisation.at("quay-ha11.example")],
    by: organisation.inDepartment("Finance")[1].id,
    ageDays: 21,
    used: 20,
  });
  for (const agent of organisation.at("tessel-artists.example").slice(0, 2))
    maker.grant(items.at("Artistic Planning / Guest artists"), agent.id, {
      role: "manage",
      by: organisation.inDepartment("Artistic Planning")[2].id,
      ageDays: 90,
      used: 5,
    });
  // The public pictures: quite in order.
  maker.link(items.at("Press / Public / Pictures, season 26-27"), "open", {
    by: organisation.inDepartment("Press")[0].id,
    ageDays: 80,
    used: 0,
    ends: 24,
  });
  // Confidential things that the whole house finds by searching.
  for (const item of items
    .inStore("alcoves")
    .filter((one) => one.name === "Private")
    .slice(0, 7))
    maker.link(item, "house", {
      by: item.ownerId!,
      ageDays: random.between(20, 200),
      listed: true,
      used: random.between(1, 40),
    });
  // More links on one item than anybody can keep in mind.
  for (const path of ["Press / Releases", "Touring / Coastal tour / Itineraries", "Artistic Planning / Programmes"])
    for (let i = 0; i < 8; i++)
      maker.link(items.at(path), "open", {
        by: random.pick(organisation.insiders).id,
        ageDays: random.between(30, 300),
        used: random.between(1, 200),
        ends: random.pick([10, null, 90]),
      });
  // Links through which files come in, with and without what they should have.
  const videos = items.at("Intake, audition videos");
  const planner = organisation.inDepartment("Artistic Planning")[4].id;
  maker.link(videos, "open", {
    ...{ role: "deposit", by: planner, ageDays: 12, password: true, ends: 18, used: 1 },
    message:
      "Hedda Tarnbrook of the Wrenmoor Philharmonic asks for your audition video by 10 December. If you didn’t apply, ask her first: hedda.tarnbrook@wrenmoor.example.",
  });
  maker.link(items.at("Intake, scores by composers"), "open", {
    role: "deposit",
    by: planner,
    ageDays: 150,
    ends: null,
    used: 2,
  });
  maker.link(items.at("Intake, stage plans"), "open", {
    role: "deposit",
    by: planner,
    ageDays: 70,
    ends: 120,
    used: 6,
  });
  maker.link(items.at("Intake, stage plans"), "open", { by: planner, ageDays: 65, ends: null, used: 30 });
  // Parents of youth players, through a group.
  maker.grant(items.at("Learning / Youth exchange"), organisation.group("Youth parents").id, {
    by: organisation.inDepartment("Learning")[0].id,
    ageDays: 100,
    used: 1,
    ends: 60,
  });
  maker.grant(items.at("Touring / Winter tour"), organisation.group("Production").id, {
    role: "edit",
    by: touring[0].id,
    ageDays: 60,
    used: 1,
    ends: 100,
  });
}

const ENDS = [3, 9, 14, 21, 27, 60, 120, 200, 365, -4, -30, -90];

/** One share such as people make every day: more inside than outside, some with care and some without. */
function ordinary(maker: ShareMaker, random: Random, organisation: Organisation, items: Items) {
  const item = random.pick(items.all);
  if (item.parentId === null) return;
  const by = random.chance(0.75) && item.ownerId ? item.ownerId : random.pick(organisation.insiders).id;
  const ageDays = Math.min(random.between(1, 420), ageOf(random));
  const used = random.chance(0.22) ? null : Math.floor(random.next() ** 3 * ageDays);
  const ends = random.chance(0.45) ? random.pick(ENDS) : null;
  const given = { by, ageDays, used, ends, download: !random.chance(0.3) };
  const domains = (Object.keys(OUTSIDE) as OutsideDomain[]).filter(
    (domain) => !["rival", "look-alike"].includes(OUTSIDE[domain].role),
  );
  const outsiders = random.some(organisation.at(random.pick(domains)), random.between(1, 3));
  const kind = random.next();
  if (item.storeId === "dock" || kind < 0.19) {
    const password = random.chance(0.4);
    const cap = random.chance(0.25) ? random.between(5, 40) : undefined;
    const role = item.storeId !== "dock" && random.chance(0.12) ? "edit" : "view";
    maker.link(item, "open", {
      ...given,
      role,
      password,
      maxUses: cap,
      uses: cap && random.chance(0.3) ? cap : undefined,
      opens: random.chance(0.1) ? -ageDays + 1 : undefined,
    });
  } else if (kind < 0.37)
    maker.link(item, "named", { ...given, to: outsiders, role: random.chance(0.2) ? "edit" : "view" });
  else if (kind < 0.45) maker.link(item, "named", { ...given, to: random.some(organisation.insiders, 2) });
  else if (kind < 0.56)
    maker.link(item, "house", { ...given, listed: item.storeId === "alcoves" && random.chance(0.5) });
  else if (kind < 0.72)
    maker.grant(item, random.pick(outsiders).id, { ...given, role: random.pick(["view", "view", "comment", "edit"]) });
  else if (kind < 0.82)
    maker.grant(item, random.pick(organisation.groups).id, { ...given, role: random.pick(["view", "edit"]) });
  else
    maker.grant(item, random.pick(organisation.insiders).id, {
      ...given,
      role: random.pick(["view", "comment", "edit", "manage"]),
    });
}

/** Sharing has grown: most shares are younger than half a year. */
function ageOf(random: Random): number {
  return 1 + Math.floor(random.next() ** 1.6 * 418);
}
