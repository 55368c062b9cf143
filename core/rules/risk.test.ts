import { estateOf, file, grant, inDays, item, link, named, party, T } from "@/tests/records";
import type { EstateRecord, Label, LinkRecord } from "../estate/records";
import { combine, type Level, LEVELS, riskOf } from "./risk";

/**
 * NIST SP 800-30 Rev. 1, Table I-2, cell by cell, written down here from memory of the publication and
 * apart from the code: rows are likelihood, columns impact from very low to very high.
 */
const TABLE: [Level, Level[]][] = [
  ["very-high", ["very-low", "low", "moderate", "high", "very-high"]],
  ["high", ["very-low", "low", "moderate", "high", "very-high"]],
  ["moderate", ["very-low", "low", "moderate", "moderate", "high"]],
  ["low", ["very-low", "low", "low", "low", "moderate"]],
  ["very-low", ["very-low", "very-low", "very-low", "low", "low"]],
];

describe("Table I-2", () => {
  const cells = TABLE.flatMap(([likelihood, row]) => row.map((risk, i) => [likelihood, LEVELS[i], risk] as const));
  test.each(cells)("likelihood %s and impact %s make %s", (likelihood, impact, risk) => {
    expect(combine(likelihood, impact)).toBe(risk);
  });
});

function riskOfShare(share: EstateRecord & { id: string }, label: Label, ...more: EstateRecord[]): Level {
  const estate = estateOf(item("a", null, { label }), file("f", "a"), share, ...more);
  return riskOf(estate, estate.share(share.id)!, T);
}

describe("an open link", () => {
  const open = (label: Label, more: Partial<LinkRecord> = {}) => riskOfShare(link("l", "f", more), label);

  test.each([
    ["public", "very-low"],
    ["internal", "moderate"],
    ["confidential", "high"],
    ["restricted", "very-high"],
  ] as const)("to something %s is %s", (label, risk) => expect(open(label)).toBe(risk));

  test("is less likely to do harm with a password, and with a near end", () => {
    // Very high, less a step for each, is moderate; with a very high impact that is high.
    expect(open("restricted", { password: true, expiresAt: inDays(30) })).toBe("high");
    expect(open("restricted", { password: true, expiresAt: inDays(31) })).toBe("very-high");
  });

  test("does more harm where it may edit, less where a download is blocked", () => {
    expect(open("internal", { role: "edit" })).toBe("high");
    expect(open("confidential", { download: false })).toBe("moderate");
  });
});

describe("a share for named outsiders", () => {
  const to = (email: string, label: Label, ...more: EstateRecord[]) =>
    riskOfShare(named("l", "f", [email]), label, ...more);

  test("is moderately likely to do harm", () => expect(to("a@quay.example", "restricted")).toBe("high"));
  test("more likely where one is of a personal or denied party", () => {
    expect(to("a@quay.example", "restricted", party("quay.example", "denied"))).toBe("very-high");
    expect(to("a@quay.example", "confidential", party("quay.example", "personal"))).toBe("high");
  });
  test("less likely where all are of trusted parties", () => {
    expect(to("a@quay.example", "restricted", party("quay.example", "trusted"))).toBe("moderate");
  });
  test("steps add up, and the scale has an end", () => {
    const near = grant("g", "f", "out", { expiresAt: inDays(3) });
    // Moderate, less one for the end and one for trust, is very low; with a very high impact that is low.
    expect(riskOfShare(near, "restricted", party("quay.example", "trusted"))).toBe("low");
    expect(riskOfShare(grant("g", "f", "out", { role: "manage" }), "restricted")).toBe("high");
  });
});
