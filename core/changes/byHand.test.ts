import { file, grant, inDays, link, named } from "@/tests/records";
import type { Change } from "./change";
import { isSeenDone, type Known } from "./byHand";

const shareId = "l";
const of = (more: object = {}): Known => ({ share: link("l", "f", more), item: null });
const two = (...emails: string[]): Known => ({ share: named("l", "f", emails), item: null });

test.each<[Change, Known, Known]>([
  [{ action: "revoke", shareId }, of({ expiresAt: inDays(1) }), of({ revokedAt: inDays(-1) })],
  [
    { action: "set-expiry", shareId, expiresAt: inDays(9) },
    of({ expiresAt: inDays(10) }),
    of({ expiresAt: inDays(8) }),
  ],
  [{ action: "set-expiry", shareId, expiresAt: inDays(9) }, of(), of({ revokedAt: inDays(-1) })],
  [{ action: "set-password", shareId }, of(), of({ password: true })],
  [{ action: "block-download", shareId }, of(), of({ download: false })],
  [{ action: "set-role", shareId, role: "comment" }, of({ role: "edit" }), of({ role: "view" })],
  [
    { action: "narrow", shareId, addresses: ["Bo@quay.example"] },
    two("bo@quay.example", "x@y.example"),
    two("bo@Quay.example"),
  ],
  [{ action: "drop-recipient", shareId, address: "bo@quay.example" }, two("BO@quay.example"), two("cy@quay.example")],
  [
    { action: "stop-inheriting", itemId: "f" },
    { share: null, item: file("f", null) },
    { share: null, item: file("f", null, { inherits: false }) },
  ],
])("%j is seen done by what is known, and not before", (change, before, after) => {
  expect([isSeenDone(change, before), isSeenDone(change, after)]).toEqual([false, true]);
});

test("of what a file doesn't show nothing is believed", () => {
  expect(isSeenDone({ action: "leave-group", groupId: "g", address: "bo@quay.example" }, of())).toBe(false);
  expect(
    isSeenDone({ action: "make-link", shareId, addresses: ["bo@quay.example"] }, of({ revokedAt: inDays(-1) })),
  ).toBe(false);
  expect(isSeenDone({ action: "revoke", shareId }, { share: null, item: null })).toBe(false);
  expect(isSeenDone({ action: "set-password", shareId }, { share: grant("l", "f", "out"), item: null })).toBe(false);
});
