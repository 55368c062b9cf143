import fc from "fast-check";
import type { EstateRecord, GrantRecord, GroupRecord, ItemRecord, LinkRecord } from "@/core/estate/records";
import { FIRST_INSTANT, LAST_INSTANT, rfc3339 } from "@/core/time/instant";
import { grant, head, inDays, item, link, NOW, person, store } from "./records";

/**
 * Small estates in which everything happens that the model speaks of: cuts, bins, groups in circles, people
 * with two records, leavers, addresses in odd case and in letters beyond ASCII, shares that open and
 * end at the very instant.
 */
const PEOPLE = [
  person("p0", "ada@home.example"),
  person("p1", "Bea@Sub.HOME.example"),
  person("p2", "odo@quay.example"),
  person("p2b", "ODO@Quay.example", { status: "left" }),
  person("p3", "zoë@Bücher.example"),
  person("p4", "gus@post.example", { status: "left" }),
  person("p5", "ivo@quay.example", { status: "suspended" }),
];
const GROUPS = ["g0", "g1", "g2", "g3"].map((id): GroupRecord => ({ type: "group", id, name: id, storeId: "st" }));
const IDS = [...PEOPLE.map(({ id }) => id), ...GROUPS.map(({ id }) => id)];
const RECIPIENTS = [
  "ODO@quay.example",
  "new@xn--bcher-kva.example",
  "zoë@bücher.example",
  "ada@home.example",
  "gus@post.example",
];
const MOST_ITEMS = 8;

/** Just before, at and just after the instant that tests ask about, and far off. */
const near = fc.constantFrom(null, NOW, "2026-10-05T08:00:01Z", "2026-10-05T07:59:59Z", inDays(9));
/** Any instant that the estate file can hold, in seconds; those at which numbers of 31 and 32 bits end among them. */
export const anyInstant = fc.oneof(
  fc.constantFrom(FIRST_INSTANT, -1, 0, 1, 2 ** 31 - 1, 2 ** 31, 2 ** 32 - 1, 2 ** 32, LAST_INSTANT),
  fc.integer({ min: FIRST_INSTANT, max: LAST_INSTANT }),
);
const instants = fc.oneof({ weight: 3, arbitrary: near }, { weight: 1, arbitrary: anyInstant.map(rfc3339) });
const place = fc.nat(MOST_ITEMS - 1).map((n) => `i${n}`);
const principal = fc.constantFrom(...IDS);
const groupIds = fc.constantFrom(...GROUPS.map(({ id }) => id));
const rarely = fc.integer({ min: 0, max: 5 }).map((n) => n === 0);

const grants = fc
  .record({ on: place, to: principal, end: instants, revoked: instants, role: fc.constantFrom("view", "edit") })
  .map(
    ({ on, to, end, revoked, role }) =>
      (n: number): GrantRecord =>
        grant(`s${n}`, on, to, { role: role as "view", expiresAt: end, revokedAt: revoked === inDays(9) ? NOW : null }),
  );
const links = fc
  .record({
    on: place,
    reach: fc.constantFrom("open", "house", "named", "named"),
    to: fc.uniqueArray(fc.constantFrom(...RECIPIENTS), { maxLength: 3 }),
    deposit: rarely,
    password: fc.boolean(),
    opens: instants,
    end: instants,
    uses: fc.nat(1),
  })
  .map(({ on, reach, to, deposit, password, opens, end, uses }) => (n: number): LinkRecord => {
    const isDeposit = deposit && reach === "open";
    return link(`l${n}`, on, {
      reach: reach as "open",
      role: isDeposit ? "deposit" : "view",
      password,
      opensAt: opens,
      expiresAt: end,
      maxUses: uses === 1 ? 1 : null,
      uses: uses === 1 && end === null ? 1 : 0,
      recipients: reach === "named" ? to.map((email) => ({ email })) : [],
    });
  });

/** A share, whose number is still to be given; links and grants have ids of their own, as they keep for good. */
export const shares = fc.oneof(grants, links);

/** An item that hangs under one with a lower number, so that no parents go in circles. */
export const items = fc
  .record({
    parent: fc.nat(),
    cut: rarely,
    binned: rarely,
    owner: fc.constantFrom(null, null, null, null, null, "p0", "p2", "p4"),
  })
  .map(
    ({ parent, cut, binned, owner }) =>
      (n: number): ItemRecord =>
        item(`i${n}`, n === 0 || parent % (n + 2) === 0 ? null : `i${parent % n}`, {
          inherits: !cut,
          state: binned ? "binned" : "live",
          ownerId: owner,
        }),
  );

export const members = fc
  .tuple(groupIds, fc.oneof(principal, groupIds))
  .map(([groupId, memberId]) => ({ type: "member" as const, groupId, memberId }));

export const estates = fc
  .record({
    items: fc.array(items, { minLength: MOST_ITEMS, maxLength: MOST_ITEMS }),
    shares: fc.array(shares, { maxLength: 9 }),
    members: fc.uniqueArray(members, { maxLength: 9, selector: ({ groupId, memberId }) => groupId + memberId }),
  })
  .map(({ items, shares, members }): EstateRecord[] => [
    head(["Home.example"]),
    store("st", { changeReach: true }),
    ...PEOPLE,
    ...GROUPS,
    ...members,
    ...items.map((make, n) => make(n)),
    ...shares.map((make, n) => make(n)),
  ]);

/** Changes to the records of an estate, one after the other, as readings bring them. */
export const news = fc.array(
  fc.oneof(
    fc.tuple(fc.nat(11), shares).map(([n, make]): EstateRecord => make(n)),
    fc.tuple(fc.integer({ min: 1, max: MOST_ITEMS + 2 }), items).map(([n, make]): EstateRecord => make(n)),
    members,
    fc
      .constantFrom(...PEOPLE)
      .chain((one) =>
        fc
          .constantFrom("active", "left", "suspended")
          .map((status): EstateRecord => ({ ...one, status: status as "left" })),
      ),
    fc.constant<EstateRecord>(store("st", { downloadBlock: { on: ["folder"], roles: ["view"] } })),
  ),
  { minLength: 1, maxLength: 6 },
);
