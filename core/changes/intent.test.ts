import { z } from "zod";
import { estateOf, file, grant, group, inDays, item, link, named, NOW, person, T } from "@/tests/records";
import { subjectOf } from "./change";
import { previewOf } from "../preview/preview";
import { type Intent, intendedChanges, intentSchema } from "./intent";

const estate = estateOf(
  person("ida", "ida@home.example"),
  person("ivo", "ivo@home.example"),
  person("odo", "odo@quay.example"),
  person("una", "una@quay.example"),
  person("gus", "gus@post.example"),
  item("tour", null, { ownerId: "ida" }),
  item("cut", "tour", { ownerId: "ida", inherits: false }),
  file("plan", "cut", { ownerId: "ivo" }),
  file("gone", "tour", { state: "binned" }),
  ...group("crew", "odo", "ivo").map((one) => (one.type === "group" ? { ...one, storeId: "st" } : one)),
  grant("own", "tour", "ida", { role: "manage" }),
  grant("g1", "tour", "odo"),
  grant("g2", "plan", "crew"),
  grant("g3", "cut", "una", { revokedAt: NOW }),
  link("o", "tour", { createdBy: "ida" }),
  link("other", "tour", { createdBy: "ivo" }),
  named("n", "plan", ["odo@quay.example", "gus@post.example"]),
  named("both", "plan", ["ODO@quay.example", "una@quay.example"]),
  link("broken", "gone"),
  link("over", "plan", { expiresAt: NOW }),
  link("used", "plan", { maxUses: 1, uses: 1 }),
  link("later", "plan", { expiresAt: inDays(1) }),
);

function wished(intent: Intent) {
  return intendedChanges(estate, intent, T)?.map((change) => `${change.action} ${subjectOf(change)}`);
}

test("an item is sealed with or without all below, cut off from above or not; its owner's grant stays", () => {
  expect(wished({ action: "seal", itemId: "tour", below: false })!.sort()).toEqual([
    "revoke g1",
    "revoke o",
    "revoke other",
  ]);
  const all = wished({ action: "seal", itemId: "tour", below: true })!;
  expect(all).toEqual(expect.arrayContaining(["revoke g2", "revoke n", "revoke later", "revoke broken"]));
  expect(all).not.toContain("revoke own");
  expect(all).not.toContain("revoke g3");
  expect(wished({ action: "seal", itemId: "nothing", below: false })).toBeUndefined();
});

test("a person is cut off from grants, links and groups; a link for nobody else goes with them", () => {
  expect(wished({ action: "cut-off", address: "Odo@Quay.example" })).toEqual([
    "revoke g1",
    "drop-recipient n without odo@quay.example",
    "drop-recipient both without odo@quay.example",
    "leave-group crew without odo@quay.example",
  ]);
  const organisation = wished({ action: "cut-off-organisation", organisation: "quay.example" })!;
  expect(organisation).toEqual([
    "revoke g1",
    "drop-recipient n without odo@quay.example",
    "revoke both",
    "leave-group crew without odo@quay.example",
  ]);
  expect(wished({ action: "cut-off", address: "nobody@quay.example" })).toBeUndefined();
});

test("who is cut off reaches nothing by name any more", () => {
  const changes = intendedChanges(estate, { action: "cut-off", address: "odo@quay.example" }, T)!;
  const { people } = previewOf(estate, changes, T);
  const odo = people.find(({ address }) => address === "odo@quay.example")!;
  // The open links on "tour" reach it and nothing else: what lies below is cut off from above.
  expect(odo.ways.map(({ share }) => share).sort()).toEqual(["later", "o", "other"]);
});

test("an item goes to another owner with the links that the one before made, and all that somebody owns", () => {
  expect(
    intendedChanges(estate, { action: "hand-over", itemId: "tour", address: "ivo@home.example", links: [] }, T),
  ).toEqual([{ action: "hand-over", itemId: "tour", address: "ivo@home.example", links: ["o"] }]);
  expect(wished({ action: "hand-over-all", from: "ida@home.example", address: "ivo@home.example" })).toEqual([
    "hand-over owner of tour",
    "hand-over owner of cut",
  ]);
});

test("links that let nobody in any more are cleared, and no others", () => {
  expect(wished({ action: "clear" })).toEqual(["revoke broken", "revoke over", "revoke used"]);
});

test("what is not asked for rightly is told with the place; what only an undo does can't be asked for", () => {
  const problemOf = (intent: object) => z.prettifyError(intentSchema.safeParse(intent).error!);
  expect(problemOf({ action: "revoke" })).toContain("shareId");
  expect(problemOf({ action: "seal", itemId: "tour" })).toContain("below");
  expect(problemOf({ action: "put-back", shareId: "o", was: { role: "edit" } })).toContain("action");
});
