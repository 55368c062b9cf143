import { createHash } from "node:crypto";
import { detailHash, parted, whole } from "./details";
import { KINDS } from "./kinds";

const salt = Uint8Array.from({ length: 16 }, (_, i) => i);
const made = {
  ...{ engagement: "e1", name: "Tour with Quay", organisations: ["quay.example"], items: ["f1"] },
  ...{ starts: "2026-10-05T08:00:00Z", ends: "2026-10-06T08:00:00Z", responsible: "ida@home.example" },
};

test("what can name somebody outside stands beside a body, which has its salted hash instead", () => {
  const { body, detail } = parted(KINDS["engagement-made"], made, () => salt);
  const text = '{"name":"Tour with Quay","organisations":["quay.example"]}';
  expect(detail).toEqual({ text, salt });
  expect(body).toEqual({
    ...{ engagement: "e1", items: ["f1"], starts: made.starts, ends: made.ends, responsible: made.responsible },
    detail: createHash("sha256").update(salt).update(text).digest("hex"),
  });
  expect(detailHash(detail!)).toBe(body.detail);
  expect(whole(body, text)).toEqual(made);
  expect(whole(body, null)).toEqual({ ...body, detail: undefined });
});

test("a body that names nobody stays as it is, and takes no salt", () => {
  const fail = () => {
    throw new Error("no salt was needed");
  };
  const body = { shareId: "s", itemName: undefined };
  expect(parted(KINDS["standing-order-dropped"], body, fail)).toEqual({ body: { shareId: "s" }, detail: null });
  expect(whole("x", null)).toBe("x");
});

/** Fields that hold words, addresses and changes of whoever is outside, by what stands under Proof. */
const NAMES_OUTSIDE = [
  "query",
  "search",
  "text",
  "reason",
  "changes",
  "change",
  "answer",
  "probe",
  "domain",
  "domains",
  "note",
  "organisations",
];

test("no field that can name somebody outside stays in a body, whatever the kind", () => {
  for (const [kind, schema] of Object.entries(KINDS)) {
    const named = Object.keys(schema.shape).filter((field) => NAMES_OUTSIDE.includes(field));
    const isId = (field: string) => kind === "passphrase-shown" && field === "change";
    const isHome = (field: string) => kind === "home-domains-set" && field === "domains";
    const isCount = (field: string) => field === "changes" && /^(docket-(approval|taken|undo)|directory)/.test(kind);
    const isAsked = (field: string) => kind.startsWith("approval") && field === "reason";
    const outside = named.filter((field) => !isHome(field) && !isCount(field) && !isId(field) && !isAsked(field));
    const { body } = parted(
      schema,
      Object.fromEntries(outside.map((field) => [field, "out@quay.example"])),
      () => salt,
    );
    expect([kind, JSON.stringify(body)]).toEqual([kind, expect.not.stringContaining("quay")]);
  }
});
