import { parse } from "csv-parse/sync";
import fc from "fast-check";
import { firstRowsOf, guessEncoding, guessSeparator, rowsOf, SEPARATORS, Unreadable } from "./file";

/** A file in pieces that are cut anywhere, in the middle of a character too. */
function pieces(bytes: Uint8Array, size: number): Uint8Array[] {
  return Array.from({ length: Math.ceil(bytes.length / size) }, (_, i) => bytes.subarray(i * size, (i + 1) * size));
}

const cell = fc.oneof(
  fc.constantFrom(
    "",
    "plain",
    "with space",
    '"',
    'say "no"',
    "a,b",
    "a;b",
    "a\tb",
    "two\nlines",
    "two\r\nlines",
    "Zürich €",
  ),
  fc.string({ maxLength: 6 }).map((text) => text.replace(/[\r\ufeff]/g, "")),
);

test("rows are those that csv-parse 7.0.3 reads, whatever the file is cut into", () => {
  fc.assert(
    fc.property(
      fc.array(fc.array(cell, { minLength: 2, maxLength: 4 }), { minLength: 1, maxLength: 8 }),
      fc.constantFrom(...SEPARATORS),
      fc.constantFrom("\n", "\r\n"),
      fc.integer({ min: 1, max: 40 }),
      fc.boolean(),
      (rows, separator, newline, size, endsOpen) => {
        const quoted = rows.map((row) => row.map((text) => `"${text.replaceAll('"', '""')}"`).join(separator));
        const text = quoted.join(newline) + (endsOpen ? "" : newline);
        const read = [...rowsOf(pieces(Buffer.from(text), size), { encoding: "utf-8", separator })].flat();
        const wanted = parse(text, { delimiter: separator, record_delimiter: newline, relax_column_count: true });
        expect(read).toEqual(wanted);
        expect(read).toEqual(rows);
      },
    ),
    { numRuns: 500 },
  );
});

test("cells without quotes, and empty lines, are read as csv-parse reads them", () => {
  const text = 'a,b\n\n1, 2\n3,4" wide\n';
  const read = [...rowsOf([Buffer.from(text)], { encoding: "utf-8", separator: "," })].flat();
  const wanted: string[][] = parse(text, { relax_column_count: true, relax_quotes: true, skip_empty_lines: true });
  expect(read.filter((row) => row.join("") !== "")).toEqual(wanted);
  // An empty line is a row all the same: rows are numbered as a spreadsheet numbers them.
  expect(read).toHaveLength(4);
});

test("rows that are only counted are as many as are read, and what can’t be read is said of the same row", () => {
  // Now and then a cell is quoted, and now and then a quote is wrong.
  const line = fc.oneof(
    { weight: 20, arbitrary: fc.constantFrom("a,b", "", "1, 2", 'wide 4",5') },
    { weight: 4, arbitrary: fc.constantFrom('"a","b"', '"two\nlines",x', '"say ""no""",', '"a" ,b', ',""') },
    { weight: 1, arbitrary: fc.constantFrom('"open', '"a"b,c') },
  );
  const told = (read: () => unknown) => {
    try {
      return read();
    } catch (error) {
      if (error instanceof Unreadable) return error.message;
      throw error;
    }
  };
  let counted = 0;
  fc.assert(
    fc.property(
      fc.array(line, { maxLength: 200 }),
      fc.constantFrom("\n", "\r\n", "\r"),
      fc.integer({ min: 1, max: 400 }),
      fc.integer({ min: 0, max: 3 }),
      fc.boolean(),
      (lines, newline, size, most, endsOpen) => {
        const file = pieces(Buffer.from(lines.join(newline) + (endsOpen ? "" : newline)), size);
        const written = { encoding: "utf-8", separator: "," } as const;
        const wanted = told(() => {
          const rows = [...rowsOf(file, written)].flat();
          return { rows: rows.slice(0, most), count: rows.length };
        });
        expect(told(() => firstRowsOf(file, written, most))).toEqual(wanted);
        if (typeof wanted !== "string") counted++;
      },
    ),
    { numRuns: 1_000 },
  );
  expect(counted).toBeGreaterThan(100);
});

test("encodings by their marks, by zeros, and by what is well-formed", () => {
  const text = "Path;Rôle\n/Zürich;€\n";
  const utf16 = Buffer.from(text, "utf16le");
  const swapped = Buffer.from(utf16).swap16();
  expect(guessEncoding(Buffer.from(text), true)).toBe("utf-8");
  expect(guessEncoding(utf16, true)).toBe("utf-16le");
  expect(guessEncoding(swapped, true)).toBe("utf-16be");
  expect(guessEncoding(Buffer.from(text, "latin1"), true)).toBe("windows-1252");
  // A character that is only cut is no bad one.
  const half = Buffer.from(text).subarray(0, Buffer.from("Path;Rô").length - 1);
  expect([guessEncoding(half, false), guessEncoding(half, true)]).toEqual(["utf-8", "windows-1252"]);
});

test("the mark of an encoding is no part of the first heading", () => {
  const read = (bytes: Uint8Array) =>
    [...rowsOf([bytes], { encoding: guessEncoding(bytes, true), separator: ";" })].flat()[0];
  for (const bytes of [
    Buffer.from("\ufeffPath;Role\n"),
    Buffer.from("\ufeffPath;Role\n", "utf16le"),
    Buffer.from("\ufeffPath;Role\n", "utf16le").swap16(),
  ])
    expect(read(bytes)).toEqual(["Path", "Role"]);
});

test("separators by what gives most rows the same number of cells", () => {
  expect(guessSeparator("Report, made today\nPath;Role\n/a, b;view\n/c;view\n")).toBe(";");
  expect(guessSeparator("Path\tRole\n/a; b, c\tview\n")).toBe("\t");
  expect(guessSeparator("Path,Role\n/a,view\n")).toBe(",");
});
