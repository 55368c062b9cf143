import fc from "fast-check";
import { type EstateRecord, KINDS, LABELS, REACHES, ROLES } from "@/core/estate/records";
import { readRules, type RuleSet, standardOf } from "@/core/rules/findings";
import { RULE_IDS } from "@/core/rules/list";
import { file, grant, group, head, inDays, item, link, party, person, store } from "./records";

const mostly = fc.integer({ min: 0, max: 4 }).map((n) => n > 0);
/** Stores of every sort: what one can do another can't. */
const some = <X>(...among: X[]) => fc.subarray(among);
const stores = fc
  .record({
    openLinks: mostly,
    namedLinks: fc.boolean(),
    maxUses: fc.boolean(),
    startTime: fc.boolean(),
    linkPassword: fc.boolean(),
    changeReach: fc.boolean(),
    linkExpiry: some(...REACHES),
    grantExpiry: some(...ROLES),
    minExpiryLeadHours: fc.constantFrom(0, 24, 24 * 60),
    downloadBlock: fc.record({ on: some(...KINDS), roles: some("view" as const, "comment" as const) }),
  })
  .map((capabilities) => ({ ...store("st", capabilities), region: "elsewhere" }));

const places = fc.constantFrom("top", "mid", "leaf");
const ends = fc.constantFrom(null, inDays(3), inDays(20), inDays(200));
const used = fc.constantFrom(null, inDays(-1), inDays(-100));
const shares = fc.array(
  fc.oneof(
    fc.record({
      itemId: places,
      reach: fc.constantFrom(...REACHES),
      role: fc.constantFrom("view", "comment", "edit", "deposit"),
      password: fc.boolean(),
      passwordLength: fc.constantFrom(null, 8, 20),
      passwordMark: fc.constantFrom(null, "0123abcd"),
      download: fc.boolean(),
      expiresAt: ends,
      lastUsedAt: used,
      listed: fc.boolean(),
      createdBy: fc.constantFrom("in", "left"),
      recipients: fc.subarray(["odo@quay.example", "gus@post.example", "vex@rival.example", "ada@home.example"]),
    }),
    fc.record({
      itemId: places,
      toId: fc.constantFrom("out", "gus", "vex", "crew", "in", "spoof"),
      role: fc.constantFrom(...ROLES),
      download: fc.boolean(),
      expiresAt: ends,
      lastUsedAt: used,
    }),
  ),
  { minLength: 1, maxLength: 8 },
);
const labels = fc.tuple(...[0, 1, 2].map(() => fc.constantFrom(null, ...LABELS)));

/** Small estates in a store of any sort, with whoever somebody may share with. */
export const estatesOfAnyStore = fc.tuple(stores, shares, labels).map(([of, given, [a, b, c]]): EstateRecord[] => [
  head(),
  of,
  person("in", "in@home.example"),
  person("left", "left@home.example", { status: "left" }),
  person("out", "odo@quay.example"),
  person("gus", "gus@post.example"),
  person("vex", "vex@rival.example"),
  person("spoof", "odo@qυay.example"),
  party("post.example", "personal"),
  party("rival.example", "denied"),
  party("quay.example", "trusted"),
  ...group("crew", "in", "vex").map((one) => (one.type === "group" ? { ...one, storeId: "st" } : one)),
  item("top", null, { label: a, ownerId: "in" }),
  item("mid", "top", { label: b }),
  file("leaf", "mid", { label: c }),
  ...given.map((one, n): EstateRecord => {
    if ("toId" in one) return grant(`s${n}`, one.itemId, one.toId, one);
    const reach = one.role === "deposit" ? "open" : one.reach;
    const recipients = reach === "named" ? one.recipients.map((email) => ({ email })) : [];
    return link(`s${n}`, one.itemId, { ...one, reach, recipients, role: one.role as "view" });
  }),
]);

/** All rules, also those that are off until somebody turns them on. */
export const ALL_RULES: RuleSet = {
  ...Object.fromEntries(RULE_IDS.map((id) => [id, standardOf(id)])),
  ...readRules({ "store-abroad": { regions: ["home"] } }),
};
