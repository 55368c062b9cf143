import type { EventRecord, ShareRecord } from "../core/estate/records";
import type { Calendar } from "./calendar";
import type { Organisation } from "./organisation";
import type { Random } from "./random";

const COUNT = 25_000;

/** Fourteen months of events: the making and taking back of every share, and its use in between. */
export function makeEvents(
  random: Random,
  calendar: Calendar,
  organisation: Organisation,
  shares: ShareRecord[],
  arrivals: EventRecord[],
): EventRecord[] {
  const events: EventRecord[] = [...arrivals];
  const byId = new Map([...organisation.insiders, ...organisation.outsiders].map((person) => [person.id, person]));
  const add = (at: string, share: ShareRecord, verb: string, actorId: string | null, actorEmail: string | null) =>
    events.push({ type: "event", id: "", at, actorId, actorEmail, verb, itemId: share.itemId, shareId: share.id });

  for (const share of shares) {
    const [by, at] = share.type === "link" ? [share.createdBy, share.createdAt] : [share.grantedBy, share.grantedAt];
    add(at, share, share.type === "link" ? `shared-${share.reach}` : "granted", by, byId.get(by)?.email ?? null);
    if (share.revokedAt) add(share.revokedAt, share, "revoked", by, byId.get(by)?.email ?? null);
  }
  const used = shares.filter((share) => share.lastUsedAt);
  while (events.length < COUNT) {
    const share = random.pick(used);
    const from = Date.parse(share.type === "link" ? share.createdAt : share.grantedAt);
    const to = Date.parse(share.lastUsedAt!);
    const days = (Date.parse(calendar.today) - (from + random.next() * (to - from))) / 86_400_000;
    const user = userOf(random, organisation, share);
    const verb = share.download && random.chance(0.35) ? "downloaded" : "opened";
    // Nobody opens anything with an intake link: what came by it is told apart.
    if (share.role !== "deposit") add(calendar.daysAgo(days), share, verb, user?.id ?? null, user?.email ?? null);
  }
  events.sort((a, b) => (a.at < b.at ? -1 : 1));
  events.forEach((event, index) => (event.id = `a${String(index + 1).padStart(6, "0")}`));
  return events;
}

function userOf(random: Random, organisation: Organisation, share: ShareRecord) {
  if (share.type === "grant")
    return [...organisation.insiders, ...organisation.outsiders].find((one) => one.id === share.toId);
  if (share.recipients.length > 0) {
    const { email } = random.pick(share.recipients);
    return [...organisation.insiders, ...organisation.outsiders].find((one) => one.email === email);
  }
  return share.reach === "house" ? random.pick(organisation.insiders) : undefined;
}
