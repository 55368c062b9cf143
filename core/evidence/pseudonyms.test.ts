import { createHmac } from "node:crypto";
import fc from "fast-check";
import { getDomain } from "tldts";
import { grant, head, link, named, party, person } from "@/tests/records";
import { recordSchemas } from "../estate/records";
import { Pseudonyms } from "./pseudonyms";

const of = (key: string) =>
  new Pseudonyms((text) => createHmac("sha256", key).update(text).digest("hex"), ["home.example"]);
const naming = of("a");

test("an outsider has the same pseudonym however their address is written, and another one in another pack", () => {
  const name = naming.address("Odile@Quay.example");
  expect(name).toMatch(/^p-[0-9a-f]{16}@o-[0-9a-f]{16}\.invalid$/);
  expect(naming.address(" odile@quay.example ")).toBe(name);
  expect(of("b").address("odile@quay.example")).not.toBe(name);
  expect(naming.address("Ida@sub.home.example")).toBe("Ida@sub.home.example");
});

test("people of one organisation stay together, and others apart", () => {
  const organisation = (address: string) => getDomain(naming.address(address));
  expect(organisation("a@quay.example")).toBe(organisation("b@post.quay.example"));
  expect(organisation("a@quay.example")).not.toBe(organisation("a@wharf.example"));
  expect(organisation("a@quay.example")).toBe(naming.domain("quay.example"));
});

test("words about whom a share is for keep their shape", () => {
  const quay = naming.domain("quay.example");
  naming.record(person("o", "odile@quay.example", { name: "Odile, Carrow" }));
  expect(naming.audience("Odile, Carrow, quay.example")).toBe(`${naming.address("odile@quay.example")}, ${quay}`);
  expect(naming.audience("3 at quay.example, 1 in-house")).toBe(`3 at ${quay}, 1 in-house`);
  expect(naming.audience("Ida, in-house")).toBe("Ida, in-house");
  expect(naming.audience("Whoever has the address")).toBe("Whoever has the address");
  expect(naming.audience("Nobody met before, quay.example")).toMatch(/^p-[0-9a-f]{16}, o-/);
  expect(naming.text("for:odile@quay.example (reach:open)")).toBe(
    `for:${naming.address("odile@quay.example")} (reach:open)`,
  );
});

test("records stay records, and outsiders are in none of them", () => {
  const records = [
    head(),
    person("mailto:odile@quay.example", "odile@quay.example", { name: "Odile", department: "Quay's own" }),
    person("ida", "ida@home.example", { name: "Ida" }),
    grant("g", "f", "mailto:odile@quay.example"),
    named("n", "f", ["odile@quay.example", "ida@home.example"]),
    link("l", "f", { createdBy: "mailto:odile@quay.example" }),
    party("quay.example", "trusted"),
  ];
  const hidden = records.map((record) => naming.record(record));
  for (const record of hidden) expect(recordSchemas[record.type].safeParse(record).success).toBe(true);
  expect(JSON.stringify(hidden)).not.toMatch(/odile|quay/i);
  expect(hidden[2]).toEqual(records[2]);
  // What one speaks of, another still tells of.
  const [, outsider, , right] = hidden as [unknown, { id: string }, unknown, { toId: string }];
  expect(right.toId).toBe(outsider.id);
});

test("no address outside is left in any text, and what is written is left out", () => {
  const part = fc.stringMatching(/^[a-z]{1,8}$/);
  fc.assert(
    fc.property(fc.array(fc.tuple(part, part)), fc.constantFrom(" ", ", ", "; ", " (", ") "), (people, between) => {
      const addresses = people.map(([name, domain]) => `${name}@${domain}.example`);
      const text = naming.text(addresses.join(between));
      for (const address of addresses)
        if (!address.endsWith("@home.example")) expect(` ${text} `).not.toMatch(new RegExp(`[^\\w-]${address}[^\\w-]`));
    }),
  );
  expect([naming.written("For Odile"), naming.written(""), naming.written(null)]).toEqual(["(left out)", "", null]);
});
