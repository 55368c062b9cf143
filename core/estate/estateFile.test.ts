import fc from "fast-check";
import { file, grant, head, item, link, party, person, store } from "@/tests/records";
import type { EstateRecord } from "./records";
import { readEstateFile, recordLine } from "./estateFile";
import { linesOf as linesOfBytes } from "./lines";

const base: EstateRecord[] = [head(), store(), person("in", "in@home.example"), item("a", null), file("f", "a")];
const linesOf = (...records: unknown[]) => [...base, ...records].map((record) => JSON.stringify(record));
const problemsOf = (...records: unknown[]) => readEstateFile(linesOf(...records)).problems;

test("a good file has no problems, whatever the order behind its head", () => {
  const [first, ...rest] = linesOf(link("l", "f"), grant("g", "a", "in"));
  expect(readEstateFile([first, ...rest.reverse()])).toMatchObject({ problems: [], records: expect.any(Array) });
});

test.each([
  ["not JSON", ["{"], "not JSON"],
  ["no object", ["[]"], "not a JSON object"],
])("%s is named by its line", (_, bad, message) => {
  const { problems } = readEstateFile([...linesOf(), ...bad]);
  expect(problems).toEqual([{ line: 6, message: expect.stringContaining(message) }]);
});

const BAD: [string, unknown, string][] = [
  ["an unknown type", { type: "folder", id: "x" }, 'unknown type "folder"; known are estate, store'],
  ["a type of JavaScript's own", { type: "constructor" }, 'unknown type "constructor"'],
  [
    "a time with a fraction",
    link("l", "f", { createdAt: "2026-10-05T08:00:00.5Z" }),
    "bad value: createdAt is not a time",
  ],
  ["a time with an offset", link("l", "f", { createdAt: "2026-10-05T08:00:00+02:00" }), "bad value: createdAt"],
  ["a day that isn't", link("l", "f", { createdAt: "2026-02-30T08:00:00Z" }), "bad value: createdAt"],
  ["no address", person("p", "nobody"), "bad value: email is not an e-mail address"],
  ["a missing field", { type: "party", domain: "x.example" }, "bad value: stance"],
  ["a second head", head(), "a second estate record"],
  ["a reference to no item", link("l", "nothing"), "a reference to nothing: itemId nothing is no item here"],
  ["a reference to no person", link("l", "f", { createdBy: "nobody" }), "createdBy nobody is no person here"],
  ["a right for nobody", grant("g", "f", "nobody"), "toId nobody is no person or group here"],
  ["an id used twice", person("in", "other@home.example"), "duplicate id: person or group in is already on line 3"],
  ["a group with a person's id", { type: "group", id: "in", name: "G" }, "duplicate id: person or group in"],
  ["a reserved id", person("mailto:x", "x@home.example"), "begins with mailto:, which is reserved"],
  ["a child of a file", file("x", "f"), "parent f is a file"],
  [
    "a deposit link that isn't open",
    link("l", "f", { role: "deposit", reach: "house" }),
    "reach of a deposit link must be open",
  ],
];

test.each(BAD)("%s is refused", (_, record, message) => {
  expect(problemsOf(record)).toEqual([{ line: 6, message: expect.stringContaining(message) }]);
});

test("a grant and a link can't have the same id", () => {
  expect(problemsOf(link("s", "f"), grant("s", "f", "in"))).toMatchObject([{ line: 7 }]);
});

test("a child in another store than its parent is refused", () => {
  expect(problemsOf(store("other"), file("x", "a", { storeId: "other" }))).toEqual([
    { line: 7, message: "parent a is in store st, its child in store other" },
  ]);
});

test("a cycle of parents is refused, and what hangs below it too", () => {
  const problems = problemsOf(item("x", "y"), item("y", "x"), item("z", "y"));
  expect(problems.map(({ line }) => line)).toEqual([6, 7, 8]);
  expect(problems[0].message).toBe("a parent cycle: x lies below itself");
  expect(problems[2].message).toContain("a reference to nothing");
});

test("what refers to a bad record is bad too, and the rest is left", () => {
  const { records, problems } = readEstateFile(
    linesOf(item("b", "nothing"), file("c", "b"), link("l", "c"), link("m", "f")),
  );
  expect(problems.map(({ line }) => line)).toEqual([6, 7, 8]);
  expect(records.map((record) => record.type)).toEqual(["estate", "store", "person", "item", "item", "link"]);
});

test("the head must come first", () => {
  const { problems } = readEstateFile([JSON.stringify(store()), JSON.stringify(head())]);
  expect(problems.map(({ message }) => message)).toEqual(["the first record must be of type estate"]);
  expect(readEstateFile([])).toMatchObject({ problems: [{ line: 1 }], isHeadless: true });
});

test("a second head has no effect", () => {
  const { records, problems } = readEstateFile(linesOf(head(["other.example"])));
  expect(problems).toEqual([{ line: 6, message: "a second estate record; there may be only one" }]);
  expect(records.filter(({ type }) => type === "estate")).toEqual([head()]);
});

test("a byte-order mark is read over, and what isn't UTF-8 is named by its line", () => {
  const bytes = (text: string) => new TextEncoder().encode(text);
  const good = linesOf().join("\n");
  expect(readEstateFile(linesOfBytes([bytes(`\ufeff${good}\n`)]))).toMatchObject({ problems: [], isHeadless: false });
  const latin = Uint8Array.of(...bytes(`${good}\n{"type":"party","domain":"b`), 0xfc, ...bytes('cher.example"}\n'));
  expect(readEstateFile(linesOfBytes([latin])).problems).toEqual([
    { line: 6, message: "not UTF-8; save the file in that encoding" },
  ]);
});

test("a file has the same lines, however it is cut into pieces that are read over each other", () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom("a", "\n", "\r\n", "ü", "\ufeff", "{}"), { maxLength: 30 }),
      fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 8 }),
      (parts, lengths) => {
        const bytes = new TextEncoder().encode(parts.join(""));
        const piece = new Uint8Array(9);
        const pieces = function* () {
          for (let from = 0, n = 0; from < bytes.length; n++) {
            const one = bytes.subarray(from, from + lengths[n % lengths.length]);
            piece.set(one);
            yield piece.subarray(0, one.length);
            from += one.length;
          }
        };
        expect([...linesOfBytes(pieces())]).toEqual(
          parts
            .join("")
            .replace(/^\ufeff/, "")
            .split("\n"),
        );
      },
    ),
  );
});

test("two parties for one domain, however it is written, are refused", () => {
  expect(problemsOf(party("bücher.example", "trusted"), party("XN--BCHER-KVA.example", "denied"))).toEqual([
    { line: 7, message: "a second party for one domain: party xn--bcher-kva.example is already on line 6" },
  ]);
});

test("unknown fields are left out and counted, within lists and objects too", () => {
  const recipients = [
    { email: "a@x.example", extra: 1 },
    { email: "b@x.example", extra: 2 },
  ];
  const { records, unknownFields } = readEstateFile(
    linesOf(
      { ...link("l", "f", { reach: "named" }), recipients, colour: "red" },
      { ...file("g", "a"), colour: 1 },
      { ...store("other"), capabilities: { ...store().capabilities, teleport: true } },
    ),
  );
  expect([...unknownFields]).toEqual([
    ["link.recipients[].extra", 2],
    ["link.colour", 1],
    ["item.colour", 1],
    ["store.capabilities.teleport", 1],
  ]);
  expect(records.some((record) => "colour" in record)).toBe(false);
});

test("what the format lets be missing has its standard value", () => {
  const { inherits: _i, state: _s, ...bare } = item("b", "a");
  const { records } = readEstateFile(linesOf(bare));
  expect(records.at(-1)).toMatchObject({ inherits: true, state: "live" });
});

test("an address is a live secret: left out of a line unless asked for", () => {
  const record = link("l", "f", { address: "https://dock.example/l/1" });
  expect(recordLine(record, { withAddresses: false })).not.toContain("dock.example");
  expect(JSON.parse(recordLine(record, { withAddresses: true }))).toEqual(record);
});
