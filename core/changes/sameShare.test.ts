import { grant, link } from "@/tests/records";
import type { ShareRecord } from "../estate/records";
import { differenceWords } from "./sameShare";

const open = link("l", "f") as ShareRecord;

test("a share that was only used, or written otherwise, is the same", () => {
  const used = { ...open, uses: 9, lastUsedAt: "2026-10-04T08:00:00Z" } as ShareRecord;
  expect(differenceWords(open, used)).toBeNull();
  const named = (email: string, more: object = {}) =>
    link("n", "f", { reach: "named", recipients: [{ email, ...more }] }) as ShareRecord;
  expect(differenceWords(named("Bo@Quay.example"), named("bo@quay.example", { downloads: 3 }))).toBeNull();
});

test("in what it is otherwise is told with both versions", () => {
  const now = { ...open, role: "edit", expiresAt: "2026-12-24T00:00:00Z" } as ShareRecord;
  expect(differenceWords(open, now)).toBe("role was view, is edit; end was none, is 24 Dec 2026, 00:00 UTC");
  const narrowed = { ...open, reach: "named", recipients: [{ email: "bo@quay.example" }] } as ShareRecord;
  expect(differenceWords(open, narrowed)).toBe("reach was open, is named; for was nobody by name, is bo@quay.example");
  const right = grant("g", "f", "out") as ShareRecord;
  expect(differenceWords(right, { ...right, revokedAt: "2026-10-04T08:00:00Z" })).toBe(
    "state was in force, is revoked",
  );
});
